import { moneySign } from "#core/formats/currency.ts";
import { moneyName } from "#core/formats/number-words.ts";
import type { ReactNode } from "react";
import { deltaStyle, valueStyle, writeSignedPercent, writeWithUnit } from "#core/formats/number-words.ts";
import type { Figure, Variance } from "#core/figures/schema.ts";
import type { ProvenanceSide } from "#contract/provenance.ts";
import { Spark } from "../../chart-kit/spark.tsx";
import { COMB_WIDTH } from "../../chart-kit/comb-layout.ts";
import { VarianceComb } from "../../chart-kit/variance-comb.tsx";
import { GradeMark } from "../../figures/grade.tsx";
import { judgementColour, JudgementMark } from "../../figures/judgement.tsx";
import { Absent, AlignedNumber } from "../../figures/number.tsx";
import { weighedIn, WeighedMark } from "../../chart-kit/reading.tsx";
import { LegendMark, ScenarioName } from "../../figures/scenario-mark.tsx";
import type { ScorecardColumn, ScorecardAnswer } from "#core/panels/scorecard/schema.ts";
import type { KpiRow } from "#core/panels/parts/schema.ts";

/** What cells are drawn with besides their row. */
export interface CellContext {
  readonly data: ScorecardAnswer;
  /** Whether a status is its mark alone, for want of room. */
  readonly isStatusShort: boolean;
  /** Whether the comb stands beside Δ, for want of room for Δ%. */
  readonly isCompact: boolean;
  /** Opens where a figure comes from; in its own scope, if it has one. */
  readonly onAsk: (kpi: string, side: ProvenanceSide, scope?: string) => void;
  /** The actuals of the part that is weighed, by KPI. */
  readonly parts: ReadonlyMap<string, Figure>;
}

/** A column of a scorecard. */
export interface Column {
  readonly key: ScorecardColumn;
  /** Its name where columns are chosen. */
  readonly name: string;
  readonly isText?: true;
  readonly head: (data: ScorecardAnswer, isCompact?: boolean) => ReactNode;
  readonly cell: (row: KpiRow, context: CellContext) => ReactNode;
  /** What rows are sorted by; `null` where there is nothing to sort. */
  readonly sortValue: (row: KpiRow) => number | null;
}

const valueOf = (figure: Figure | null) => (figure && "value" in figure ? figure.value : null);

