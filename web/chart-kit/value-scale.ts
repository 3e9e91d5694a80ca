import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";
import { writeNumber, type NumberStyle } from "#core/formats/number-words.ts";

/** Where a value stands on an upright axis, and what the axis says. */
export interface ValueScale {
  /** The height of a value, in pixels from the top. */
  readonly at: (value: number) => number;
  /** Where bars begin: zero, or the end of the axis that is nearest to it. */
  readonly baseline: number;
  /** Whether the axis does not start at zero and must be drawn torn. */
  readonly isShortened: boolean;
  readonly ticks: readonly Tick[];
}

export interface Tick {
  readonly y: number;
  readonly label: string;
}

const TICKS = 4;

/** The scale of an upright axis for values, from its lowest pixel to its highest. */
export function valueScale(
  values: readonly number[],
  { bottom, top, marks, style }: { bottom: number; top: number; marks: "columns" | "lines"; style: NumberStyle },
): ValueScale {
  const { domain, isShortened } = valueDomain(values, marks);
  const scale = scaleLinear(domain, [bottom, top]);
  if (!isShortened) scale.nice(TICKS);
  const [low, high] = scale.domain() as [number, number];
  const ticks = scale.ticks(TICKS);
  const tickStyle = styleOfTicks(style, ticks);
  return {
    at: (value) => scale(value),
    baseline: scale(Math.max(low, Math.min(0, high))),
    isShortened,
    ticks: ticks.map((value) => ({ y: scale(value), label: writeNumber(value, tickStyle) })),
  };
}

/** Columns start at zero, always. Lines may use a shortened axis where zero would flatten them. */
export function valueDomain(
  values: readonly number[],
  marks: "columns" | "lines",
): { domain: [number, number]; isShortened: boolean } {
  const [low = 0, high = 1] = extent(values) as [number | undefined, number | undefined];
  // Nothing but zeros still needs an axis.
  if (low === 0 && high === 0) return { domain: [0, 1], isShortened: false };
  if (marks === "columns" || low <= 0 || low / high < 0.35)
    return { domain: [Math.min(0, low), Math.max(0, high)], isShortened: false };
  const space = (high - low || Math.abs(high) * 0.1) * 0.15;
  return { domain: [low - space, high + space], isShortened: true };
}

/** As many decimals as the ticks differ by, and no more. */
function styleOfTicks(style: NumberStyle, ticks: readonly number[]): NumberStyle {
  const gap = Math.abs(((ticks[1] ?? 1) - (ticks[0] ?? 0)) * style.factor);
  return { ...style, decimals: gap >= 1 || gap === 0 ? 0 : Math.min(4, Math.ceil(-Math.log10(gap))) };
}

/** The share of a strip that the side without variances keeps, so that its zero line has room below or above. */
const EMPTY_SIDE = 0.12;

/**
 * The scale of a strip of variances: zero inside, the same scale up and down, room for labels at both ends. Returns the
 * height of a variance in pixels from the top.
 */
export function varianceScale(
  deltas: readonly number[],
  { top, height, room }: { top: number; height: number; room: number },
): (delta: number) => number {
  const largest = Math.max(...deltas.map(Math.abs), 0) || 1;
  const hasUp = deltas.some((d) => d > 0);
  const hasDown = deltas.some((d) => d < 0);
  const up = hasUp || !hasDown ? largest : largest * EMPTY_SIDE;
  const down = hasDown || !hasUp ? largest : largest * EMPTY_SIDE;
  const scale = scaleLinear([-down, up], [top + height - room, top + room]);
  return (delta) => scale(delta);
}
