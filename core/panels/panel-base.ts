import type { FrameText } from "../frame/resolve-frame.ts";
import type { MoneyUnit } from "../words/number-words.ts";

/** What every panel has, whatever its kind; where nothing is said, words are drafted from the figures. */
export interface PanelBase {
  readonly key: string;
  readonly title?: string | undefined;
  readonly subtitle?: string | undefined;
  /** The unit money is shown in here, whatever the page's is. */
  readonly unit?: MoneyUnit | undefined;
  /** Decimals of its figures, whatever its KPIs' are. */
  readonly decimals?: number | undefined;
  /** The parts of the frame that it keeps whatever the page says, as an address writes them. */
  readonly holds?: HeldFrame | undefined;
  /** Whether neither narrowing nor weighing reaches it. */
  readonly isApart?: boolean | undefined;
  /** Whether it stands on the page without a frame of its own. */
  readonly isBare?: boolean | undefined;
  /** The page with the detail that it leads to. */
  readonly link?: PageAddress | undefined;
  /** The pages that its KPIs lead to, by their keys. */
  readonly links?: Readonly<Record<string, PageAddress>> | undefined;
}

/** What a chart has besides; where nothing is said, its axes say what they measure. */
export interface ChartBase extends PanelBase {
  /** What stands at the axis of its values. */
  readonly axisTitle?: string | undefined;
  /** What stands at the axis across. */
  readonly acrossTitle?: string | undefined;
  readonly hidesLegend?: boolean | undefined;
}

/** The parts of a frame that a panel can hold. */
export type HeldFrame = Pick<FrameText, "asOf" | "span" | "basis" | "scope" | "shown">;

/** A page of a pack, by its keys. */
export interface PageAddress {
  readonly pack: string;
  readonly page: string;
}
