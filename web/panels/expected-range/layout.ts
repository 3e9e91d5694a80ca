import type { NumberStyle } from "#core/formats/number-words.ts";
import type { Box, Place } from "../../chart-kit/geometry.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { valueScale, type ValueScale } from "../../chart-kit/value-scale.ts";
import type { ExpectedRangeAnswer } from "#core/panels/expected-range/schema.ts";

/** A period's marks. */
export interface RangeMark {
  readonly x: number;
  /** The period's full column of space, for pointing at. */
  readonly band: Box;
  readonly seen: Place | null;
  /** What was expected: in the middle, and from where to where; `null` while it is not known. */
  readonly range: { readonly expected: number; readonly top: number; readonly bottom: number } | null;
  readonly isOutside: boolean;
  /** The actual of the selected part. */
  readonly part: Place | null;
  /** As the axis has it, where there is room. */
  readonly label: string | null;
}

/** A range ready to draw. */
export interface RangeLayout {
  readonly height: number;
  readonly least: number;
  readonly marks: readonly RangeMark[];
  /** Where each event is that was not dismissed, by its place in the list. */
  readonly events: readonly {
    readonly x: number;
    readonly width: number;
    readonly centre: number;
    /** Whether it is known what it was: it calls for nobody any more. */
    readonly isKnown: boolean;
  }[];
  readonly scale: ValueScale;
  readonly plot: Box;
  readonly axisY: number;
}

const LEAST_HEIGHT = 180;
const MARGIN = { top: 22, right: 8, left: 50, bottom: 20 };

/** Lays out a line in its band, with the stretches of its events. Pure. */
export function layoutRange({
  data: { points, events },
  part,
  width,
  height: room,
  style,
}: {
  readonly data: Pick<ExpectedRangeAnswer, "points" | "events">;
  /** The same of the part that is selected; nothing where none is. */
  readonly part?: Pick<ExpectedRangeAnswer, "points"> | undefined;
  readonly width: number;
  readonly height: number;
  readonly style: NumberStyle;
}): RangeLayout {
  const height = Math.max(LEAST_HEIGHT, room);
  // A part that has no share in it would only flatten the whole.
  const hasPart = part?.points.some(({ value }) => value !== null && value !== 0) ?? false;
  const parts = new Map(hasPart ? part!.points.map(({ period, value }) => [period, value]) : []);
  const plot: Box = {
    x: MARGIN.left,
    y: MARGIN.top,
    width: Math.max(1, width - MARGIN.left - MARGIN.right),
    height: Math.max(1, height - MARGIN.top - MARGIN.bottom),
  };
  const scale = valueScale(
    [...points.flatMap(({ value, lower, upper }) => [value, lower, upper]), ...parts.values()].filter(
      (at) => at !== null,
    ),
    { top: plot.y, bottom: plot.y + plot.height, marks: "lines", style },
  );
  const step = plot.width / Math.max(1, points.length);
  const every = Math.max(1, Math.ceil((Math.max(0, ...points.map(({ short }) => labelWidth(short))) + 8) / step));
  const marks = points.map(({ period, value, expected, lower, upper, isOutside, short }, i): RangeMark => {
    const x = plot.x + step * (i + 0.5);
    const own = parts.get(period) ?? null;
    return {
      x,
      band: { x: x - step / 2, y: 0, width: step, height },
      seen: value === null ? null : { x, y: scale.at(value) },
      range:
        expected === null || lower === null || upper === null
          ? null
          : { expected: scale.at(expected), top: scale.at(upper), bottom: scale.at(lower) },
      isOutside,
      part: own === null ? null : { x, y: scale.at(own) },
      label: i % every === 0 ? short : null,
    };
  });
  const placeOf = new Map(points.map(({ period }, i) => [period, i]));
  return {
    height,
    least: LEAST_HEIGHT,
    marks,
    events: keptEvents(events).map(({ from, to, said }) => {
      // An event of a member may begin before the first period that is shown.
      const [first, last] = [placeOf.get(from) ?? 0, placeOf.get(to) ?? points.length - 1];
      const x = plot.x + step * first;
      const end = plot.x + step * (last + 1);
      return { x, width: Math.max(0, end - x), centre: (x + end) / 2, isKnown: said !== null };
    }),
    scale,
    plot,
    axisY: plot.y + plot.height + 15,
  };
}

/** Events in the order in which they are numbered, without those that were dismissed. */
export function keptEvents<E extends Pick<ExpectedRangeAnswer["events"][number], "said">>(events: readonly E[]): E[] {
  return events.filter(({ said }) => said?.verdict !== "dismissed");
}
