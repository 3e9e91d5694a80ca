import type { PanelBase } from "../panel-base.ts";

/** The parts of a frame, and of a panel's choices, that a reader can be given to choose. */
export const CHOOSER_FRAME_PARTS = ["asOf", "span", "basis", "scope"] as const;
export const CHOOSER_PANEL_PARTS = ["kpi", "grain", "marks", "year"] as const;
export const CHOOSER_PARTS = [...CHOOSER_PANEL_PARTS, ...CHOOSER_FRAME_PARTS] as const;
export type ChooserPart = (typeof CHOOSER_PARTS)[number];

/** A chooser holds at most this many options. */
export const MOST_OPTIONS = 60;

/** A control by which the reader changes one part of named panels together. */
export interface ChooserDefinition extends PanelBase {
  readonly kind: "chooser";
  readonly sets: ChooserPart;
  /** What can be chosen, as an address writes it. */
  readonly options: readonly string[];
  /** The panels that follow; all of the page that can, where `null`. */
  readonly panels: readonly string[] | null;
}

/** What the reader chose; nothing leaves the panels as they are arranged. */
export interface ChooserChoice {
  readonly chosen?: string | undefined;
}
