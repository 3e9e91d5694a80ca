import { tidyStep } from "../step-kind.ts";
import { columns } from "../settings.ts";
import { ExactSum } from "../../figures/exact-sum.ts";
import { readNumber } from "../../reading/read-number.ts";
import { placesOf } from "../step-run.ts";

/** Rows that agree in all columns but the summed ones become one, in the first one's place. */
export const mergeDuplicates = tidyStep(
  "merge-duplicates",
  { sum: columns("Add up") },
  {
    name: "Merge duplicates",
    note: "rows alike but for their amounts",
    fresh: () => ({ sum: [] }),
    needs: (step) => step.sum,
    changes: (step) => step.sum,
    start: (step, columns, { mark }) => {
      const places = placesOf(columns, step.sum);
      const summed = new Set(places);
      const rest = columns.map((_, i) => i).filter((i) => !summed.has(i));
      const groups = new Map<string, { line: number; cells: string[]; sums: (ExactSum | null)[]; rows: number }>();
      return {
        columns,
        take(row) {
          const key = JSON.stringify(rest.map((i) => row.cells[i] ?? ""));
          let group = groups.get(key);
          if (!group) {
            groups.set(key, (group = { line: row.line, cells: [...row.cells], sums: places.map(() => null), rows: 0 }));
          }
          group.rows += 1;
          for (const [i, place] of places.entries()) {
            const value = readNumber(row.cells[place] ?? "", mark);
            if (value) (group.sums[i] ??= new ExactSum()).add(value.units, value.decimals);
          }
        },
        end(emit) {
          for (const { line, cells, sums, rows } of groups.values()) {
            if (rows > 1) {
              sums.forEach((sum, i) => {
                if (sum) cells[places[i]!] = mark === "," ? sum.toText().replace(".", ",") : sum.toText();
              });
            }
            emit({ line, cells });
          }
          groups.clear();
        },
      };
    },
    say: (step) => `Merge rows that agree in all but ${step.sum.join(" and ")}`,
  },
);
