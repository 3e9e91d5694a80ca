import type { MoneyUnit } from "../words/number-words.ts";

/** What every panel has, whatever its kind; where nothing is said, words are drafted from the figures. */
export interface PanelBase {
  readonly key: string;
  readonly title?: string | undefined;
  readonly subtitle?: string | undefined;
  /** The unit money is shown in here, whatever the page's is. */
  readonly unit?: MoneyUnit | undefined;
}
