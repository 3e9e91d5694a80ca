import type { PanelTable } from "#core/panels/parts/panel-table.ts";

/** A number as a sentence writes it: about `value`, by no more than `within`. */
export interface SaidNumber {
  readonly text: string;
  readonly kind: "money" | "percent" | "points" | "plain";
  readonly value: number;
  readonly within: number;
}

const FACTORS: Readonly<Record<string, number>> = { k: 1e3, m: 1e6, "": 1 };
const WRITTEN = /(€ ?)?(\d[\d,]*(?:\.\d+)?)(k|m)?(%| pts)?/g;

/** The figures of a sentence, without dates, counts of things and names: money, percentages and points. */
export function numbersIn(sentence: string): SaidNumber[] {
  return [...sentence.matchAll(WRITTEN)].flatMap(([text, money, digits = "", suffix = "", unit = ""]): SaidNumber[] => {
    const factor = FACTORS[suffix]!;
    const decimals = digits.split(".")[1]?.length ?? 0;
    const value = Number(digits.replaceAll(",", ""));
    const within = 0.5 * 10 ** -decimals * 1.001;
    if (unit === "%" || unit === " pts")
      return [{ text, kind: unit === "%" ? "percent" : "points", value: value / 100, within: within / 100 }];
    return money ? [{ text, kind: "money", value: value * factor, within: within * factor }] : [];
  });
}

/**
 * Whether a said number is among a table's, without regard to its sign: a cell, the sum or mean of a line or the sum of its
 * first ones, the difference of two
 * cells of a row or a column, or the share of one in another.
 */
export function isExplained({ value, within }: SaidNumber, { rows }: PanelTable): boolean {
  const near = (own: number) => Math.abs(Math.abs(own) - value) <= within;
  const lines = [...rows, ...(rows[0] ?? []).map((_, column) => rows.map((row) => row[column]))].map((line) =>
    line.filter((cell): cell is number => typeof cell === "number"),
  );
  return lines.some((line) => {
    const sum = line.reduce((all, own) => all + own, 0);
    if (near(sum) || near(sum / line.length) || firstSums(line).some(near)) return true;
    return line.some(
      (a, i) =>
        near(a) || line.some((b, j) => i !== j && (near(a - b) || (b !== 0 && (near(a / b) || near(a / b - 1))))),
    );
  });
}

/** The sums of the first, the first two, and so on. */
function firstSums(line: readonly number[]): number[] {
  let sum = 0;
  return line.map((own) => (sum += own));
}
