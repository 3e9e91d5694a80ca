import { formatNumber } from "../../formats/number-words.ts";
import { basisSide } from "../../compare/side.ts";
import type { Dimension } from "../../dimensions/dimension.ts";
import { intersectScopes } from "../../dimensions/scope.ts";
import { absent, isPresent, present } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import { listed } from "../../formats/listed.ts";
import type { PanelQuestion } from "../panel-question.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { isAdditive } from "../parts/part-of.ts";
import { repetition, type Repetition } from "../parts/repetition.ts";
import { entriesOf, wholeWindowOf, windowText, type CrossAxisEntries } from "./axis.ts";
import { crossCells, type CellsOf, type CrossCell } from "./cells.ts";
import { figureOf, Reasons, wholesOf } from "./figures.ts";
import { fittingMeasures, refusalOf } from "./fit.ts";
import { lineKey, linesOf, nestLines, standingLine, wholeLine, type CrossLine, type LineNode } from "./lines.ts";
import { pruneLines, rankLines, sortLines, withShownTotals } from "./order.ts";
import { crossDescriptor, crossHeadline } from "./words.ts";
import {
  isComparing,
  MOST_CELLS,
  MOST_COLUMNS,
  MOST_LINES,
  readSort,
  type CrossAxis,
  type CrossMeasure,
  type CrossSort,
  type CrossTabChoice,
  type CrossTabDefinition,
  type CrossEntry,
  type CrossTabAnswer,
  type CrossColumn,
} from "./schema.ts";

/** An axis as it is read: what stands along it, by the places that lines name. */
export type CrossAxisAnswer = Omit<CrossAxisEntries, "entries"> & { readonly entries: readonly CrossEntry[] };

export function computeCrossTab(
  definition: CrossTabDefinition,
  choice: CrossTabChoice,
  page: PanelQuestion,
): CrossTabAnswer {
  const { question, rows: rowAxes, path } = goneDown(definition, choice.below ?? null, page);
  const { company, asked } = question;
  const isByKpi = [...rowAxes, ...definition.columns].some(({ kind }) => kind === "kpi");
  const shown = isByKpi ? definition.kpis : [choice.kpi ?? definition.kpis[0]!];
  const kpis = shown.map((key) => requireKpi(company, key));
  const shade = choice.shade ?? definition.shade;
  const entries = (axes: readonly CrossAxis[], below?: string) =>
    axes.map((axis) => {
      // Only the first axis of members is opened downwards.
      const isOpened = below !== undefined && axis === axes.find(({ kind }) => kind === "member");
      return entriesOf(axis, { kpis: shown, last: definition.last, below: isOpened ? below : null }, question);
    });
  const sides: Sides = { rows: entries(rowAxes, choice.below), columns: entries(definition.columns) };
  const whole = wholeWindowOf([...sides.rows, ...sides.columns], question);
  const isCompared = isComparing({ measures: definition.measures, shade });
  const basis = basisSide({ ...asked.frame, ...company });
  const basisName = "absent" in basis ? asked.answer.words.basis : basis.name;
  const title = shown[0] === definition.kpis[0] ? definition.title : undefined;
  const common = {
    kind: "cross-tab" as const,
    frame: asked.answer,
    descriptor: crossDescriptor(kpis, sides, { whole, basisName, isCompared }, question),
    layers: isByKpi ? [] : definition.kpis.map((key) => ({ key, name: requireKpi(company, key).definition.name })),
    kpis: kpis.map(kpiHead),
    basisName,
    months: windowText(whole),
    scope: choice.below === undefined ? null : asked.scope,
    path,
    shade,
  };
  const fitting = fittingMeasures(definition, sides, kpis);
  const sort = choice.sort === undefined ? definition.sort : readSort(choice.sort);
  const nested = nestSides(definition, sides, company.dimensions);
  const cellOf = crossCells(question, { kpi: shown[0]!, whole, isCompared });
  const kept = "refusal" in nested ? nested : withFigures(nested, sides, cellOf);
  const nothing = `Nothing of ${listed(kpis.map(({ definition: { name } }) => name))} is kept here for ${asked.answer.words.scope}.`;
  if ("refusal" in kept || kept.isEmpty)
    return {
      ...common,
      headline: title ?? "There is nothing to show here.",
      measures: fitting.measures,
      sort: null,
      rows: { axes: sides.rows.map(bare), lines: [] },
      columns: { axes: sides.columns.map(bare), lines: [] },
      cells: [],
      reasons: [],
      refusal: "refusal" in kept ? kept.refusal : nothing,
      notes: [],
    };
  const laid = layFigures(kept, { sides, cellOf, sort, measures: fitting.measures, isCompared });
  const told = { ...kept, rows: laid.ordered, rowAxes: sides.rows, cellOf, measures: fitting.measures, basisName };
  return {
    ...common,
    headline: title ?? crossHeadline(told, question),
    measures: fitting.measures,
    sort: laid.sort,
    rows: { axes: sides.rows.map(bare), lines: laid.rows.map(({ at }) => at) },
    columns: { axes: sides.columns.map(bare), lines: laid.columns.map(({ at }) => at) },
    cells: laid.cells,
    reasons: laid.reasons,
    refusal: null,
    notes: [
      ...fitting.notes,
      ...(sort && !laid.sort ? ["The sort column is not shown here, so rows are in their set order."] : []),
      ...leftOut(kept.left),
      ...withoutMember(kept, sides, cellOf),
    ],
  };
}

