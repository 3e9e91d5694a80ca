import type { Month } from "../../calendar/month.ts";
import { shiftBack } from "../../compare/shift-back.ts";
import type { Dimension } from "../../dimensions/dimension.ts";
import { isAlive } from "../../dimensions/life.ts";

/** Whether a member existed in some months, in those that they are compared with, in both, or in neither. */
export type MemberLife = "both" | "new" | "gone" | "neither";

/** A member's life in months and in those `shift` months earlier. */
export function memberLife(dimension: Dimension, key: string, months: readonly Month[], shift: number): MemberLife {
  const now = isAlive(dimension, [key], months);
  const then = isAlive(dimension, [key], shiftBack(months, shift));
  return now ? (then ? "both" : "new") : then ? "gone" : "neither";
}
