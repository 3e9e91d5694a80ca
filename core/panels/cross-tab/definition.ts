import type { PanelBase } from "../panel-base.ts";
import type { RepeatBy } from "../parts/repetition.ts";

/** How finely a cross-tab tells time. */
export const CROSS_GRAINS = ["month", "quarter", "year"] as const;
export type CrossGrain = (typeof CROSS_GRAINS)[number];

/** What one depth of a side is by; members and periods have a total, scenarios and KPIs do not add up. */
export type CrossAxis =
  | ({ readonly kind: "member"; readonly hasTotal: boolean } & RepeatBy)
  | { readonly kind: "period"; readonly grain: CrossGrain; readonly hasTotal: boolean }
  | { readonly kind: "scenario" }
  | { readonly kind: "kpi" };

/** What is said of each place where a row and a column meet. */
export const CROSS_MEASURES = [
  "value",
  "basis",
  "delta",
  "delta-percent",
  "share-of-row",
  "share-of-column",
  "share-of-total",
  "rank",
] as const;
export type CrossMeasure = (typeof CROSS_MEASURES)[number];

/** What the cells' shade tells. */
export const CROSS_SHADES = ["none", "value", "judgement"] as const;
export type CrossShade = (typeof CROSS_SHADES)[number];

/** Sides are nested at most so deep. */
export const MOST_DEEP = 3;
/** A table has at most so many lines and so many columns, before those without figures are left out. */
export const MOST_LINES = 20_000;
export const MOST_COLUMNS = 120;
/** So many figures are measured at most. */
export const MOST_CELLS = 60_000;
export const MOST_CROSS_KPIS = 20;
export const MOST_CROSS_PERIODS = 120;

/** The order of the rows by one column: which, by its places joined as `columnKey` does, which measure of it, which way. */
export interface CrossSort {
  readonly column: string;
  readonly measure: CrossMeasure;
  readonly isRising: boolean;
}

/** The figures, exactly: any of dimensions, KPIs, scenarios and periods down the side and along the top. */
export interface CrossTabDefinition extends PanelBase {
  readonly kind: "cross-tab";
  /** All of them are shown where a side is by KPI; else the first, until the reader chooses another. */
  readonly kpis: readonly string[];
  readonly rows: readonly CrossAxis[];
  readonly columns: readonly CrossAxis[];
  readonly measures: readonly CrossMeasure[];
  readonly shade: CrossShade;
  /** How many periods a side by period shows; those of the frame's span where nothing is said. */
  readonly last?: number | undefined;
  readonly sort?: CrossSort | undefined;
}

/** What a reader can choose of a cross-tab, as an address has it. */
export interface CrossTabChoice {
  readonly kpi?: string | undefined;
  readonly shade?: CrossShade | undefined;
  /** "set", or a column, a measure and "up" or "down", as `writeSort` joins them. */
  readonly sort?: string | undefined;
  /** A member of the outermost axis of members that the rows stand below. */
  readonly below?: string | undefined;
}

/** Whether what stands along an axis has a total. */
export function hasTotals(axis: CrossAxis): axis is Extract<CrossAxis, { readonly hasTotal: boolean }> {
  return axis.kind === "member" || axis.kind === "period";
}

/** A sorting as an address has it. */
export function writeSort({ column, measure, isRising }: CrossSort): string {
  return [column, measure, isRising ? "up" : "down"].join("~");
}

/** Reads what `writeSort` writes; `undefined` for anything else. */
export function readSort(text: string): CrossSort | undefined {
  const [column, measure, way, ...rest] = text.split("~");
  const known = CROSS_MEASURES.find((one) => one === measure);
  if (column === undefined || !known || rest.length > 0 || (way !== "up" && way !== "down")) return undefined;
  return { column, measure: known, isRising: way === "up" };
}

/** Whether anything of a cross-tab is compared. */
export function isComparing({ measures, shade }: Pick<CrossTabDefinition, "measures" | "shade">): boolean {
  return shade === "judgement" || measures.some((own) => own === "basis" || own === "delta" || own === "delta-percent");
}