/** Both sides' axes with what stands along them. */
export interface Sides {
  readonly rows: readonly CrossAxisEntries[];
  readonly columns: readonly CrossAxisEntries[];
}

/** All lines of both sides as they are nested. */
interface Nested {
  readonly rows: readonly LineNode[];
  readonly columns: readonly LineNode[];
}

/** The lines of both sides, or why they make no table. */
function nestSides(
  definition: CrossTabDefinition,
  sides: Sides,
  dimensions: readonly Dimension[],
): Nested | { readonly refusal: string } {
  const refusal = refusalOf(definition);
  if (refusal !== null) return { refusal };
  const wayOut = "take one depth less, a higher level, or narrow the page.";
  const rows = nestLines(sides.rows, dimensions, MOST_LINES);
  if (!rows) return { refusal: `There are more than ${inWords(MOST_LINES)} rows: ${wayOut}` };
  const columns = nestLines(sides.columns, dimensions, MOST_COLUMNS);
  if (!columns) return { refusal: `There are more than ${MOST_COLUMNS} columns: ${wayOut}` };
  const [down, along] = [linesOf(rows).length, linesOf(columns).length];
  return down * along > MOST_CELLS
    ? {
        refusal: `There are ${inWords(down)} rows by ${along} columns, more than the ${inWords(MOST_CELLS)} figures that are measured at once: ${wayOut}`,
      }
    : { rows, columns };
}

/** What has figures: lines of members that have none anywhere are left out, and counted. */
interface Kept extends Nested {
  /** All lines, those left out included: what others are shares of. */
  readonly all: { readonly rows: readonly CrossLine[]; readonly columns: readonly CrossLine[] };
  /** How many rows were left out. */
  readonly left: number;
  readonly isEmpty: boolean;
}

function withFigures(nested: Nested, sides: Sides, cellOf: CellsOf): Kept {
  const all = { rows: linesOf(nested.rows), columns: linesOf(nested.columns) };
  const isOfMembers = (axes: readonly CrossAxisEntries[], line: CrossLine) =>
    line.at.some((entry, i) => entry !== null && axes[i]!.kind === "member");
  const isThere = ({ value, basis }: CrossCell) =>
    [value, basis].some((figure) => isPresent(figure) && figure.value !== 0);
  const rows = pruneLines(
    nested.rows,
    (row) => !isOfMembers(sides.rows, row) || all.columns.some((column) => isThere(cellOf(row, column))),
  );
  const keptLines = linesOf(rows);
  const columns = pruneLines(
    nested.columns,
    (column) => !isOfMembers(sides.columns, column) || keptLines.some((row) => isThere(cellOf(row, column))),
  );
  return {
    rows,
    columns,
    all,
    left: countEntries(nested.rows) - countEntries(rows),
    isEmpty: rows.every(({ entry }) => entry === null) || linesOf(columns).length === 0,
  };
}

