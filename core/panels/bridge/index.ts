import type { PanelComputation } from "../panel-kind.ts";
import { computeBridge } from "./compute.ts";
import { bridgeTable } from "./table.ts";
import type { BridgeChoice, BridgeDefinition, BridgeAnswer } from "./schema.ts";

/** What takes a KPI from one figure to another, step by step. */
export const bridge: PanelComputation<BridgeDefinition, BridgeChoice, BridgeAnswer> = {
  compute: computeBridge,
  table: bridgeTable,
};
