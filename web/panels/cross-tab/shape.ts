import { headOf, measuresOf, placeName } from "#core/panels/cross-tab/table.ts";
import { judgementOf } from "#core/compare/variance.ts";
import {
  deltaStyle,
  valueStyle,
  writeNumber,
  writePercent,
  writeSigned,
  writeSignedPercent,
} from "#core/formats/number-words.ts";
import { COMB_WIDTH } from "../../chart-kit/comb-layout.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import type { CrossMeasure, CrossSide, CrossTabAnswer } from "#core/panels/cross-tab/schema.ts";
import type { Judgement } from "#core/figures/schema.ts";
import type { KpiHead } from "#core/panels/parts/schema.ts";

/** One column as it is drawn: a measure of a column of the answer. */
export interface ShapedColumn {
  readonly key: string;
  /** The answer's column. */
  readonly column: number;
  readonly measure: CrossMeasure;
  /** The names above it from the outermost; its own is the last. */
  readonly heads: readonly string[];
  readonly width: number;
  readonly isTotal: boolean;
}

/** A row as it is drawn. */
export interface ShapedRow {
  /** What it is called on each axis; `null` where the row above has said it. */
  readonly names: readonly (string | null)[];
  /** The same, said again on every row. */
  readonly fullNames: readonly string[];
  readonly isTotal: boolean;
  /** Whether a new group of the outermost axis begins. */
  readonly isFirst: boolean;
}

/** A cross-tab ready to draw. */
export interface CrossShape {
  /** The width of each row axis. */
  readonly nameWidths: readonly number[];
  readonly columns: readonly ShapedColumn[];
  readonly rows: readonly ShapedRow[];
  /** Between which values a KPI's cells are shaded, by its key. */
  readonly scales: ReadonlyMap<string, { readonly low: number; readonly high: number }>;
}

const NAME_SHARE = 0.5;
const LEAST_NAME = 64;
const MOST_NAME = 230;
const LEAST_CELL = 48;
const MOST_HEAD = 118;
const PADDING = 20;
/** The mark of a judgement beside Δ, and a comb beside Δ%. */
const MARK = 16;

/** Shapes an answer for a width. Pure: the same answer gives the same shape. */
export function shapeCrossTab(data: CrossTabAnswer, width: number): CrossShape {
  const { rows, columns, measures } = data;
  const isMeasureSaid = measures.length > 1 || columns.axes.length === 0;
  const shapedRows = rows.lines.map((_, r) => shapeRow(data, r));
  const scales = scalesOf(data);
  const shaped = columns.lines.flatMap((line, c) =>
    measuresOf(data, c).map((measure): ShapedColumn => {
      const names = line.map((_, depth) => placeNameWithUnit(data, columns, c, depth)).filter((name) => name !== "");
      const heads = isMeasureSaid ? [...names, shortName(measure, data)] : names;
      return {
        key: `${c}-${measure}`,
        column: c,
        measure,
        heads,
        width: widthOf(data, c, measure, heads.at(-1) ?? ""),
        isTotal: line.includes(null) && line.length > 0,
      };
    }),
  );
  const longest = rows.axes.map((axis, depth) =>
    Math.min(
      MOST_NAME,
      Math.max(
        LEAST_NAME,
        labelWidth(axis.noun) + PADDING,
        ...[...new Set(shapedRows.map(({ fullNames }) => fullNames[depth]!))].map(
          (name) => labelWidth(name) * 1.12 + PADDING,
        ),
      ),
    ),
  );
  const room = Math.max(LEAST_NAME, width * NAME_SHARE);
  const wanted = longest.reduce((sum, own) => sum + own, 0);
  const fit = Math.min(1, room / Math.max(1, wanted));
  const nameWidths = longest.map((own) => Math.floor(own * fit));
  const names = nameWidths.reduce((sum, own) => sum + own, 0);
  const stretch = stretchOf(width, names + shaped.reduce((sum, own) => sum + own.width, 0));
  const nameStretch = Math.max(1, Math.min(stretch, room / Math.max(1, names)));
  return {
    nameWidths: nameWidths.map((own) => Math.floor(own * nameStretch)),
    columns: shaped.map((own) => ({ ...own, width: Math.floor(own.width * stretch) })),
    rows: shapedRows,
    scales,
  };
}

/** A small table takes the width that it has, yet its figures do not drift apart. */
const MOST_STRETCH = 1.5;

function stretchOf(width: number, wanted: number): number {
  return Math.max(1, Math.min(MOST_STRETCH, width / Math.max(1, wanted)));
}

const SHORT: Readonly<Partial<Record<CrossMeasure, string>>> = {
  delta: "Δ",
  "delta-percent": "Δ%",
  "share-of-row": "of row",
  "share-of-column": "of column",
  "share-of-total": "of total",
};

function shortName(measure: CrossMeasure, data: CrossTabAnswer): string {
  if (measure === "value" && !isByScenario(data)) return data.frame.words.shown;
  return SHORT[measure] ?? headOf(measure, data);
}

