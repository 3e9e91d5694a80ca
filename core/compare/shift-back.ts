import type { Month } from "../calendar/month.ts";

/** The months a number of months earlier; the same list where it is none. */
export function shiftBack(months: readonly Month[], by: number): readonly Month[] {
  return by === 0 ? months : months.map((month) => month - by);
}
