import { readLabel, type Label } from "./label.ts";
import { clashes, isTimeless, type PeriodParts } from "./period-parts.ts";
import type { Grid, TableBody } from "./grid.ts";

/** What the header says of one column of figures, over all its levels. */
export interface ColumnHead {
  readonly place: number;
  /** By level, from the top down; empty where a level says nothing of the column. */
  readonly labels: readonly Label[];
  readonly period: PeriodParts;
  readonly scenario: Label | null;
  readonly isVariance: boolean;
  readonly isPercent: boolean;
  readonly isTotal: boolean;
  /** By level, what is measured or a member's name; empty where the level says neither. */
  readonly rests: readonly string[];
}

const DEBIT = /^(?:debits?|soll|débit|dr)\b/i;
const CREDIT = /^(?:credits?|haben|crédit|cr)\b/i;

/** Whether headings are the two sides of a ledger. */
export function isLedger(texts: readonly string[]): boolean {
  return texts.some((text) => DEBIT.test(text.trim())) && texts.some((text) => CREDIT.test(text.trim()));
}

/** Reads the heads of the columns of figures. What stands over several columns is written over the first of them. */
export function readHeads(grid: Grid, { header, figures }: Pick<TableBody, "header" | "figures">): ColumnHead[] {
  const levels = header.map((row, level) => {
    const cells = grid[row]!.cells;
    const isLowest = level === header.length - 1;
    let last = "";
    return figures.map((place) => {
      const text = (cells[place] ?? "").replace(/\s+/g, " ").trim();
      if (isLowest) return text;
      if (text !== "") last = text;
      return last;
    });
  });
  // Beside "Haben", "Soll" is a debit and no budget.
  const hasSides = isLedger(levels.at(-1) ?? []);
  return figures.map((place, i) => {
    const labels = levels.map((texts) =>
      hasSides ? { ...readLabel(texts[i]!), scenario: null, rest: texts[i]! } : readLabel(texts[i]!),
    );
    let period: PeriodParts = {};
    for (const label of [...labels].reverse())
      if (!isTimeless(label.period) && !clashes(period, label.period)) period = { ...label.period, ...period };
    // A level above that says of which time a total is leaves the total one.
    const own = labels.at(-1);
    return {
      place,
      labels,
      period,
      scenario: labels.findLast(({ scenario }) => scenario !== null) ?? null,
      isVariance: labels.some(({ isVariance }) => isVariance),
      isPercent: labels.some(({ isPercent }) => isPercent),
      isTotal: own !== undefined && own.isTotal,
      rests: labels.map(({ rest }) => rest),
    };
  });
}
