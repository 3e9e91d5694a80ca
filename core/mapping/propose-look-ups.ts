import { indexTable, type LookupTable } from "../tidy/lookup-table.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
import { freeName } from "./free-name.ts";
import { plainName } from "../reading/names.ts";
import type { Sample } from "./sample.ts";

/** The share of a column's texts that a table must know: less where both columns are called the same. */
const LEAST_KNOWN = 0.8;
const LEAST_KNOWN_OF_NAME = 0.5;
/** Columns that are taken from a table without being asked for. */
const MOST_TAKEN = 8;

/**
 * Look-ups that tables at hand ask for: where a column of a table names each of its rows once and knows nearly all texts
 * of a column of the file, the rest of that table says more about them.
 */
export function proposeLookUps(sample: Sample, tables: readonly LookupTable[]): TidyStep[] {
  const steps: TidyStep[] = [];
  let columns = sample.columns;
  for (const table of tables) {
    const step = proposeLookUp({ columns, rows: sample.rows }, table);
    if (!step) continue;
    steps.push(step);
    columns = [...columns, ...step.take.map(({ into }) => into)];
  }
  return steps;
}

/** The look-up that fits a file's columns and a table best; `undefined` where none does. */
export function proposeLookUp(sample: Sample, table: LookupTable): Extract<TidyStep, { kind: "look-up" }> | undefined {
  let best: { column: string; by: string; likeness: number } | undefined;
  for (const by of table.columns) {
    if (!namesEachRow(table, by)) continue;
    const index = indexTable(table, by, table.columns);
    for (const [place, column] of sample.columns.entries()) {
      const texts = new Set(sample.rows.map((row) => (row[place] ?? "").trim()).filter((text) => text !== ""));
      // One text fits by chance.
      if (texts.size < 2) continue;
      const known = [...texts].filter((text) => index.find(text)).length / texts.size;
      const isNamedAlike = plainName(column) === plainName(by);
      const likeness = known + (isNamedAlike ? 0.5 : 0);
      if (known >= (isNamedAlike ? LEAST_KNOWN_OF_NAME : LEAST_KNOWN) && likeness > (best?.likeness ?? 0))
        best = { column, by, likeness };
    }
  }
  if (!best) return undefined;
  const { column, by } = best;
  const rest = table.columns.filter((name, i) => name !== by && table.rows.some((row) => (row[i] ?? "").trim() !== ""));
  if (rest.length === 0) return undefined;
  const take = rest.slice(0, MOST_TAKEN).map((name) => ({ column: name, into: freeName(name, sample.columns) }));
  return { kind: "look-up", table: table.key, named: table.name, column, by, take };
}

/** Whether a column says something else on each row. */
function namesEachRow(table: LookupTable, by: string): boolean {
  const place = table.columns.indexOf(by);
  const texts = table.rows.map((row) => plainName(row[place] ?? ""));
  return texts.length > 1 && texts.every((text) => text !== "") && new Set(texts).size === texts.length;
}
