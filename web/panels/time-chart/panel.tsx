import { ChartColumn, ChartLine, ChartNoAxesCombined, Table2 } from "lucide-react";
import { deltaStyle, valueStyle, type NumberStyle } from "#core/words/number-words.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/compute.ts";
import { timeChartTable } from "#core/panels/time-chart/table.ts";
import { STACKINGS, type Stacking } from "#core/panels/parts/stacking.ts";
import { TIME_STRIPS, type TimeMarks, type TimeStrip } from "#core/panels/time-chart/definition.ts";
import type { ChartPart } from "#core/panels/time-chart/several.ts";
import { dyeOf } from "../../charts/dyes.ts";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { IconButton } from "../../ui/form.tsx";
import { Notice } from "../../ui/notice.tsx";
import { LegendMark, type ScenarioCode } from "../../ui/scenario-mark.tsx";
import { useSize } from "../../ui/use-size.ts";
import { formatFigureAddress } from "../figure-address.ts";
import { NumbersTable } from "../numbers-table.tsx";
import { ChartSkeleton } from "../chart-skeleton.tsx";
import { PanelSheet } from "../panel-sheet.tsx";
import type { PanelProps } from "../panel-view.ts";
import { pickHandlers } from "../pick-handlers.ts";
import { MOVING_COLOUR, RIGHT_COLOUR, TREND_COLOUR } from "./marks.tsx";
import { TimeChart } from "./time-chart.tsx";

