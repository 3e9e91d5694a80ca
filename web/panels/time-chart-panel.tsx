import { Table2, ChartColumn, ChartLine } from "lucide-react";
import { deltaStyle, valueStyle, type NumberStyle } from "#core/words/number-words.ts";
import type { WireFigure } from "#contract/figure.ts";
import type { ChartSeries, TimeChartPanelDefinition } from "#contract/pack.ts";
import type { TimeChartAnswer } from "#contract/panels.ts";
import { usePanel, type FrameParams } from "../app/questions.ts";
import { SeriesTable } from "../charts/time-chart/series-table.tsx";
import { TimeChart } from "../charts/time-chart/time-chart.tsx";
import { useFrameParams } from "../frame/frame-params.ts";
import { IconButton, TextButton } from "../ui/form.tsx";
import { useWidth } from "../ui/use-width.ts";
import { unbroken } from "../ui/unbroken.ts";
import { LegendMark, type ScenarioCode } from "../ui/scenario-mark.tsx";
import { Notice } from "../ui/notice.tsx";
import { PanelFrame } from "./panel-frame.tsx";
import { PanelNumbers } from "./panel-numbers.tsx";
import type { PanelPlace } from "./panel-place.ts";

const CHART_HEIGHT = 430;

/** One KPI over time with its variance strip, as chart or as table of numbers. */
export function TimeChartPanel({
  place,
  frame,
  panel,
  kpi,
  onReset,
  onArrange,
}: {
  place: PanelPlace;
  frame: FrameParams;
  /** How it is arranged. */
  panel: TimeChartPanelDefinition;
  kpi: string;
  onReset: () => void;
  onArrange: (() => void) | undefined;
}) {
  const answer = usePanel(place, frame, { kpi });
  return (
    <PanelFrame
      label="Over time"
      answer={answer}
      skeleton={
        <div className="p-5" role="status" aria-label="The chart is being computed">
          <div className="waiting h-6 w-3/4" />
          <div className="waiting mt-4 h-[400px]" />
        </div>
      }
      action={(problem) =>
        problem.code === "unknown-kpi" && (
          <button type="button" className="font-semibold text-indigo underline" onClick={onReset}>
            Show the page's own KPI
          </button>
        )
      }
    >
      {(data) =>
        data.kind === "time-chart" ? (
          <>
            <Chart data={arranged(data, panel)} panel={panel} place={place} frame={frame} />
            {onArrange && (
              <p className="border-t border-thread/70 px-4 py-1 text-right print:hidden">
                <TextButton onClick={onArrange}>Arrange</TextButton>
              </p>
            )}
          </>
        ) : null
      }
    </PanelFrame>
  );
}

/** The chart's figures without what its arrangement leaves out, and with its own words. */
function arranged(data: TimeChartAnswer, { hides = [], title, kpi }: TimeChartPanelDefinition): TimeChartAnswer {
  const nothing = { absent: "not covered" as const, detail: "It is left out of this chart." };
  const keep = (series: ChartSeries, figure: WireFigure) => (hides.includes(series) ? nothing : figure);
  return {
    ...data,
    // A title of one's own speaks of the panel's own KPI.
    headline: title && data.kpi.key === kpi ? title : data.headline,
    points: data.points.map((point) => ({
      ...point,
      forecast: keep("forecast", point.forecast),
      budget: keep("budget", point.budget),
      target: keep("target", point.target),
      priorYear: keep("prior-year", point.priorYear),
      variance:
        point.varianceOf === "forecast" && hides.includes("forecast")
          ? { delta: nothing, deltaPercent: nothing, judgement: null }
          : point.variance,
    })),
  };
}

function Chart({
  data,
  panel,
  place,
  frame,
}: {
  data: TimeChartAnswer;
  panel: TimeChartPanelDefinition;
  place: PanelPlace;
  frame: FrameParams;
}) {
  const { view, setView } = useFrameParams();
  const isRate =
    data.kpi.unit.kind === "percent" || data.kpi.unit.kind === "money-per" || data.kpi.unit.kind === "ratio";
  const usual = panel.marks ?? (isRate ? "lines" : "columns");
  const chosen = view("marks");
  const marks = chosen === "lines" || chosen === "columns" ? chosen : usual;
  const isTable = view("table") === "open";
  const toggleTable = () => setView({ table: isTable ? undefined : "open" });
  const [width, holder] = useWidth();
  const withDecimals = (style: NumberStyle): NumberStyle =>
    panel.decimals === undefined ? style : { ...style, decimals: panel.decimals };
  const style = withDecimals(valueStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit));
  const dStyle = withDecimals(deltaStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit));
  const hasFigures = data.points.some((p) =>
    [p.actual, p.forecast, p.budget, p.target, p.priorYear].some((f) => "value" in f),
  );
  return (
    <div
      className="px-5 pt-4 pb-3"
      onKeyDown={(event) => {
        if (isTable && event.key === "t") toggleTable();
      }}
    >
      <h2 className="font-serif text-[17px] leading-snug">{unbroken(data.headline)}</h2>
      <p className="mt-1 text-[13px] text-slate">{data.descriptor}</p>
      {panel.subtitle && <p className="mt-1 text-[13px]">{panel.subtitle}</p>}
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Legend data={data} asLine={marks === "lines"} />
        <div className="ml-auto flex gap-0.5" role="group" aria-label="Shown as">
          <IconButton
            label="Columns"
            isOn={!isTable && marks === "columns"}
            onClick={() => setView({ marks: "columns", table: undefined })}
          >
            <ChartColumn size={15} />
          </IconButton>
          <IconButton
            label="Lines"
            isOn={!isTable && marks === "lines"}
            onClick={() => setView({ marks: "lines", table: undefined })}
          >
            <ChartLine size={15} />
          </IconButton>
          <IconButton label="Table of numbers" isOn={isTable} onClick={toggleTable}>
            <Table2 size={15} />
          </IconButton>
        </div>
      </div>
      <div ref={holder} className="mt-2" style={{ minHeight: CHART_HEIGHT }}>
        {!hasFigures ? (
          <div className="py-20">
            <Notice
              title="No month has a figure here"
              detail="Choose another span, scope or KPI; the figures of the scorecard say what is missing."
            />
          </div>
        ) : isTable ? (
          <>
            <SeriesTable data={data} style={style} deltaStyle={dStyle} />
            <PanelNumbers answer={data} place={place} frame={frame} choice={{ kpi: data.kpi.key }} />
          </>
        ) : (
          width > 0 && (
            <TimeChart
              key={data.kpi.key}
              data={data}
              width={width}
              height={CHART_HEIGHT}
              marks={marks}
              style={style}
              deltaStyle={dStyle}
              hasLabels={panel.hasLabels !== false}
              onTable={toggleTable}
            />
          )
        )}
      </div>
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

function Legend({ data, asLine }: { data: TimeChartAnswer; asLine: boolean }) {
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
    </ul>
  );
}
