import { Table2, ChartColumn, ChartLine } from "lucide-react";
import { deltaStyle, valueStyle, type NumberStyle } from "#core/words/number-words.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/compute.ts";
import { timeChartTable } from "#core/panels/time-chart/table.ts";
import { answeredChoice } from "#contract/panels/index.ts";
import { usePanel } from "../../app/questions.ts";
import { IconButton } from "../../ui/form.tsx";
import { Notice } from "../../ui/notice.tsx";
import { LegendMark, type ScenarioCode } from "../../ui/scenario-mark.tsx";
import { unbroken } from "../../ui/unbroken.ts";
import { useWidth } from "../../ui/use-width.ts";
import { NumbersTable } from "../numbers-table.tsx";
import { PanelFoot } from "../panel-foot.tsx";
import { PanelSheet } from "../panel-sheet.tsx";
import type { PanelProps } from "../panel-view.ts";
import { TimeChart } from "./time-chart.tsx";

const CHART_HEIGHT = 430;

/** One KPI over time with its variance strip, as chart or as table of numbers. */
export default function TimeChartPanel({ place, frame, panel, choice, onChoose, onArrange }: PanelProps<"time-chart">) {
  const { kpi } = choice;
  const answer = usePanel(place, frame, answeredChoice("time-chart", choice));
  return (
    <PanelSheet
      label={panel.title ?? "Over time"}
      answer={answer}
      skeleton={
        <div className="p-5" role="status" aria-label="The chart is being calculated">
          <div className="waiting h-6 w-3/4" />
          <div className="waiting mt-4 h-[400px]" />
        </div>
      }
      action={(problem) =>
        problem.code === "unknown-kpi" && (
          <button
            type="button"
            className="font-semibold text-indigo underline"
            onClick={() => onChoose({ kpi: undefined })}
          >
            Show the page's own KPI
          </button>
        )
      }
    >
      {(data) =>
        data.kind === "time-chart" ? (
          <>
            <Chart data={data} {...{ panel, choice, onChoose }} />
            <PanelFoot table={() => timeChartTable(data)} choice={{ kpi }} {...{ place, frame, onArrange }} />
          </>
        ) : null
      }
    </PanelSheet>
  );
}

function Chart({
  data,
  panel,
  choice,
  onChoose,
}: {
  data: TimeChartAnswer;
} & Pick<PanelProps<"time-chart">, "panel" | "choice" | "onChoose">) {
  const isRate =
    data.kpi.unit.kind === "percent" || data.kpi.unit.kind === "money-per" || data.kpi.unit.kind === "ratio";
  const usual = panel.marks ?? (isRate ? "lines" : "columns");
  const marks = choice.marks ?? usual;
  const isTable = choice.table === "open";
  const toggleTable = () => onChoose({ table: isTable ? undefined : "open" });
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
          <NumbersTable
            table={timeChartTable(data)}
            caption={`${data.kpi.name} in ${style.unitName}; Δ ${data.basisName} in ${dStyle.unitName}`}
            style={style}
            deltaStyle={dStyle}
          />
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
