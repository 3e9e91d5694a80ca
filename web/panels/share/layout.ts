import { arc } from "d3-shape";

/** A part of a ring or a ruler. */
export interface LaidShare {
  /** Where it begins and ends, as fractions of the whole. */
  readonly from: number;
  readonly to: number;
}

const TURN = 2 * Math.PI;

/** Parts one after the other, as fractions of their sum; they fill the whole to its end. */
export function laidShares(values: readonly number[]): LaidShare[] {
  const sum = values.reduce((all, value) => all + Math.max(0, value), 0);
  let at = 0;
  return values.map((value) => {
    const from = sum === 0 ? 0 : at / sum;
    at += Math.max(0, value);
    return { from, to: sum === 0 ? 0 : at / sum };
  });
}

/** The path of a part of a ring around its middle. */
export function ringPath({ from, to }: LaidShare, outer: number, inner: number): string {
  return (
    arc()({ startAngle: from * TURN, endAngle: to * TURN, innerRadius: inner, outerRadius: outer, padAngle: 0 }) ?? ""
  );
}

/** How much of a ring or a bar an attainment fills: all of it once it is reached; never less than none. */
export function filled(attainment: number): number {
  return Math.max(0, Math.min(1, attainment));
}
