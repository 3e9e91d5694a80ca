import { Table2, ChartColumn, ChartLine } from "lucide-react";
import { deltaStyle, valueStyle, type NumberStyle } from "#core/words/number-words.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/compute.ts";
import { timeChartTable } from "#core/panels/time-chart/table.ts";
import { IconButton } from "../../ui/form.tsx";
import { Notice } from "../../ui/notice.tsx";
import { LegendMark, type ScenarioCode } from "../../ui/scenario-mark.tsx";
import { useSize } from "../../ui/use-size.ts";
import { formatFigureAddress } from "../figure-address.ts";
import { NumbersTable } from "../numbers-table.tsx";
import { PanelSheet } from "../panel-sheet.tsx";
import type { PanelProps } from "../panel-view.ts";
import { TimeChart } from "./time-chart.tsx";

const LEAST_HEIGHT = 200;

/** One KPI over time with its variance strip, as chart or as table of numbers. */
export default function TimeChartPanel(view: PanelProps<"time-chart">) {
  return (
    <PanelSheet
      view={view}
      label="Over time"
      table={timeChartTable}
      skeleton={
        <div className="p-5" role="status" aria-label="The chart is being calculated">
          <div className="waiting h-6 w-3/4" />
          <div className="waiting mt-4 h-[160px]" />
        </div>
      }
    >
      {(data, part) => <Chart view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

function Chart({
  view: { panel, choice, actions },
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
  const drawn = { data, part, marks, style, deltaStyle: dStyle } as const;
  return (
    <div
      className="flex min-h-0 flex-1 flex-col px-4 pb-2"
      onKeyDown={(event) => {
        if (isTable && event.key === "t") toggleTable();
      }}
    >
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Legend data={data} asLine={marks === "lines"} />
        <ShownAs marks={marks} isTable={isTable} onChoose={actions.choose} onTable={toggleTable} />
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
                onTable={toggleTable}
                onAsk={(months) => actions.ask(formatFigureAddress(data.kpi.key, "actual", months))}
              />
            </div>
          )}
        </div>
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

/** Rates are drawn as lines where nothing else is said: they do not stand on a ground. */
function usualMarks({ kpi: { unit } }: TimeChartAnswer): "columns" | "lines" {
  return unit.kind === "percent" || unit.kind === "money-per" || unit.kind === "ratio" ? "lines" : "columns";
}

function ShownAs({
  marks,
  isTable,
  onChoose,
  onTable,
}: {
  marks: "columns" | "lines";
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
      <IconButton label="Table of numbers" isOn={isTable} onClick={onTable}>
        <Table2 size={15} />
      </IconButton>
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
