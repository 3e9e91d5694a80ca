import { sideSchema, type ProvenanceSide } from "#contract/provenance.ts";

/** A figure of the page: of a KPI, on a side, over the page's span or over months of its own. */
export interface FigureAddress {
  readonly kpi: string;
  readonly side: ProvenanceSide;
  /** "2026-10", or "2026-07..2026-09" */
  readonly months?: string;
}

/** A figure of the page as the address names it: "fuel.basis", "fuel.actual.2026-08", "fuel.actual.2026-07_2026-09". */
export function formatFigureAddress(kpi: string, side: ProvenanceSide, months?: string): string {
  return [kpi, side, ...(months === undefined ? [] : [months.replace("..", "_")])].join(".");
}

/** Reads what `formatFigureAddress` writes; `undefined` for anything else. */
export function parseFigureAddress(text: string | undefined): FigureAddress | undefined {
  const [kpi, side, months, ...rest] = text?.split(".") ?? [];
  const known = sideSchema.safeParse(side);
  if (!kpi || !known.success || rest.length > 0) return undefined;
  return { kpi, side: known.data, ...(months === undefined ? {} : { months: months.replace("_", "..") }) };
}

/** The part of a frame that the months of a figure decide. */
export function frameOfMonths(months: string): { asOf: string; span: string } {
  const [from = months, to] = months.split("..");
  return to === undefined ? { asOf: from, span: "month" } : { asOf: to, span: months };
}
