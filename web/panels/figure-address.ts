import { sideSchema, type ProvenanceSide } from "#contract/provenance.ts";

/** A figure of the page: of a KPI, on a side, over the page's span or in one month. */
export interface FigureAddress {
  readonly kpi: string;
  readonly side: ProvenanceSide;
  /** "2026-10" */
  readonly month?: string;
}

/** A figure of the page as the address names it: "fuel.basis", "fuel.actual.2026-08". */
export function formatFigureAddress(kpi: string, side: ProvenanceSide, month?: string): string {
  return [kpi, side, ...(month === undefined ? [] : [month])].join(".");
}

/** Reads what `formatFigureAddress` writes; `undefined` for anything else. */
export function parseFigureAddress(text: string | undefined): FigureAddress | undefined {
  const [kpi, side, month, ...rest] = text?.split(".") ?? [];
  const known = sideSchema.safeParse(side);
  if (!kpi || !known.success || rest.length > 0) return undefined;
  return { kpi, side: known.data, ...(month === undefined ? {} : { month }) };
}