const LEAST_HEIGHT = 200;

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
  data,
  part,
}: {
  view: PanelProps<"time-chart">;
  data: TimeChartAnswer;
  part: TimeChartAnswer | undefined;
}) {
  const marks = choice.marks ?? panel.marks ?? usualMarks(data);
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const [{ width, height }, holder] = useSize();
  const withDecimals = (style: NumberStyle): NumberStyle =>
    panel.decimals === undefined ? style : { ...style, decimals: panel.decimals };
  const style = withDecimals(valueStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit));
  const dStyle = withDecimals(deltaStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit));
  const hasFigures = data.points.some((p) =>
    [p.actual, p.forecast, p.budget, p.target, p.priorYear].some((f) => "value" in f),
  );
  const rightStyle = data.right && valueStyle(data.right.kpi.unit, data.right.kpi.decimals, data.frame.unit);
  const isFaded = ({ dimension, member }: ChartPart) => {
    const chosen = dimension === null ? undefined : picked[dimension];
    return chosen !== undefined && !chosen.includes(member?.key ?? "");
  };
  const drawn = { data, part, marks, style, rightStyle, deltaStyle: dStyle, isFaded } as const;
  return (
    <div
      className="flex min-h-0 flex-1 flex-col px-4 pb-2"
      onKeyDown={(event) => {
        if (isTable && event.key === "t") toggleTable();
      }}
    >
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Legend
          data={data}
          asLine={marks === "lines"}
          isFaded={isFaded}
          pick={actions.pick}
          hasPart={part !== undefined}
        />
        {data.parts.length > 0 && marks !== "lines" && (
          <ChoiceWord
            label="Series"
            words={STACKING_WORDS[data.stacking]}
            choices={STACKINGS.map((key) => ({ key, name: STACKING_WORDS[key] }))}
            chosen={data.stacking}
            onChoose={(stacking) => actions.choose({ stacking: stacking as Stacking })}
            className="meaning-word"
          />
        )}
        {data.strip && (
          <ChoiceWord
            label="Below"
            words={STRIP_WORDS[data.strip.kind]}
            choices={TIME_STRIPS.map((key) => ({ key, name: STRIP_WORDS[key] }))}
            chosen={data.strip.kind}
            onChoose={(strip) => actions.choose({ strip: strip as TimeStrip })}
            className="meaning-word"
          />
        )}
        <ShownAs
          marks={marks}
          isAlone={data.parts.length === 0}
          isTable={isTable}
          onChoose={actions.choose}
          onTable={toggleTable}
        />
      </div>
      {!hasFigures ? (
        <div className="py-12">
          <Notice
            title="No period has a figure here"
            detail="Choose another span, scope or KPI; the figures of the scorecard say what is missing."
          />
        </div>
      ) : isTable ? (
        <NumbersTable
          table={timeChartTable(data)}
          caption={`${data.kpi.name} in ${style.unitName}; Δ ${data.basisName} in ${dStyle.unitName}`}
          style={style}
          deltaStyle={dStyle}
          money={data.frame.unit}
        />
      ) : (
        <div ref={holder} data-fill={LEAST_HEIGHT} className="relative mt-2 flex-1" style={{ minHeight: LEAST_HEIGHT }}>
          {width > 0 && (
            <div className="absolute inset-0">
              <TimeChart
                key={data.kpi.key}
                {...drawn}
                width={width}
                height={Math.max(LEAST_HEIGHT, height)}
                hasLabels={panel.hasLabels !== false}
                axisTitle={panel.axisTitle ?? axisTitleOf(data, marks, style)}
                onTable={toggleTable}
                onAsk={(months) => actions.ask(formatFigureAddress(data.kpi.key, "actual", months))}
              />
            </div>
          )}
        </div>
      )}
      {!isTable && data.pins.length > 0 && (
        <ol aria-label="Notes" className="mt-1 space-y-0.5 text-[12.5px]">
          {data.pins.map(({ period, text }, i) => (
            <li key={i}>
              <span className="font-semibold">{i + 1}</span>{" "}
              <span className="text-slate">{data.points.find((point) => point.period === period)?.name}:</span> {text}
            </li>
          ))}
        </ol>
      )}
      {data.notes.length > 0 && (
        <ul className="mt-2 space-y-0.5 border-t border-thread pt-2 text-[12.5px] text-slate">
          {data.notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

const STACKING_WORDS: Readonly<Record<Stacking, string>> = {
  clustered: "beside each other",
  stacked: "on top of each other",
  share: "as shares of the whole",
};
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

function ShownAs({
  marks,
  isAlone,
  isTable,
  onChoose,
  onTable,
}: {
  marks: TimeMarks;
  /** Whether there is one series alone, which can be drawn as both. */
  isAlone: boolean;
  isTable: boolean;
  onChoose: PanelProps<"time-chart">["actions"]["choose"];
  onTable: () => void;
}) {
  return (
    <div className="ml-auto flex gap-0.5" role="group" aria-label="Shown as">
      <IconButton
        label="Columns"
        isOn={!isTable && marks === "columns"}
        onClick={() => onChoose({ marks: "columns", table: undefined })}
      >
        <ChartColumn size={15} />
      </IconButton>
      <IconButton
        label="Lines"
        isOn={!isTable && marks === "lines"}
        onClick={() => onChoose({ marks: "lines", table: undefined })}
      >
        <ChartLine size={15} />
      </IconButton>
      {isAlone && (
        <IconButton
          label="Columns and lines"
          isOn={!isTable && marks === "both"}
          onClick={() => onChoose({ marks: "both", table: undefined })}
        >
          <ChartNoAxesCombined size={15} />
        </IconButton>
      )}
      <IconButton label="Table of numbers" isOn={isTable} onClick={onTable}>
        <Table2 size={15} />
      </IconButton>
    </div>
  );
}

function Legend({
  data,
  asLine,
  hasPart,
  isFaded,
  pick,
}: {
  data: TimeChartAnswer;
  asLine: boolean;
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
      </ul>
    );
  const has = (pick: (p: TimeChartAnswer["points"][number]) => object) => data.points.some((p) => "value" in pick(p));
  const entries: { code: ScenarioCode; name: string; isThere: boolean }[] = [
    { code: "actual", name: "Actual", isThere: has((p) => p.actual) },
    { code: "forecast", name: data.forecastName ?? "Forecast", isThere: has((p) => p.forecast) },
    { code: "budget", name: "Budget", isThere: has((p) => p.budget) },
    { code: "target", name: "Target", isThere: has((p) => p.target) },
    { code: "prior-year", name: "Prior year", isThere: has((p) => p.priorYear) },
  ];
  return (
    <ul className="flex flex-wrap gap-x-3.5 gap-y-1 text-[12.5px]">
      {entries
        .filter((e) => e.isThere)
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
      <OverlayNames data={data} />
    </ul>
  );
}

/** A series by its colour; a member's narrows the page. */
function PartName({
  part: { at, name, dimension, member },
  isFaded,
  pick,
}: {
  part: ChartPart;
  isFaded: boolean;
  pick: PanelProps<"time-chart">["actions"]["pick"];
}) {
  const inside = (
    <>
      <span
        aria-hidden="true"
        className="inline-block size-2.5"
        style={{ background: dyeOf(at), opacity: isFaded ? 0.3 : 1 }}
      />
      {name}
    </>
  );
  const look = `flex min-h-[24px] items-center gap-1.5 ${isFaded ? "text-slate" : ""}`;
  if (!member || dimension === null || !pick) return <span className={look}>{inside}</span>;
  return (
    <button
      type="button"
      className={`${look} hover:underline`}
      {...pickHandlers(pick, { dimension, member: member.key, name })}
    >
      {inside}
    </button>
  );
}

function OverlayNames({ data: { moving, trend, right } }: { data: TimeChartAnswer }) {
  const lines = [
    moving && { key: "moving", colour: MOVING_COLOUR, dash: undefined, words: moving.name },
    trend && { key: "trend", colour: TREND_COLOUR, dash: "6 3", words: `Trend: ${trend.words}` },
    right && { key: "right", colour: RIGHT_COLOUR, dash: undefined, words: `${right.kpi.name}, at the right` },
  ].flatMap((line) => line ?? []);
  return lines.map(({ key, colour, dash, words }) => (
    <li key={key} className="flex items-center gap-1.5">
      <svg aria-hidden="true" width="16" height="11">
        <path d="M0 5.5h16" stroke={colour} strokeWidth="1.8" strokeDasharray={dash} />
      </svg>
      {words}
    </li>
  ));
}
