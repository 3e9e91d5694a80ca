import { dyeKey } from "../../chart-kit/dyes.ts";
import type { BreakdownAnswer } from "#core/panels/breakdown/schema.ts";

/** What a part of the bars keeps its colour under; what is gathered keeps none. */
export function seriesDye({ key, dimension, members }: BreakdownAnswer["series"][number]): string | null {
  if (dimension === undefined) return dyeKey({ kpi: key });
  return members?.length === 1 ? dyeKey({ dimension, member: members[0]! }) : null;
}
