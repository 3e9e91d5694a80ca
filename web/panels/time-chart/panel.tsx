import { lazy, Suspense } from "react";
import { ChartBar, ChartColumn, ChartLine, ChartNoAxesCombined, TrendingUp, UnfoldVertical } from "lucide-react";
import { valueStyle, type NumberStyle } from "#core/formats/number-words.ts";
import { timeChartTable } from "#core/panels/time-chart/table.ts";
import { STACKINGS, type Stacking } from "#core/panels/parts/stacking.ts";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { IconButton } from "../../ui/form.tsx";
import { useSize } from "../../ui/use-size.ts";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { FigureBody, FigureSheet, toggleTable, type FigurePanelWords } from "../../chart-kit/figure-panel.tsx";
import { FilledPlace } from "../../chart-kit/filled-place.tsx";
import type { Own } from "../../chart-kit/own.ts";
import { STACKING_WORDS } from "../../chart-kit/stacking-words.ts";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { fittingMarks } from "./fitting-marks.ts";
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
import { ChartLegend } from "./legend.tsx";

type OwnTimeChart = Own<"time-chart">;

const LEAST_HEIGHT = 200;

// Only charts that look ahead need them.
const AheadBar = lazy(() => import("./ahead-bar.tsx"));
const NotesDrawer = lazy(() => import("./notes-drawer.tsx"));

const WORDS: FigurePanelWords<"time-chart"> = {
  label: "Over time",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style, deltaStyle }) =>
    `${data.kpi.name} in ${style.unitName}; Δ ${data.basisName} in ${deltaStyle.unitName}`,
  table: timeChartTable,
};

/** One KPI over time with its variance strip, as chart or as table of numbers. */
export default function TimeChartPanel(view: PanelProps<"time-chart">) {
  return (
    <FigureSheet view={view} words={WORDS}>
      {(own) => <Chart answered={own} />}
    </FigureSheet>
  );
}

function Chart({ answered }: { answered: OwnTimeChart }) {
  // While a setting of its look ahead is dragged, it shows what that would say.
  const preview = usePreview(answered.data);
  const own = { ...answered, data: preview.data };
  const { data, panel, choice } = own;
  const [{ width, height }, holder] = useSize();
  const { marks, why } = fittingMarks(choice.marks ?? panel.marks ?? usualMarks(data), data, width);
  const least = marks === "bars" ? Math.max(LEAST_HEIGHT, leastBarsHeight(data.points.length)) : LEAST_HEIGHT;
  return (
    <FigureBody own={own} words={WORDS} around={around(own, { marks, why, preview })}>
      <FilledPlace holder={holder} least={least}>
        {width > 0 && (
          <Drawing key={data.kpi.key} own={own} marks={marks} width={width} height={Math.max(least, height)} />
        )}
      </FilledPlace>
    </FigureBody>
  );
}

function isPartFaded({ picked }: OwnTimeChart, { dimension, member }: ChartPart): boolean {
  const chosen = dimension === null ? undefined : picked[dimension];
  return chosen !== undefined && !chosen.includes(member?.key ?? "");
}

function around(
  own: OwnTimeChart,
  { marks, why, preview }: { marks: TimeMarks; why: string | null; preview: ReturnType<typeof usePreview> },
): Around {
  const { data, actions, part } = own;
  const hasFigures = data.points.some((p) =>
    [p.actual, p.forecast, p.budget, p.target, p.priorYear].some((f) => "value" in f),
  );
  return {
    drawsAxisWords: marks !== "bars",
    legend: (
      <ChartLegend
        data={data}
        asLine={marks === "lines"}
        shows={marks === "bars" ? ["actual", "forecast", data.frame.basisCode] : null}
        isFaded={(series) => isPartFaded(own, series)}
        pick={actions.pick}
        hasPart={part !== undefined}
      />
    ),
    aside: <SeriesWords data={data} marks={marks} onChoose={actions.choose} />,
    signs: <Signs data={data} marks={marks} onChoose={actions.choose} />,
    below: data.ahead && <Ahead own={own} preview={preview} />,
    foot: <Foot own={own} />,
    refusal: hasFigures ? null : { title: "No period has a figure here", detail: "Choose another span, scope or KPI." },
    notes: why === null ? [] : [why],
  };
}

function Drawing({
  own,
  marks,
  width,
  height,
}: {
  own: OwnTimeChart;
  marks: TimeMarks;
  width: number;
  height: number;
}) {
  const { data, part, panel, choice, actions, style, deltaStyle, money } = own;
  const drawn = {
    data,
    part,
    style,
    deltaStyle,
    width,
    height,
    onTable: () => toggleTable(own),
    onAsk: (months: string) => actions.ask(formatFigureAddress(data.kpi.key, "actual", months)),
  };
  if (marks === "bars") return <PeriodBars {...drawn} />;
  return (
    <TimeChart
      {...drawn}
      marks={marks}
      rightStyle={data.right && valueStyle(data.right.kpi.unit, data.right.kpi.decimals, money)}
      isFaded={(series) => isPartFaded(own, series)}
      hasLabels={panel.hasLabels !== false}
      axisTitle={panel.axisTitle ?? axisTitleOf(data, marks, style)}
      fan={choice.fan ?? "all"}
    />
  );
}

/** The settings of a look ahead. */
function Ahead({
  own: { data, panel, choice, actions },
  preview: { settings, drag },
}: {
  own: OwnTimeChart;
  preview: ReturnType<typeof usePreview>;
}) {
  return (
    <Suspense fallback={<div className="waiting mx-4 h-6" />}>
      <AheadBar
        data={data}
        settings={settings}
        fan={choice.fan ?? "all"}
        onDrag={drag}
        onChoose={actions.choose}
        split={panel.split ?? null}
        onNotes={() => actions.choose({ notes: choice.notes === "open" ? undefined : "open" })}
      />
    </Suspense>
  );
}

/** What stands at periods, and the notes of the model where they are open. */
function Foot({ own: { data, choice, actions, style } }: { own: OwnTimeChart }) {
  return (
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
  );
}

/** How it is drawn, and what is shown with it. */
function Signs({
  data,
  marks,
  onChoose,
}: {
  data: TimeChartAnswer;
  marks: TimeMarks;
  onChoose: OwnTimeChart["actions"]["choose"];
}) {
  const isAlone = data.parts.length === 0;
  return (
    <>
      <ShownAs marks={marks} isAlone={isAlone} onChoose={onChoose} />
      {isAlone && (
        <IconButton
          label="Expected range"
          isOn={data.band !== null}
          onClick={() => onChoose({ range: data.band ? "off" : "on" })}
        >
          <UnfoldVertical size={15} />
        </IconButton>
      )}
      <IconButton
        label="Look ahead"
        isOn={data.ahead !== null}
        onClick={() => onChoose({ ahead: data.ahead ? "off" : "on", notes: undefined })}
      >
        <TrendingUp size={15} />
      </IconButton>
    </>
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
  onChoose: OwnTimeChart["actions"]["choose"];
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
  onChoose: OwnTimeChart["actions"]["choose"];
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
