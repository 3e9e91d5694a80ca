import type { PanelComputation } from "../panel-kind.ts";
import { computeShare } from "./compute.ts";
import { shareTable } from "./table.ts";
import type { ShareChoice, ShareDefinition, ShareAnswer } from "./schema.ts";

/** How a KPI is made up, or how far its members are to what they are to reach. */
export const share: PanelComputation<ShareDefinition, ShareChoice, ShareAnswer> = {
  compute: computeShare,
  table: shareTable,
};
