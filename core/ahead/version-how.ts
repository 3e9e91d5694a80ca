import type { AheadSettings } from "./schema.ts";

/** How a version was made: kept with it, so that it can be judged, and made anew when the next month is there. */
export interface VersionHow {
  readonly kpi: string;
  readonly split: { readonly dimension: string; readonly level: string | null } | null;
  /** The scope it was made for, as an address writes it; empty for everything. */
  readonly scope: string;
  readonly settings: AheadSettings;
  /** How many series were forecast. */
  readonly series: number;
  /** The models of the inputs, by what they forecast. */
  readonly models: readonly { readonly name: string; readonly model: string }[];
}
