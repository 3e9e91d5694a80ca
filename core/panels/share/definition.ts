import type { PanelBase } from "../panel-base.ts";

/** What a part is measured by: the whole that all make together, or what it is to reach itself. */
export const SHARE_OF = ["whole", "basis"] as const;
export type ShareOf = (typeof SHARE_OF)[number];

/** A ring, or a straight ruler; of attainment, rings or bars one by one. */
export const SHARE_SHAPES = ["ring", "ruler"] as const;
export type ShareShape = (typeof SHARE_SHAPES)[number];

/** Parts beyond this many are gathered: nobody tells more of them apart. */
export const MOST_SHARES = 7;

/** How a KPI is made up, or how far its members are to what they are to reach. */
export interface ShareDefinition extends PanelBase {
  readonly kind: "share";
  readonly kpi: string;
  readonly by: { readonly dimension: string; readonly level: string | null };
  readonly of: ShareOf;
  readonly shape: ShareShape;
}

/** What a reader can choose of it, as an address has it. */
export interface ShareChoice {
  readonly kpi?: string | undefined;
  readonly of?: ShareOf | undefined;
  readonly below?: string | undefined;
  readonly table?: "open" | undefined;
}
