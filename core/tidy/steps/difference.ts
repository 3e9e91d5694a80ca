import { tidyStep } from "../step-kind.ts";
import { column, columns, text } from "../settings.ts";
import { readNumber } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import type { Decimal } from "../../figures/exact-sum.ts";
import { placesOf } from "../step-run.ts";

/**
 * Of figures that run on, such as a balance after each entry or a year to date, what each row adds to the row before it
 * with the same texts in `by`; the first of them adds all it has.
 */
export const difference = tidyStep(
  "difference",
  { column: column(), by: columns("Group by"), into: text("New column") },
  {
    name: "Take differences",
    note: "of running balances, or of years to date",
    fresh: ({ first }) => ({ column: first, by: [], into: "Change" }),
    needs: (step) => [step.column, ...step.by],
    makes: (step) => [step.into],
    changes: () => [],
    madeFrom: (step, column) => (column === step.into ? [step.column] : [column]),
    start: (step, columns, { mark }) => {
      const place = columns.indexOf(step.column);
      const places = placesOf(columns, step.by);
      const before = new Map<string, Decimal>();
      return {
        columns: [...columns, step.into],
        take(row, emit) {
          const value = readNumber(row.cells[place] ?? "", mark);
          const key = JSON.stringify(places.map((i) => (row.cells[i] ?? "").trim()));
          const last = before.get(key);
          if (value) before.set(key, value);
          const cells = Array.from({ length: columns.length }, (_, i) => row.cells[i] ?? "");
          emit({ line: row.line, cells: [...cells, value ? writeDecimal(minus(value, last), mark) : ""] });
        },
      };
    },
    say: (step) =>
      `${step.into}: the change in ${step.column} from the row before${step.by.length > 0 ? `, by ${step.by.join(" and ")}` : ""}`,
  },
);

function minus(a: Decimal, b: Decimal | undefined): Decimal {
  if (b === undefined) return a;
  const decimals = Math.max(a.decimals, b.decimals);
  return { units: a.units * 10 ** (decimals - a.decimals) - b.units * 10 ** (decimals - b.decimals), decimals };
}
