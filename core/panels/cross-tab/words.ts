import { rangeName } from "../../calendar/fiscal-calendar.ts";
import type { Window } from "../../compare/window.ts";
import { isPresent } from "../../figures/figure.ts";
import { listed } from "../../formats/listed.ts";
import { memberMessage, type MessageRow } from "../../words/message.ts";
import { valueStyle, writePercent, writeWithUnit } from "../../formats/number-words.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import type { PanelQuestion } from "../panel-question.ts";
import { partOf } from "../parts/part-of.ts";
import type { CrossAxisEntries } from "./axis.ts";
import type { CellsOf } from "./cells.ts";
import { standingLine, wholeLine, type LineNode } from "./lines.ts";
import type { CrossMeasure } from "./schema.ts";
import type { KpiHead } from "../parts/schema.ts";

/** What a cross-tab is drafted into words from. */
interface Told {
  readonly rows: readonly LineNode[];
  readonly rowAxes: readonly CrossAxisEntries[];
  readonly columns: readonly LineNode[];
  readonly cellOf: CellsOf;
  readonly measures: readonly CrossMeasure[];
  readonly basisName: string;
}

/** Who is furthest off where Δ is shown; else who has most of the first KPI, and what share of it. */
export function crossHeadline(
  { rows, rowAxes, columns, cellOf, measures, basisName }: Told,
  { asked }: PanelQuestion,
): string {
  const [axis] = rowAxes;
  // The whole of the first KPI, and of the actual, as far as the top has it.
  const column = wholeLine(columns);
  if (!axis || !column) return "";
  const standing = rows.flatMap((node) => {
    const line = standingLine(node);
    return line
      ? [{ node, name: node.entry === null ? "" : axis.entries[node.entry]!.name, cell: cellOf(line, column) }]
      : [];
  });
  const entries = standing.filter(({ node }) => node.entry !== null);
  const [first] = entries;
  if (!first) return "";
  const { definition } = first.cell.kpi;
  const write = (value: number, own = definition) =>
    writeWithUnit(value, valueStyle(own.unit, own.decimals, asked.unit));
  if (axis.totalName === null)
    return `${entries
      .slice(0, 3)
      .map(({ name, cell }) => {
        const own = cell.kpi.definition;
        return `${name} ${isPresent(cell.value) ? write(cell.value.value, own) : "is absent"}`;
      })
      .join(", ")}${entries.length > 3 ? ` and ${entries.length - 3} more` : ""}.`;
  const title = `${definition.name} by ${axis.noun}`;
  if (measures.includes("delta") || measures.includes("delta-percent")) {
    const compared = entries.map(({ name, cell }): MessageRow => ({
      name,
      unit: definition.unit,
      decimals: definition.decimals,
      money: asked.unit,
      basisName,
      comparedOver: null,
      ...cell.variance,
    }));
    if (compared.some(({ judgement }) => judgement !== null)) return memberMessage(title, compared);
  }
  const most = entries
    .filter(({ cell }) => isPresent(cell.value))
    .toSorted((a, b) => valueIn(b.cell) - valueIn(a.cell))[0];
  if (!most) return `${title}: nothing to show.`;
  const whole = standing.find(({ node }) => node.entry === null)?.cell.value;
  const part = whole && partOf(definition.unit, whole, most.cell.value);
  const share = part?.is === "share" ? `, ${writePercent(part.share)} of the whole` : "";
  return `${definition.name} is highest ${axis.kind === "member" ? "for" : "in"} ${most.name}: ${write(valueIn(most.cell))}${share}.`;
}

function valueIn({ value }: ReturnType<CellsOf>): number {
  return isPresent(value) ? value.value : -Infinity;
}

/** What a cross-tab is of: KPIs, sides, months, scope, and against what where it compares. */
export function crossDescriptor(
  kpis: readonly { readonly definition: KpiHead }[],
  { rows, columns }: { readonly rows: readonly CrossAxisEntries[]; readonly columns: readonly CrossAxisEntries[] },
  {
    whole,
    basisName,
    isCompared,
  }: { readonly whole: Window; readonly basisName: string; readonly isCompared: boolean },
  { company, asked }: PanelQuestion,
): string {
  const [only] = kpis;
  const names = kpis.map(({ definition }) => definition.name);
  const of =
    kpis.length === 1 && only
      ? nameInUnit(only.definition, asked.unit)
      : kpis.length <= 3
        ? listed(names)
        : `${kpis.length} KPIs`;
  const side = (axes: readonly CrossAxisEntries[]) => listed(axes.map(({ noun }) => noun));
  const along = columns.length === 0 ? "" : `, ${side(columns)} along the top`;
  const isByScenario = [...rows, ...columns].some(({ kind }) => kind === "scenario");
  const against = !isByScenario && isCompared ? `, against ${basisName}` : "";
  return `${of}, by ${side(rows)}${along}, ${rangeName(company.calendar, whole.from, Math.max(whole.from, whole.to))}, for ${asked.answer.words.scope}${against}`;
}