/** The columns a scorecard can have, in the order in which they are offered. */
export const COLUMNS: readonly Column[] = [
  {
    key: "actual",
    name: "Actual",
    head: ({ frame }) => <ScenarioName code="actual" name={frame.words.shown} />,
    cell: (row, context) => (
      <span className="font-semibold">
        <Asked row={row} figure={row.actual} side="actual" name={context.data.frame.words.shown} context={context} />
        <WeighedMark part={weighedIn(row.kpi, row.actual, context.parts.get(row.kpi.key), context.data.frame.unit)} />
      </span>
    ),
    sortValue: (row) => valueOf(row.actual),
  },
  {
    key: "basis",
    name: "Basis",
    head: ({ frame }) => <ScenarioName code={frame.basisCode} name={frame.words.basis} />,
    cell: (row, context) => (
      <span className="inline-flex items-baseline gap-1">
        {row.isFallback && (
          <span title={`against ${row.basisName}`} className="text-[11.5px] text-slate">
            <LegendMark code={row.basisCode} asLine={false} />
          </span>
        )}
        <Asked row={row} figure={row.basis} side="basis" name={row.basisName} context={context} />
      </span>
    ),
    sortValue: (row) => valueOf(row.basis),
  },
  {
    key: "delta",
    name: "Δ",
    head: (_, isCompact) => (isCompact ? <span style={{ paddingRight: COMB_WIDTH + 7 }}>Δ</span> : "Δ"),
    cell: (row, { data, isCompact }) => (
      <span className={isCompact ? "inline-flex items-center gap-2" : ""}>
        <Delta row={row} variance={row.variance} data={data} />
        {isCompact && <VarianceComb variance={row.variance} />}
      </span>
    ),
    sortValue: (row) => valueOf(row.variance.delta),
  },
  {
    key: "delta-percent",
    name: "Δ%",
    head: () => <span style={{ paddingRight: COMB_WIDTH + 4 }}>Δ%</span>,
    cell: ({ kpi, variance }) => {
      const { deltaPercent, judgement } = variance;
      // Percentages differ in points, which Δ says; how many tolerances that is says the comb.
      const text =
        kpi.unit.kind === "percent" || !("value" in deltaPercent) ? "" : writeSignedPercent(deltaPercent.value);
      return (
        <span className="inline-flex items-center gap-1 align-middle" style={{ color: judgementColour(judgement) }}>
          {text}
          <VarianceComb variance={variance} />
        </span>
      );
    },
    sortValue: ({ kpi, variance }) => (kpi.unit.kind === "percent" ? null : valueOf(variance.deltaPercent)),
  },
  {
    key: "status",
    name: "Status",
    isText: true,
    head: (_, isCompact) => (isCompact ? <span className="sr-only">Status</span> : "Status"),
    cell: (row, { isStatusShort }) => (
      <span title={statusWords(row)}>
        <StatusMark row={row} isBare={isStatusShort} />
      </span>
    ),
    sortValue: ({ status, variance }) => {
      if (status && "place" in status) return status.place;
      return variance.judgement === null
        ? null
        : { favourable: 3, "on plan": 2, neutral: 1, unfavourable: 0 }[variance.judgement];
    },
  },
  {
    key: "prior-year",
    name: "Prior year",
    head: () => <ScenarioName code="prior-year" name="Prior year" />,
    cell: (row, context) =>
      row.priorYear && (
        <span className="text-slate">
          <Asked row={row} figure={row.priorYear} side="prior-year" name="Prior year" context={context} />
        </span>
      ),
    sortValue: (row) => valueOf(row.priorYear),
  },
  {
    key: "growth",
    name: "Growth on the prior year",
    head: () => "Growth",
    cell: ({ kpi, growth }) =>
      growth && kpi.unit.kind !== "percent" ? (
        "value" in growth ? (
          writeSignedPercent(growth.value)
        ) : (
          <Absent figure={growth} />
        )
      ) : null,
    sortValue: ({ growth }) => valueOf(growth),
  },
  {
    key: "to-date",
    name: "Year to date",
    head: () => <ScenarioName code="actual" name="Year to date" />,
    cell: (row, { data }) => row.toDate && <Plain row={row} figure={row.toDate.actual} data={data} />,
    sortValue: ({ toDate }) => valueOf(toDate?.actual ?? null),
  },
  {
    key: "to-date-delta",
    name: "Δ year to date",
    head: () => "Δ to date",
    cell: (row, { data }) => row.toDate && <Delta row={row} variance={row.toDate.variance} data={data} />,
    sortValue: ({ toDate }) => valueOf(toDate?.variance.delta ?? null),
  },
  {
    key: "outlook",
    name: "Full-year outlook",
    head: () => <ScenarioName code="forecast" name="Outlook" />,
    cell: (row, { data }) =>
      row.outlook && (
        <span title={row.outlook.note}>
          <Plain row={row} figure={row.outlook.actual} data={data} />
        </span>
      ),
    sortValue: ({ outlook }) => valueOf(outlook?.actual ?? null),
  },
  {
    key: "outlook-delta",
    name: "Δ full year",
    head: () => "Δ full year",
    cell: (row, { data }) => row.outlook && <Delta row={row} variance={row.outlook.variance} data={data} />,
    sortValue: ({ outlook }) => valueOf(outlook?.variance.delta ?? null),
  },
  {
    key: "trend",
    name: "Trend line",
    head: () => "Trend",
    cell: (row, { data }) => (
      <span title={trendWords(row, data)}>
        <Spark figures={row.trend.map((t) => t.actual)} width={46} />
      </span>
    ),
    sortValue: () => null,
  },
  {
    key: "words",
    name: "In words",
    isText: true,
    head: () => "In words",
    cell: ({ words }) => <span className="block min-w-56 whitespace-normal text-[12.5px]">{words}</span>,
    sortValue: () => null,
  },
];