/** Whether a side is by scenario, so that values are not all actuals. */
export function isByScenario({ rows, columns }: Pick<CrossTabAnswer, "rows" | "columns">): boolean {
  return [...rows.axes, ...columns.axes].some(({ kind }) => kind === "scenario");
}

/** A KPI stands with its unit where several share a table. */
function placeNameWithUnit(data: CrossTabAnswer, side: CrossSide, line: number, depth: number): string {
  const name = placeName(side, line, depth);
  if (side.axes[depth]!.kind !== "kpi") return name;
  const at = side.lines[line]![depth];
  const kpi =
    at === null || at === undefined
      ? undefined
      : data.kpis.find(({ key }) => key === side.axes[depth]!.entries[at]!.kpi);
  if (!kpi) return name;
  const { unitName } = valueStyle(kpi.unit, kpi.decimals, data.frame.unit);
  return name.toLowerCase().includes(unitName.toLowerCase()) ? name : `${name}, ${unitName}`;
}

function shapeRow(data: CrossTabAnswer, r: number): ShapedRow {
  const { rows } = data;
  const line = rows.lines[r]!;
  const before = r === 0 ? undefined : rows.lines[r - 1];
  const fullNames = line.map((_, depth) => placeNameWithUnit(data, rows, r, depth));
  const isSame = (depth: number) => before !== undefined && line.slice(0, depth + 1).every((at, i) => at === before[i]);
  return {
    fullNames,
    names: fullNames.map((name, depth) => (depth < line.length - 1 && isSame(depth) ? null : name)),
    isTotal: line.includes(null),
    isFirst: line.length > 1 && !isSame(0),
  };
}

/** The KPI of a place where a row and a column meet. */
export function kpiAt({ rows, columns, kpis }: CrossTabAnswer, row: number, column: number): KpiHead {
  const key = [
    [rows, row],
    [columns, column],
  ] as const;
  for (const [side, line] of key) {
    const axis = side.axes.findIndex(({ kind }) => kind === "kpi");
    const at = axis < 0 ? null : side.lines[line]![axis];
    const found =
      at === null || at === undefined ? undefined : kpis.find((kpi) => kpi.key === side.axes[axis]!.entries[at]!.kpi);
    if (found) return found;
  }
  return kpis[0]!;
}

/** How a column's figures of a KPI are written. */
export function writeMeasure(measure: CrossMeasure, value: number, kpi: KpiHead, { frame }: CrossTabAnswer): string {
  switch (measure) {
    case "value":
    case "basis":
      return writeNumber(value, valueStyle(kpi.unit, kpi.decimals, frame.unit));
    case "delta":
      return writeSigned(value, { ...deltaStyle(kpi.unit, kpi.decimals, frame.unit), prefix: "", suffix: "" });
    case "delta-percent":
      return writeSignedPercent(value);
    case "rank":
      return String(value);
    default:
      return writePercent(value);
  }
}

/** The judgement of a place; `null` where nothing is compared. */
export function judgementAt(data: CrossTabAnswer, row: number, column: number): Judgement | null {
  const tolerances = data.cells[column]!.tolerances[row] ?? null;
  return tolerances === null ? null : judgementOf(tolerances, kpiAt(data, row, column).direction);
}

function widthOf(data: CrossTabAnswer, c: number, measure: CrossMeasure, head: string): number {
  const { values } = data.cells[c]!.figures[measure]!;
  // The widest are the largest and the smallest of each KPI: not all of ten thousand need be written.
  const extremes = new Map<KpiHead, { low: number; high: number }>();
  for (const [r, value] of values.entries()) {
    if (value === null) continue;
    const kpi = kpiAt(data, r, c);
    const known = extremes.get(kpi);
    extremes.set(kpi, { low: Math.min(value, known?.low ?? value), high: Math.max(value, known?.high ?? value) });
  }
  const widths = [...extremes].flatMap(([kpi, { low, high }]) =>
    [low, high].map((value) => labelWidth(writeMeasure(measure, value, kpi, data)) * 1.12),
  );
  const extra = measure === "delta" ? MARK : measure === "delta-percent" ? COMB_WIDTH + 8 : 0;
  return Math.ceil(
    Math.max(LEAST_CELL, Math.min(MOST_HEAD, labelWidth(head) * 1.12) + 22, Math.max(0, ...widths) + extra + PADDING),
  );
}

/** Shades run over a KPI's own cells; totals would make all others pale. */
function scalesOf(data: CrossTabAnswer): CrossShape["scales"] {
  const scales = new Map<string, { low: number; high: number }>();
  if (data.shade !== "value") return scales;
  for (const [c, column] of data.columns.lines.entries()) {
    if (column.includes(null)) continue;
    for (const [r, value] of (data.cells[c]!.figures.value?.values ?? []).entries()) {
      if (value === null || data.rows.lines[r]!.includes(null)) continue;
      const { key } = kpiAt(data, r, c);
      const known = scales.get(key);
      scales.set(key, { low: Math.min(value, known?.low ?? value), high: Math.max(value, known?.high ?? value) });
    }
  }
  return scales;
}
