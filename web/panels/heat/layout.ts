import { writeNumber, writeSigned, writeSignedPercent, type NumberStyle } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import { partOf, type PartOf } from "#core/panels/parts/part-of.ts";
import type { Box } from "../../chart-kit/geometry.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { linePitch } from "../../chart-kit/line-pitch.ts";
import { shorten } from "../../chart-kit/shorten.ts";
import { strongest } from "../../chart-kit/shade.ts";
import type { HeatAnswer, HeatCell } from "#core/panels/heat/schema.ts";

/** What a heat grid is laid out from. */
export interface HeatOptions {
  readonly data: HeatAnswer;
  /** The same of the part that is selected; nothing where none is. */
  readonly part?: HeatAnswer | undefined;
  readonly width: number;
  /** The height there is; cells are drawn out to fill it. */
  readonly room?: number;
  readonly style: NumberStyle;
  readonly deltaStyle: NumberStyle;
  readonly hasLabels: boolean;
}

/** A cell with its place, and what its shade tells. */
export interface PlacedCell {
  readonly row: number;
  readonly column: number;
  readonly cell: HeatCell;
  readonly box: Box;
  /** 0 to 1; `null` where there is nothing to shade. */
  readonly strength: number | null;
  /** How much of it is the selected part, along its foot; `null` where a share says nothing. */
  readonly part: Box | null;
  readonly tone: "value" | "favourable" | "unfavourable" | "even";
  /** `null` where it does not fit. */
  readonly label: string | null;
}

/** A heat grid ready to draw. */
export interface HeatLayout {
  readonly cells: readonly PlacedCell[];
  readonly rows: readonly { readonly name: string; readonly fullName: string; readonly y: number }[];
  /** As many heads as fit beside each other. */
  readonly columns: readonly { readonly name: string; readonly x: number }[];
  readonly nameWidth: number;
  readonly height: number;
  /** The height that it needs. */
  readonly least: number;
  /** Between which values shades run; `null` where none is shaded. */
  readonly scale: { readonly low: string; readonly high: string } | null;
}

const HEAD = 20;
const BOTTOM = 4;
const LINE = 24;
const GAP = 8;
const LEAST_NAME = 46;
const NAME_SHARE = 0.3;
const LEAST_CELL = 7;

/** Lays cells out in rows and columns. Pure: the same options give the same marks. */
export function layoutHeat({ data, part, width, room = 0, style, deltaStyle, hasLabels }: HeatOptions): HeatLayout {
  const { rows, columns, cells } = data;
  const pitch = linePitch(LINE, rows.entries.length, room - HEAD - BOTTOM);
  const longest = Math.max(0, ...rows.entries.map(({ name }) => labelWidth(name) + 4));
  const nameWidth = Math.min(Math.max(LEAST_NAME, longest), Math.max(LEAST_NAME, width * NAME_SHARE));
  const left = nameWidth + GAP;
  const cellWidth = Math.max(LEAST_CELL, (width - left) / Math.max(1, columns.entries.length));
  const figureOf = (cell: HeatCell): number | undefined => {
    const figure =
      data.shade === "value"
        ? cell.actual
        : data.kpi.unit.kind === "percent"
          ? cell.variance.delta
          : cell.variance.deltaPercent;
    return "value" in figure ? figure.value : undefined;
  };
  const values = cells.flat().flatMap((cell) => figureOf(cell) ?? []);
  const low = Math.min(...values, Infinity);
  const isValue = data.shade === "value";
  const top = isValue ? Math.max(...values, -Infinity) : strongest(values.map(Math.abs));
  const textOf = (value: number) =>
    isValue
      ? writeNumber(value, style)
      : data.kpi.unit.kind === "percent"
        ? writeSigned(value, { ...deltaStyle, prefix: "", suffix: "" })
        : writeSignedPercent(value);
  const widest = Math.max(0, ...values.map((value) => labelWidth(textOf(value))));
  const isLabelled = hasLabels && widest <= cellWidth - 2;
  const weighed = part && cellsByPlace(part);
  const placed = cells.flatMap((line, row) =>
    line.map((cell, column): PlacedCell => {
      const value = figureOf(cell);
      const box = { x: left + column * cellWidth, y: HEAD + row * pitch, width: cellWidth, height: pitch };
      return {
        row,
        column,
        cell,
        box,
        strength: value === undefined ? null : strengthOf(value, { isValue, low, top, judged: data.shade, cell }),
        tone: toneOf(data, cell),
        part: weighed
          ? shareBox(box, partOf(data.kpi.unit, cell.actual, weighed.get(placeKey(data, { row, column }))?.actual))
          : null,
        label: value !== undefined && isLabelled ? textOf(value) : null,
      };
    }),
  );
  const heads = columns.entries.map(({ name }) => name);
  const shortHeads = heads.map((name) => (labelWidth(name) > cellWidth - 3 ? name.slice(0, 3) : name));
  const every = Math.max(1, Math.ceil((Math.max(1, ...shortHeads.map(labelWidth)) + 3) / cellWidth));
  return {
    cells: placed,
    rows: rows.entries.map(({ name }, i) => ({
      name: shorten(name, nameWidth),
      fullName: name,
      y: HEAD + i * pitch + pitch / 2 + 4,
    })),
    columns: shortHeads.flatMap((name, i) => (i % every === 0 ? [{ name, x: left + (i + 0.5) * cellWidth }] : [])),
    nameWidth,
    height: HEAD + rows.entries.length * pitch + BOTTOM,
    least: HEAD + rows.entries.length * LINE + BOTTOM,
    scale:
      values.length === 0
        ? null
        : isValue
          ? { low: textOf(low), high: textOf(top) }
          : { low: textOf(-top), high: textOf(top) },
  };
}

function strengthOf(
  value: number,
  {
    isValue,
    low,
    top,
    judged,
    cell,
  }: { isValue: boolean; low: number; top: number; judged: HeatAnswer["shade"]; cell: HeatCell },
): number {
  if (isValue) return top === low ? 0.5 : (value - low) / (top - low);
  // Judged, all that is off plan is shaded alike.
  if (judged === "judgement") return cell.variance.judgement === "on plan" ? 0 : 0.8;
  return top === 0 ? 0 : Math.min(1, Math.abs(value) / top);
}

function toneOf({ shade }: HeatAnswer, { variance: { judgement } }: HeatCell): PlacedCell["tone"] {
  if (shade === "value") return "value";
  return judgement === "favourable" || judgement === "unfavourable" ? judgement : "even";
}

const FOOT = 4;

function shareBox({ x, y, width, height }: Box, of: PartOf | null): Box | null {
  return of?.is === "share" ? { x, y: y + height - FOOT, width: width * of.share, height: FOOT - 1 } : null;
}

/** The selected part of a cell, which may stand elsewhere among its own. */
export function partAt(
  part: HeatAnswer,
  data: HeatAnswer,
  place: { readonly row: number; readonly column: number },
): Figure | undefined {
  return cellsByPlace(part).get(placeKey(data, place))?.actual;
}

/** A grid's cells by the keys of their row and column. */
function cellsByPlace(of: HeatAnswer): ReadonlyMap<string, HeatCell> {
  return new Map(
    of.cells.flatMap((line, row) => line.map((cell, column) => [placeKey(of, { row, column }), cell] as const)),
  );
}

function placeKey({ rows, columns }: HeatAnswer, { row, column }: { readonly row: number; readonly column: number }) {
  return JSON.stringify([rows.entries[row]!.key, columns.entries[column]!.key]);
}
