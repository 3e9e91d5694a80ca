import type { PanelComputation } from "../panel-kind.ts";
import { computeShare, type ShareAnswer } from "./compute.ts";
import type { ShareChoice, ShareDefinition } from "./definition.ts";
import { shareTable } from "./table.ts";

/** How a KPI is made up, or how far its members are to what they are to reach. */
export const share: PanelComputation<ShareDefinition, ShareChoice, ShareAnswer> = {
  compute: computeShare,
  table: shareTable,
};
