import type { PanelComputation } from "../panel-kind.ts";
import { computeMemberRows, computeScorecard, type MemberRows } from "./compute.ts";
import { scorecardTable } from "./table.ts";
import type { ScorecardDefinition, ScorecardAnswer } from "./schema.ts";

/** KPIs by row, compared, in groups; each row opens into the members of a dimension. */
export const scorecard: PanelComputation<
  ScorecardDefinition,
  object,
  ScorecardAnswer,
  { readonly kpi: string; readonly parent?: string | undefined },
  MemberRows
> = {
  compute: (definition, _choice, question) => computeScorecard(definition, question),
  detail: computeMemberRows,
  table: scorecardTable,
};