/** Lays the figures out: rows in their order, totals that are shown, each column's measures down all rows. */
function layFigures(
  kept: Kept,
  {
    sides,
    cellOf,
    sort,
    measures,
    isCompared,
  }: {
    readonly sides: Sides;
    readonly cellOf: CellsOf;
    readonly sort: CrossSort | undefined;
    readonly measures: readonly CrossMeasure[];
    readonly isCompared: boolean;
  },
) {
  const columns = linesOf(withShownTotals(kept.columns, sides.columns));
  const wholes = wholesOf(kept.all, sides);
  const figure = (measure: CrossMeasure, row: CrossLine, column: CrossLine) =>
    figureOf(measure, row, column, cellOf, wholes);
  const sortColumn = sort && columns.find((column) => lineKey(column, sides.columns) === sort.column);
  const ordered =
    sort && sortColumn
      ? sortLines(kept.rows, sides.rows, (row) => figure(sort.measure, row, sortColumn), sort.isRising)
      : kept.rows;
  const rows = linesOf(withShownTotals(ordered, sides.rows));
  const reasons = new Reasons();
  const cells = columns.map((column): CrossColumn => {
    const ranks = measures.includes("rank")
      ? rankLines(rows, sides.rows, (row) => {
          const { value, kpi } = cellOf(row, column);
          return { figure: value, direction: kpi.definition.direction };
        })
      : null;
    const down = (measure: CrossMeasure) =>
      reasons.figures(
        rows.map((row) => {
          if (measure !== "rank") return figure(measure, row, column);
          const rank = ranks?.get(row);
          return rank === undefined ? NO_RANK : present(rank);
        }),
      );
    return {
      figures: Object.fromEntries(measures.map((measure) => [measure, down(measure)])),
      tolerances: isCompared ? rows.map((row) => cellOf(row, column).variance.tolerances) : [],
    };
  });
  return { ordered, rows, columns, cells, reasons: reasons.words, sort: sort && sortColumn ? sort : null };
}

/** The question and the rows inside a member of the first axis of members: what stood for its levels goes. */
function goneDown(
  { rows }: CrossTabDefinition,
  below: string | null,
  question: PanelQuestion,
): { question: PanelQuestion; rows: readonly CrossAxis[]; path: Repetition["path"] } {
  const first = rows.find((axis) => axis.kind === "member");
  if (below === null || !first) return { question, rows, path: [] };
  const { path } = repetition(question, first, below);
  const { asked, company } = question;
  const scope = intersectScopes(company.dimensions, asked.scope, { [first.dimension]: [below] });
  return {
    question: { ...question, asked: { ...asked, scope } },
    rows: rows.filter((axis) => axis === first || axis.kind !== "member" || axis.dimension !== first.dimension),
    path,
  };
}

const NO_RANK = absent("not covered", "A total has no rank among its parts.");

function bare({ entries, ...axis }: CrossAxisEntries): CrossAxisAnswer {
  return { ...axis, entries: entries.map(({ window: _, ...entry }) => entry) };
}

function inWords(count: number): string {
  return formatNumber(count, 0);
}

function leftOut(count: number): string[] {
  if (count === 0) return [];
  return [`${inWords(count)} ${count === 1 ? "row" : "rows"} without figures ${count === 1 ? "is" : "are"} left out.`];
}

function countEntries(nodes: readonly LineNode[]): number {
  return linesOf(nodes).filter(({ at }) => at.every((entry) => entry !== null)).length;
}

/** What of a total is kept without a member of the outermost dimension, in words. */
function withoutMember({ rows, columns }: Nested, { rows: [axis] }: Sides, cellOf: CellsOf): string[] {
  if (axis?.kind !== "member") return [];
  const column = wholeLine(columns);
  const total = rows.find(({ entry }) => entry === null);
  const whole = total && standingLine(total);
  if (!column || !whole) return [];
  const { kpi, value } = cellOf(whole, column);
  if (!isAdditive(kpi.definition.unit) || !isPresent(value)) return [];
  const sum = rows.reduce((all, node) => {
    const row = node.entry === null ? null : standingLine(node);
    const part = row && cellOf(row, column).value;
    return all + (part && isPresent(part) ? part.value : 0);
  }, 0);
  // Sums are whole minor units: what is left below one is no money.
  if (Math.abs(value.value - sum) < 0.005) return [];
  return [`Part of the total has no ${axis.noun}, so the members do not add up to it.`];
}
