import { dyeKey } from "../../chart-kit/dyes.ts";
import type { ChartPart } from "#core/panels/time-chart/schema.ts";

/** What a series keeps its colour under; what is gathered keeps none. */
export function partDye({ key, dimension, member }: ChartPart): string | null {
  if (dimension === null) return dyeKey({ kpi: key });
  return member && dyeKey({ dimension, member: member.key });
}
