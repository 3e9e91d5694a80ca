import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import { formatMonth, monthOf } from "#core/calendar/month.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { FUNCTIONS } from "#core/formula/functions/index.ts";
import type { Company } from "#core/frame/company.ts";
import { resolveFrame } from "#core/frame/resolve-frame.ts";
import { tryFormula } from "#core/workbench/try-formula.ts";
import { connect } from "#server/db/connect.ts";
import { structureReader } from "#server/db/structure.ts";
import { memoryBook } from "#testing/fact-cells.ts";
import { valueOf } from "#testing/frame-sweep.ts";
import { MEANINGS, meaningAt, type Meaning } from "#testing/independent-language.ts";
import { independentSums, readFactTable } from "#testing/independent.ts";

/** Every function of the language, worked out a second time from the facts. */
let knex: Knex;
let company: Company;
let sums: ReturnType<typeof independentSums>;
const cells = memoryBook();
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  company = await structureReader(knex)();
  sums = independentSums(await readFactTable(knex));
});
afterAll(() => knex.destroy());

/** Months before which two whole years are kept: what looks back finds what it looks for. */
const moments: fc.Arbitrary<Moment> = fc.record({
  asOf: fc.integer({ min: monthOf(2025, 4), max: monthOf(2026, 10) }),
  span: fc.constantFrom("month", "quarter-to-date", "year-to-date", "trailing-12"),
  scope: fc.constantFrom<Record<string, string[]>>(
    {},
    { route: ["northreach"] },
    { route: ["skerry-sound", "lantern-bay"] },
  ),
});

interface Moment {
  readonly asOf: number;
  readonly span: string;
  readonly scope: Readonly<Record<string, string[]>>;
}

const askedMonths = (asOf: number, span: string) => {
  const inYear = (asOf + 9) % 12;
  const length = { month: 1, "quarter-to-date": (inYear % 3) + 1, "year-to-date": inYear + 1, "trailing-12": 12 }[
    span
  ]!;
  return Array.from({ length }, (_, i) => asOf - length + 1 + i);
};

describe("the functions of the formula language", () => {
  it("all have a meaning of their own here", () => {
    expect(Object.keys(MEANINGS).sort()).toEqual([...FUNCTIONS.keys()].sort());
  });

  /** Holds a formula against what it means; whether it gives a figure there. */
  const agrees = (formula: string, meaning: Meaning, { asOf, span, scope }: Moment): boolean => {
    const query = { asOf: formatMonth(asOf), span, basis: "budget", scope: formatScope(scope) || undefined };
    const asked = resolveFrame(query, company, {}, {});
    const tried = tryFormula(formula, { self: null, query }, { company, access: {}, asked, cells });
    if ("problem" in tried) throw new Error(`${formula}: ${tried.problem.message}`);
    const found = tried.figures[span === "month" ? 0 : 1]!.actual;
    const wanted = meaningAt(meaning, { asOf, asked: askedMonths(asOf, span), span, scope, sums });
    const place = `${formula} ${JSON.stringify(query)}: ${JSON.stringify(found)} instead of ${wanted}`;
    const value = valueOf(found);
    if (value === null || wanted === null) expect(value, place).toBe(wanted);
    else expect(Math.abs(value - wanted), place).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(wanted)));
    return value !== null;
  };

  it.each(
    Object.entries(MEANINGS).flatMap(([name, cases]) =>
      cases.map(([formula, meaning]) => [name, formula, meaning] as const),
    ),
  )("%s: %s", (_, formula, meaning) => {
    let present = 0;
    fc.assert(
      fc.property(moments, (moment) => {
        if (agrees(formula, meaning, moment)) present += 1;
      }),
      { numRuns: 25 },
    );
    expect(present).toBeGreaterThan(4);
  });

  it("mean the same beside each other: none changes the months of another", () => {
    const cases = Object.values(MEANINGS).flat();
    let present = 0;
    fc.assert(
      fc.property(fc.constantFrom(...cases), fc.constantFrom(...cases), moments, (a, b, moment) => {
        const meaning: Meaning = (read, at) => {
          const [above, below] = [a[1](read, at), b[1](read, at)];
          return above === null || below === null || below === 0 ? null : above / below;
        };
        if (agrees(`(${a[0]}) / (${b[0]})`, meaning, moment)) present += 1;
      }),
      { numRuns: 250 },
    );
    expect(present).toBeGreaterThan(150);
  });
});