/** The columns of an answer that have something to say: against the prior year the basis says it already. */
export function columnsOf({ columns, frame }: ScorecardAnswer): Column[] {
  return columns
    .filter((key) => key !== "prior-year" || frame.basis !== "prior-year")
    .map((key) => COLUMNS.find((column) => column.key === key)!);
}

/** The unit of a row beside its name, unless the name says it already. */
export function shortUnit(unit: string, name: string): string {
  return name.toLowerCase().includes(unit.toLowerCase())
    ? ""
    : unit
        .replace(moneyName("thousand"), `${moneySign()} k`)
        .replace(moneyName("million"), `${moneySign()} m`)
        .replace(`${moneySign()} per `, `${moneySign()}/`);
}

function Asked({
  row: { kpi },
  figure,
  side,
  name,
  context: { data, onAsk },
}: {
  row: KpiRow;
  figure: Figure;
  side: ProvenanceSide;
  name: string;
  context: CellContext;
}) {
  const style = valueStyle(kpi.unit, kpi.decimals, data.frame.unit);
  const shown = "value" in figure ? <AlignedNumber value={figure.value} style={style} /> : <Absent figure={figure} />;
  const said = "value" in figure ? writeWithUnit(figure.value, style) : `${figure.absent}. ${figure.detail}`;
  return (
    <button
      type="button"
      className="figure-button"
      onClick={() => onAsk(kpi.key, side)}
      aria-label={`${kpi.name}, ${name}, ${data.frame.words.span}: ${said} Where does it come from?`}
    >
      {shown}
    </button>
  );
}

function Plain({ row: { kpi }, figure, data }: { row: KpiRow; figure: Figure; data: ScorecardAnswer }) {
  if (!("value" in figure)) return <Absent figure={figure} />;
  return <AlignedNumber value={figure.value} style={valueStyle(kpi.unit, kpi.decimals, data.frame.unit)} />;
}

function Delta({
  row: { kpi },
  variance: { delta, judgement },
  data,
}: {
  row: KpiRow;
  variance: Variance;
  data: ScorecardAnswer;
}) {
  if (!("value" in delta)) return <Absent figure={delta} />;
  const style = deltaStyle(kpi.unit, kpi.decimals, data.frame.unit);
  return (
    <span style={{ color: judgementColour(judgement) }}>
      <AlignedNumber value={delta.value} style={style} signed suffix={kpi.unit.kind === "percent" ? " pts" : ""} />
    </span>
  );
}

/** The band of a KPI that has bands; else the judgement of its variance. */
function StatusMark({ row: { status, variance }, isBare }: { row: KpiRow; isBare: boolean }) {
  if (status === null) return <JudgementMark judgement={variance.judgement} as={isBare ? "mark" : "letter"} />;
  if ("absent" in status) return <Absent figure={status} />;
  return isBare ? <GradeMark grade={status.grade} /> : <GradeMark {...status} />;
}

function statusWords({ kpi, status, words }: KpiRow): string {
  return `${kpi.name}: ${status === null ? "" : "absent" in status ? `${status.detail} ` : `${status.word}; `}${words}`;
}

function trendWords(row: KpiRow, data: ScorecardAnswer): string {
  const style = valueStyle(row.kpi.unit, row.kpi.decimals, data.frame.unit);
  const known = row.trend.flatMap((t) =>
    "value" in t.actual ? [`${t.month}: ${writeWithUnit(t.actual.value, style)}`] : [],
  );
  return known.length < 2 ? "" : `Monthly, ${known[0]} to ${known.at(-1)}`;
}
