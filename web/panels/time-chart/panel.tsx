import { lazy, Suspense } from "react";
import { ChartBar, ChartColumn, ChartLine, ChartNoAxesCombined, TrendingUp, UnfoldVertical } from "lucide-react";
import { deltaStyle, valueStyle, type NumberStyle } from "#core/formats/number-words.ts";
import { intervalsAt } from "#core/panels/time-chart/intervals-at.ts";
import { listed } from "#core/formats/listed.ts";
import { timeChartTable } from "#core/panels/time-chart/table.ts";
import { STACKINGS, type Stacking } from "#core/panels/parts/stacking.ts";
import { OutsideSign, RangeSign } from "../../chart-kit/outside-mark.tsx";
import { DyeMark } from "../../chart-kit/page-dyes.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { IconButton } from "../../ui/form.tsx";
import type { ScenarioCode } from "#core/compare/scenario-code.ts";
import { LegendMark } from "../../figures/scenario-mark.tsx";
import { useSize } from "../../ui/use-size.ts";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { partDye } from "./part-dye.ts";
import { STACKING_WORDS } from "../../chart-kit/stacking-words.ts";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { ChartSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { pickHandlers } from "../../chart-kit/pick-handlers.ts";
import { fittingMarks } from "./fitting-marks.ts";
import { MOVING_COLOUR, RIGHT_COLOUR, TREND_COLOUR } from "./marks.tsx";
import { leastBarsHeight } from "./layout-bars.ts";
import { PeriodBars } from "./period-bars.tsx";
import { TimeChart } from "./time-chart.tsx";
import { usePreview } from "./use-preview.ts";
import {
  TIME_STRIPS,
  type TimeMarks,
  type TimeStrip,
  type ChartPart,
  type TimeChartAnswer,
} from "#core/panels/time-chart/schema.ts";

const LEAST_HEIGHT = 200;

// Only charts that look ahead need them.
const AheadBar = lazy(() => import("./ahead-bar.tsx"));
const NotesDrawer = lazy(() => import("./notes-drawer.tsx"));

/** One KPI over time with its variance strip, as chart or as table of numbers. */
export default function TimeChartPanel(view: PanelProps<"time-chart">) {
  return (
    <PanelSheet
      view={view}
      label="Over time"
      table={timeChartTable}
      skeleton={<ChartSkeleton label="The chart is being calculated" height={160} />}
    >
      {(data, part) => <Chart view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

function Chart({
  view: { panel, choice, picked, actions },
  data: answer,
  part,
}: {
  view: PanelProps<"time-chart">;
  data: TimeChartAnswer;
  part: TimeChartAnswer | undefined;
}) {
  const { data, settings, drag } = usePreview(answer);
  const fan = choice.fan ?? "all";
  const [{ width, height }, holder] = useSize();
  const { marks, why } = fittingMarks(choice.marks ?? panel.marks ?? usualMarks(data), data, width);
  const least = marks === "bars" ? Math.max(LEAST_HEIGHT, leastBarsHeight(data.points.length)) : LEAST_HEIGHT;
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  const dStyle = deltaStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  const hasFigures = data.points.some((p) =>
    [p.actual, p.forecast, p.budget, p.target, p.priorYear].some((f) => "value" in f),
  );
  const rightStyle = data.right && valueStyle(data.right.kpi.unit, data.right.kpi.decimals, data.frame.unit);
  const isFaded = ({ dimension, member }: ChartPart) => {
    const chosen = dimension === null ? undefined : picked[dimension];
    return chosen !== undefined && !chosen.includes(member?.key ?? "");
  };
  const drawn = { data, part, style, deltaStyle: dStyle } as const;
  const ask = (months: string) => actions.ask(formatFigureAddress(data.kpi.key, "actual", months));
  return (
    <ChartBody
      words={{ acrossTitle: panel.acrossTitle, hidesLegend: panel.hidesLegend }}
      legend={
        <Legend
          data={data}
          asLine={marks === "lines"}
          shows={marks === "bars" ? ["actual", "forecast", data.frame.basisCode] : null}
          isFaded={isFaded}
          pick={actions.pick}
          hasPart={part !== undefined}
        />
      }
      aside={<SeriesWords data={data} marks={marks} onChoose={actions.choose} />}
      signs={
        <>
          <ShownAs marks={marks} isAlone={data.parts.length === 0} onChoose={actions.choose} />
          {data.parts.length === 0 && (
            <IconButton
              label="Expected range"
              isOn={data.band !== null}
              onClick={() => actions.choose({ range: data.band ? "off" : "on" })}
            >
              <UnfoldVertical size={15} />
            </IconButton>
          )}
          <IconButton
            label="Look ahead"
            isOn={data.ahead !== null}
            onClick={() => actions.choose({ ahead: data.ahead ? "off" : "on", notes: undefined })}
          >
            <TrendingUp size={15} />
          </IconButton>
        </>
      }
      below={
        data.ahead && (
          <Suspense fallback={<div className="waiting mx-4 h-6" />}>
            <AheadBar
              {...{ data, settings, fan }}
              onDrag={drag}
              onChoose={actions.choose}
              split={panel.split ?? null}
              onNotes={() => actions.choose({ notes: choice.notes === "open" ? undefined : "open" })}
            />
          </Suspense>
        )
      }
      isTable={isTable}
      onTable={toggleTable}
      table={() => timeChartTable(data)}
      caption={`${data.kpi.name} in ${style.unitName}; Δ ${data.basisName} in ${dStyle.unitName}`}
      style={style}
      deltaStyle={dStyle}
      money={data.frame.unit}
      refusal={
        hasFigures
          ? null
          : {
              title: "No period has a figure here",
              detail: "Choose another span, scope or KPI.",
            }
      }
      foot={
        <>
          {data.pins.length > 0 && <PinList data={data} />}
          {data.ahead && choice.notes === "open" && (
            <Suspense>
              <NotesDrawer
                data={data}
                ahead={data.ahead}
                style={style}
                onClose={() => actions.choose({ notes: undefined })}
              />
            </Suspense>
          )}
        </>
      }
      notes={why === null ? data.notes : [why, ...data.notes]}
    >
      <div ref={holder} data-fill={least} className="relative mt-2 flex-1" style={{ minHeight: least }}>
        {width > 0 && (
          <div className="absolute inset-0">
            {marks === "bars" ? (
              <PeriodBars
                key={data.kpi.key}
                {...drawn}
                width={width}
                height={Math.max(least, height)}
                onTable={toggleTable}
                onAsk={ask}
              />
            ) : (
              <TimeChart
                key={data.kpi.key}
                {...drawn}
                marks={marks}
                rightStyle={rightStyle}
                isFaded={isFaded}
                width={width}
                height={Math.max(least, height)}
                hasLabels={panel.hasLabels !== false}
                axisTitle={panel.axisTitle ?? axisTitleOf(data, marks, style)}
                fan={fan}
                onTable={toggleTable}
                onAsk={ask}
              />
            )}
          </div>
        )}
      </div>
    </ChartBody>
  );
}

/** How several series stand, and what stands below them. */
function SeriesWords({
  data,
  marks,
  onChoose,
}: {
  data: TimeChartAnswer;
  marks: TimeMarks;
  onChoose: PanelProps<"time-chart">["actions"]["choose"];
}) {
  return (
    <>
      {data.parts.length > 0 && marks !== "lines" && (
        <ChoiceWord
          label="Series"
          words={STACKING_WORDS[data.stacking]}
          choices={STACKINGS.map((key) => ({ key, name: STACKING_WORDS[key] }))}
          chosen={data.stacking}
          onChoose={(stacking) => onChoose({ stacking: stacking as Stacking })}
          className="meaning-word"
        />
      )}
      {data.strip && marks !== "bars" && (
        <ChoiceWord
          label="Below"
          words={STRIP_WORDS[data.strip.kind]}
          choices={TIME_STRIPS.map((key) => ({ key, name: STRIP_WORDS[key] }))}
          chosen={data.strip.kind}
          onChoose={(strip) => onChoose({ strip: strip as TimeStrip })}
          className="meaning-word"
        />
      )}
    </>
  );
}

/** The notes that stand at periods, by the numbers that stand there. */
function PinList({ data: { pins, points } }: { data: TimeChartAnswer }) {
  return (
    <ol aria-label="Notes" className="mt-1 space-y-0.5 px-4 text-[12.5px]">
      {pins.map(({ period, text }, i) => (
        <li key={i}>
          <span className="font-semibold">{i + 1}</span>{" "}
          <span className="text-slate">{points.find((point) => point.period === period)?.name}:</span> {text}
        </li>
      ))}
    </ol>
  );
}

const STRIP_WORDS: Readonly<Record<TimeStrip, string>> = {
  delta: "Δ below",
  "delta-percent": "Δ% below",
  growth: "growth below",
  "growth-on-year": "growth on prior year below",
  none: "nothing below",
};

/** Several series stand on an axis that names its unit, since their headline speaks of one. */
function axisTitleOf(data: TimeChartAnswer, marks: TimeMarks, style: NumberStyle): string | undefined {
  if (data.parts.length === 0) return undefined;
  return data.stacking === "share" && marks !== "lines" ? "% of the whole" : style.unitName;
}

/** Rates are drawn as lines where nothing else is said: they do not stand on a ground. */
function usualMarks({ kpi: { unit } }: TimeChartAnswer): TimeMarks {
  return unit.kind === "percent" || unit.kind === "money-per" || unit.kind === "ratio" ? "lines" : "columns";
}

/** The ways to draw it; the table of numbers is one more, beside them. */
function ShownAs({
  marks,
  isAlone,
  onChoose,
}: {
  marks: TimeMarks;
  /** Whether there is one series alone, which can be drawn as both. */
  isAlone: boolean;
  onChoose: PanelProps<"time-chart">["actions"]["choose"];
}) {
  const ways = [
    { key: "columns", label: "Columns", Sign: ChartColumn },
    { key: "lines", label: "Lines", Sign: ChartLine },
    ...(isAlone
      ? ([
          { key: "both", label: "Columns and lines", Sign: ChartNoAxesCombined },
          { key: "bars", label: "Bars", Sign: ChartBar },
        ] as const)
      : []),
  ] as const;
  return ways.map(({ key, label, Sign }) => (
    <IconButton key={key} label={label} isOn={marks === key} onClick={() => onChoose({ marks: key })}>
      <Sign size={15} />
    </IconButton>
  ));
}

function Legend({
  data,
  asLine,
  shows,
  hasPart,
  isFaded,
  pick,
}: {
  data: TimeChartAnswer;
  asLine: boolean;
  /** The scenarios that are drawn; all where nothing is said. */
  shows: readonly ScenarioCode[] | null;
  /** Whether the weighed part is drawn too. */
  hasPart: boolean;
  isFaded: (part: ChartPart) => boolean;
  pick: PanelProps<"time-chart">["actions"]["pick"];
}) {
  if (data.parts.length > 0)
    return (
      <ul className="flex flex-wrap gap-x-3 gap-y-0.5 text-[12.5px]">
        {data.parts.map((part) => (
          <li key={part.key}>
            <PartName part={part} isFaded={isFaded(part)} pick={pick} />
          </li>
        ))}
        <OverlayNames data={data} />
        {asLine && <IntervalName data={data} />}
      </ul>
    );
  const has = (pick: (p: TimeChartAnswer["points"][number]) => object) => data.points.some((p) => "value" in pick(p));
  const entries: { code: ScenarioCode; name: string; isThere: boolean }[] = [
    { code: "actual", name: data.actualName, isThere: has((p) => p.actual) },
    { code: "forecast", name: data.forecastName ?? "Forecast", isThere: has((p) => p.forecast) },
    { code: "budget", name: "Budget", isThere: has((p) => p.budget) },
    { code: "target", name: "Target", isThere: has((p) => p.target) },
    { code: "prior-year", name: "Prior year", isThere: has((p) => p.priorYear) },
  ];
  return (
    <ul className="flex flex-wrap gap-x-3.5 gap-y-1 text-[12.5px]">
      {entries
        .filter((e) => e.isThere && (shows === null || shows.includes(e.code)))
        .map((e) => (
          <li key={e.code} className="flex items-center gap-1.5">
            <LegendMark code={e.code} asLine={asLine} />
            {e.name}
          </li>
        ))}
      {hasPart && (
        <li className="flex items-center gap-1.5">
          <svg aria-hidden="true" width="12" height="11">
            {asLine ? (
              <path d="M0 5.5h12" stroke="var(--indigo)" strokeOpacity=".7" strokeWidth="1" />
            ) : (
              <rect width="11" height="11" fill="var(--indigo)" />
            )}
          </svg>
          the chosen part
        </li>
      )}
      {shows === null && <OverlayNames data={data} />}
      <IntervalName data={data} />
    </ul>
  );
}

/** What the fan holds. */
function IntervalName({ data: { ahead } }: { data: TimeChartAnswer }) {
  const whole = ahead?.series[0];
  if (!whole) return null;
  const levels = intervalsAt(whole, 0).map(({ level }) => `${level}%`);
  if (levels.length === 0) return null;
  return (
    <li className="flex items-center gap-1.5">
      <svg aria-hidden="true" width="14" height="11" fill="var(--indigo)">
        <rect width="14" height="11" fillOpacity=".17" />
        <rect y="3" width="14" height="5" fillOpacity=".25" />
      </svg>
      holds {listed(levels)} of what comes
    </li>
  );
}

/** A series by its colour; a member's narrows the page. */
function PartName({
  part,
  isFaded,
  pick,
}: {
  part: ChartPart;
  isFaded: boolean;
  pick: PanelProps<"time-chart">["actions"]["pick"];
}) {
  const { at, name, dimension, member } = part;
  return (
    <span className={`flex min-h-[24px] items-center gap-1.5 ${isFaded ? "text-slate" : ""}`}>
      <DyeMark of={partDye(part)} at={at} name={name} isFaded={isFaded} />
      {!member || dimension === null || !pick ? (
        name
      ) : (
        <button
          type="button"
          className="min-h-[24px] hover:underline"
          {...pickHandlers(pick, { dimension, member: member.key, name })}
        >
          {name}
        </button>
      )}
    </span>
  );
}

function OverlayNames({ data: { moving, trend, right, band } }: { data: TimeChartAnswer }) {
  const lines = [
    moving && { key: "moving", colour: MOVING_COLOUR, dash: undefined, words: moving.name },
    trend && { key: "trend", colour: TREND_COLOUR, dash: "6 3", words: `Trend: ${trend.words}` },
    right && { key: "right", colour: RIGHT_COLOUR, dash: undefined, words: `${right.kpi.name}, at the right` },
  ].flatMap((line) => line ?? []);
  return (
    <>
      {lines.map(({ key, colour, dash, words }) => (
        <li key={key} className="flex items-center gap-1.5">
          <svg aria-hidden="true" width="16" height="11">
            <path d="M0 5.5h16" stroke={colour} strokeWidth="1.8" strokeDasharray={dash} />
          </svg>
          {words}
        </li>
      ))}
      {band && (
        <li className="flex items-center gap-1.5">
          <RangeSign />
          expected, {band.level}%
        </li>
      )}
      {band?.points.some((point) => point?.isOutside) && (
        <li className="flex items-center gap-1.5">
          <OutsideSign />
          outside
        </li>
      )}
    </>
  );
}
