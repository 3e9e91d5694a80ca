import type { PanelComputation } from "../panel-kind.ts";
import { computeBridge, type BridgeAnswer } from "./compute.ts";
import type { BridgeChoice, BridgeDefinition } from "./definition.ts";
import { bridgeTable } from "./table.ts";

/** What takes a KPI from one figure to another, step by step. */
export const bridge: PanelComputation<BridgeDefinition, BridgeChoice, BridgeAnswer> = {
  compute: computeBridge,
  table: bridgeTable,
};
