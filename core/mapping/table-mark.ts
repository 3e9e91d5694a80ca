import type { ColumnProfile } from "../reading/column-profile.ts";
import { detectDecimalMark, type DecimalMark } from "../reading/read-number.ts";

/** The decimal mark most number columns are written with, where any of them tells. */
export function markOf(profiles: readonly ColumnProfile[]): DecimalMark {
  const numbers = profiles.filter((p) => p.type === "number");
  const telling = numbers.filter((p) => p.tellsMark);
  // Columns that are too short to tell do so together.
  if (telling.length === 0) return detectDecimalMark(numbers.flatMap(({ examples }) => examples)).mark;
  return telling.filter((p) => p.mark === ",").length * 2 > telling.length ? "," : ".";
}
