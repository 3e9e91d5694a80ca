import { formatNumber } from "./number-words.ts";

/** So many of a thing, in the singular where it is one: "1 row", "12,000 rows", "no rows". */
export function countOf(count: number, one: string, many = `${one}s`): string {
  if (count === 0) return `no ${many}`;
  return `${formatNumber(count, 0)} ${count === 1 ? one : many}`;
}
