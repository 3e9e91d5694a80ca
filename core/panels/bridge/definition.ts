import type { ChartBase } from "../panel-base.ts";

/** From where a bridge leads to the actual; `to-date` leads from the actual so far to the year's end. */
export const BRIDGE_STARTS = ["basis", "prior-period", "prior-year", "to-date"] as const;
export type BridgeStart = (typeof BRIDGE_STARTS)[number];

/** What its steps are: accounts, members, months, or the effects of volume, mix and price. */
export type BridgeBy =
  | { readonly kind: "account" }
  | { readonly kind: "month" }
  | { readonly kind: "member"; readonly dimension: string; readonly level: string | null }
  /** `quantity` is the KPI that counts what is sold, by the members of a dimension. */
  | {
      readonly kind: "effects";
      readonly quantity: string;
      readonly dimension: string;
      readonly level: string | null;
    };

/** In which order steps stand: as the tree has them, or the largest effect first. */
export const BRIDGE_ORDERS = ["tree", "effect"] as const;
export type BridgeOrder = (typeof BRIDGE_ORDERS)[number];

/** At most so many steps stand apart. */
export const MOST_STEPS = 40;

/** What takes a KPI from one figure to another. */
export interface BridgeDefinition extends ChartBase {
  readonly kind: "bridge";
  readonly kpi: string;
  readonly from: BridgeStart;
  readonly by: BridgeBy;
  readonly order: BridgeOrder;
  /** How many steps stand apart; the smaller ones are gathered in one. `null`: all. */
  readonly top: number | null;
  /** Whether sums stand between the steps where the tree has them. */
  readonly hasSubtotals: boolean;
  /** Whether the axis begins at zero; by the size of the steps where nothing is said. */
  readonly axis?: BridgeAxis | undefined;
}

export const BRIDGE_AXES = ["whole", "short"] as const;
export type BridgeAxis = (typeof BRIDGE_AXES)[number];

/** What a reader can choose of a bridge, as an address has it. */
export interface BridgeChoice {
  readonly kpi?: string | undefined;
  readonly from?: BridgeStart | undefined;
  readonly below?: string | undefined;
  readonly axis?: BridgeAxis | undefined;
  readonly table?: "open" | undefined;
}
