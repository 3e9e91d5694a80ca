import { sideSchema, type ProvenanceSide } from "#contract/provenance.ts";

/** A figure of the page as the address names it: "fuel.basis". */
export function formatFigureAddress(kpi: string, side: ProvenanceSide): string {
  return `${kpi}.${side}`;
}

/** Reads what `formatFigureAddress` writes; `undefined` for anything else. */
export function parseFigureAddress(text: string | undefined): { kpi: string; side: ProvenanceSide } | undefined {
  const [kpi, side] = text?.split(".") ?? [];
  const known = sideSchema.safeParse(side);
  return kpi && known.success ? { kpi, side: known.data } : undefined;
}
