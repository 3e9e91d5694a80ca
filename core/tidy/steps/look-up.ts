import { z } from "zod";
import { tidyStep } from "../step-kind.ts";
import { plainText } from "../settings.ts";
import { indexTable } from "../lookup-table.ts";

/** Texts that were not found and are kept to be shown. */
const MISSED_KEPT = 20;

/** New columns from the row of another table that a column names. What it does not name leaves them empty, and is said. */
export const lookUp = tidyStep(
  "look-up",
  {
    /** The table's key, and what it is called. */
    table: plainText,
    named: plainText,
    column: plainText,
    by: plainText,
    take: z
      .array(z.object({ column: plainText, into: plainText }))
      .max(20)
      .readonly(),
  },
  {
    name: "Look up",
    note: "names or classes in another file or sheet",
    fresh: ({ first }) => ({ table: "", named: "", column: first, by: "", take: [] }),
    needs: (step) => [step.column],
    makes: (step) => step.take.map(({ into }) => into),
    changes: (step) => step.take.map(({ into }) => into),
    madeFrom: (step, column) => (step.take.some(({ into }) => into === column) ? [] : [column]),
    problem: (step, _columns, { tables }) => {
      const table = tables?.get(step.table);
      if (!table) return `The table “${step.named}” is no longer there. Choose another, or upload its file again.`;
      if (step.take.length === 0) return "No column is chosen. Choose at least one.";
      const missing = [step.by, ...step.take.map(({ column }) => column)].find((name) => !table.columns.includes(name));
      if (missing !== undefined)
        return `“${step.named}” has no column “${missing}”. Choose one of ${table.columns.join(", ")}.`;
      const { ambiguous } = indexTable(
        table,
        step.by,
        step.take.map(({ column }) => column),
      );
      return ambiguous === null
        ? null
        : `“${step.named}” has several rows for “${ambiguous}” that say different things. Keep one of them, or look up by another column.`;
    },
    start: (step, columns, { tables }) => {
      const table = tables?.get(step.table);
      if (!table) throw new RangeError(`There is no table "${step.table}".`);
      const wanted = step.take.map(({ column }) => column);
      const index = indexTable(table, step.by, wanted);
      const places = wanted.map((name) => table.columns.indexOf(name));
      const place = columns.indexOf(step.column);
      const missed = { lines: 0, texts: new Set<string>() };
      return {
        columns: [...columns, ...step.take.map(({ into }) => into)],
        take(row, emit) {
          const cells = Array.from(columns, (_, i) => row.cells[i] ?? "");
          const text = (cells[place] ?? "").trim();
          const found = text === "" ? undefined : index.find(text);
          if (!found && text !== "") {
            missed.lines += 1;
            if (missed.texts.size < MISSED_KEPT) missed.texts.add(text);
          }
          emit({ line: row.line, cells: [...cells, ...places.map((i) => (found?.[i] ?? "").trim())] });
        },
        missed: () => ({ lines: missed.lines, texts: [...missed.texts] }),
      };
    },
    say: (step) =>
      `Look up ${step.column} in ${step.named}: ${step.take.map(({ column, into }) => (column === into ? into : `${column} as ${into}`)).join(", ")}`,
  },
);
