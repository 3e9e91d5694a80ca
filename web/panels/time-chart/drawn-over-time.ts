import type { NumberStyle } from "#core/formats/number-words.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** What each way to draw a chart over time is given. */
export interface DrawnOverTime {
  readonly data: TimeChartAnswer;
  /** The same chart of the part that is weighed. */
  readonly part: TimeChartAnswer | undefined;
  readonly width: number;
  readonly height: number;
  readonly style: NumberStyle;
  readonly deltaStyle: NumberStyle;
  readonly onTable: () => void;
  /** Opens where a period's actual comes from. */
  readonly onAsk: (months: string) => void;
}
