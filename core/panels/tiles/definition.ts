import type { PanelBase } from "../panel-base.ts";
import type { RepeatBy, RepeatOrder } from "../parts/repetition.ts";
import type { TileFigureKind } from "./figure-kinds.ts";

/** What tiles show small where nothing else is said. */
export const DEFAULT_TILE_FIGURES: readonly TileFigureKind[] = ["month", "year-to-date", "prior-year", "run-rate-year"];

/**
 * KPIs as tiles: one large figure each, with small ones. Repeated by a dimension there is a
 * tile for each member, and the KPIs are layers of which one is shown at a time.
 */
export interface TilesDefinition extends PanelBase {
  readonly kind: "tiles";
  readonly kpis: readonly string[];
  readonly figures?: readonly TileFigureKind[] | undefined;
  /** A KPI that each tile has besides its own, over the same span and scope. */
  readonly second?: string | undefined;
  /** How many tiles stand in a row where there is room; as many as fit where nothing is said. */
  readonly perRow?: number | undefined;
  /** Whether tiles are marked whose month lies outside of what was expected of it. */
  readonly marksOutside?: boolean | undefined;
  readonly repeatBy: RepeatBy | null;
  readonly order: RepeatOrder;
  /** Whether the order is turned round: the lowest, the worst, the last first. */
  readonly isReversed: boolean;
  /** How many members stand apart; the others are gathered in one tile. `null`: all. */
  readonly top: number | null;
}

/** More tiles than this in a row are too narrow for their figures. */
export const MOST_IN_ROW = 8;

/** What a reader can choose of tiles, as an address has it. */
export interface TilesChoice {
  /** The layer that is shown. */
  readonly kpi?: string | undefined;
  readonly order?: RepeatOrder | undefined;
  readonly reversed?: "yes" | "no" | undefined;
  readonly top?: number | "all" | undefined;
  /** The member below which the reader looks. */
  readonly below?: string | undefined;
}
