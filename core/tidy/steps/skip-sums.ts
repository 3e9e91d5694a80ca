import { tidyStep } from "../step-kind.ts";
import { columns } from "../settings.ts";
import { readNumber, toUnits, type DecimalMark } from "../../reading/read-number.ts";
import { nameColumns, placesOf } from "../step-run.ts";

/** Amounts are compared to the millionth. */
const DECIMALS = 6;

/**
 * Drops subtotals, told by their arithmetic: a row whose amounts are the sums of the rows above it since the last such
 * row, or of the subtotals so far, and that leaves a text empty which all of those have. Being a sum by chance is not
 * enough.
 */
export const skipSums = tidyStep(
  "skip-sums",
  { columns: columns() },
  {
    name: "Skip subtotals",
    note: "rows that are the sums of those above",
    fresh: () => ({ columns: [] }),
    needs: (step) => step.columns,
    changes: () => [],
    start: (step, columns, { mark }) => {
      const places = placesOf(columns, step.columns);
      const texts = columns.map((_, i) => i).filter((i) => !places.includes(i));
      const rows = sumOf(places.length, texts);
      const subtotals = sumOf(places.length, texts);
      return {
        columns,
        take(row, emit) {
          const amounts = places.map((place) => unitsIn(row.cells[place], mark));
          const isEmpty = (i: number) => (row.cells[i] ?? "").trim() === "";
          if (rows.is(amounts, isEmpty)) {
            subtotals.add(amounts, () => true, rows.filled());
            rows.clear();
            return;
          }
          if (rows.count() === 0 && subtotals.is(amounts, isEmpty)) {
            subtotals.clear();
            return;
          }
          rows.add(amounts, (i) => !isEmpty(i));
          emit(row);
        },
      };
    },
    say: (step) => `Skip rows whose ${nameColumns(step.columns)} is the sum of those above`,
  },
);

/** What some rows come to, and which texts all of them have. */
function sumOf(width: number, texts: readonly number[]) {
  let sums = Array<bigint>(width).fill(0n);
  let filled = [...texts];
  let count = 0;
  return {
    count: () => count,
    filled: () => filled,
    add(amounts: readonly (bigint | null)[], has: (place: number) => boolean, among: readonly number[] = filled) {
      sums = sums.map((sum, i) => sum + (amounts[i] ?? 0n));
      filled = filled.filter((place) => among.includes(place) && has(place));
      count += 1;
    },
    is: (amounts: readonly (bigint | null)[], isEmpty: (place: number) => boolean) =>
      count >= 2 &&
      amounts.some((amount) => amount !== null && amount !== 0n) &&
      amounts.every((amount, i) => (amount ?? 0n) === sums[i]) &&
      filled.some(isEmpty),
    clear() {
      sums = sums.map(() => 0n);
      filled = [...texts];
      count = 0;
    },
  };
}

function unitsIn(text: string | undefined, mark: DecimalMark): bigint | null {
  const value = readNumber(text ?? "", mark);
  const units = value && toUnits(value, DECIMALS);
  return typeof units === "number" ? BigInt(units) : null;
}
