import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf, type Month } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import { isPresent } from "../figures/figure.ts";
import { contextOf, kpiFrom, kpiOf, run, SHOPS, type SmallFact } from "../testing/small-company.ts";
import { compareKpi } from "./compare-kpi.ts";
import type { Basis, Frame } from "./frame.ts";
import type { MeasureContext } from "./measure-ground.ts";

const FIRST = monthOf(2024, 4);
const LAST = FIRST + 35;
const BUDGET: Basis = { kind: "scenario", scenario: "budget" };
const LEAVES = ["mill", "gate", "quay"];

/** Three years of bread and flour by shop, actual and budget; amounts of either sign. */
const books: fc.Arbitrary<SmallFact[]> = fc
  .array(fc.integer({ min: -1e8, max: 1e8 }), { minLength: 36, maxLength: 36 })
  .map((amounts) =>
    ["actual", "budget"].flatMap((scenario, s) =>
      ["bread", "flour"].flatMap((account, a) =>
        LEAVES.flatMap((shop, l) =>
          run(
            scenario,
            account,
            FIRST,
            // Different in every place, and as good as random.
            amounts.map((amount, i) => (amount * (1 + s * 3 + a * 5 + l * 7) + i * 977) % 100_000_000),
          ).map((fact): SmallFact => ({ ...fact, shop })),
        ),
      ),
    ),
  );
const startMonths = fc.integer({ min: 1, max: 12 });
const asOfs = fc.integer({ min: FIRST, max: LAST });
const spans = fc.oneof(
  fc.constantFrom("month", "quarter", "quarter-to-date", "year-to-date", "full-year").map((kind): Span => ({ kind })),
  fc.integer({ min: 1, max: 24 }).map((periods): Span => ({ kind: "trailing", periods })),
);

function compared(
  context: MeasureContext,
  { kpi = kpiOf("profit"), asOf, span }: { kpi?: ReturnType<typeof kpiOf>; asOf: Month; span: Span },
) {
  const frame: Frame = { asOf, span, basis: BUDGET, scope: context.scope };
  const { actual, basis, variance } = compareKpi(kpi, frame, context);
  const cents = (figure: typeof variance.delta) => (isPresent(figure) ? Math.round(figure.value * 100) : figure.absent);
  return { actual: cents(actual.figure), basis: cents(basis.figure), delta: cents(variance.delta) };
}

describe("identities, whatever the amounts, the fiscal year, the month and the span", () => {
  it("the year to date of a year's last month is the full year, and its trailing twelve months", () => {
    fc.assert(
      fc.property(books, startMonths, (facts, startMonth) => {
        const context = { ...contextOf(facts), calendar: { startMonth } };
        const end = FIRST + 12 + ((((startMonth - 4) % 12) + 12) % 12) + 11 - 12;
        for (const asOf of [end, end + 12].filter((m) => m - 11 >= FIRST && m <= LAST)) {
          const year = compared(context, { asOf, span: { kind: "full-year" } });
          expect(typeof year.actual).toBe("number");
          expect(compared(context, { asOf, span: { kind: "year-to-date" } })).toEqual(year);
          expect(compared(context, { asOf, span: { kind: "trailing", periods: 12 } })).toEqual(year);
          // The language says the same as the frame.
          const said = (formula: string) =>
            compared(context, { kpi: kpiFrom(formula), asOf, span: { kind: "month" } }).actual;
          expect(said("year_to_date(sales - cost)")).toBe(year.actual);
          expect(said("full_year(sales - cost)")).toBe(year.actual);
          expect(said("trailing(sales - cost, 12)")).toBe(year.actual);
        }
      }),
      { numRuns: 40 },
    );
  });
  it("actual, basis and Δ by member sum to those of the whole", () => {
    fc.assert(
      fc.property(books, asOfs, spans, (facts, asOf, span) => {
        const whole = compared(contextOf(facts), { asOf, span });
        const parts = LEAVES.map((shop) => compared(contextOf(facts, { scope: { shop: [shop] } }), { asOf, span }));
        for (const side of ["actual", "basis", "delta"] as const)
          if (typeof whole[side] === "number")
            expect(parts.reduce((sum, part) => sum + (part[side] as number), 0)).toBe(whole[side]);
          else expect(parts.map((part) => part[side])).toEqual(LEAVES.map(() => whole[side]));
      }),
      { numRuns: 60 },
    );
  });
  it("narrowing to all members is not narrowing, at any level of them", () => {
    fc.assert(
      fc.property(books, asOfs, spans, (facts, asOf, span) => {
        const plain = compared(contextOf(facts), { asOf, span });
        for (const shop of [LEAVES, ["north", "south"], ["north", "quay"], SHOPS.members.map((m) => m.key)])
          expect(compared(contextOf(facts, { scope: { shop } }), { asOf, span })).toEqual(plain);
        const said = kpiFrom('only(sales - cost, shop: ["North", "South"])');
        expect(compared(contextOf(facts), { kpi: said, asOf, span })).toEqual(plain);
      }),
      { numRuns: 40 },
    );
  });
  it("shares of all members are one whole", () => {
    fc.assert(
      fc.property(books, asOfs, (facts, asOf) => {
        const share = kpiFrom("share(sales, of: shop)");
        const shares = LEAVES.map((shop) => {
          const context = contextOf(facts, { scope: { shop: [shop] } });
          const frame: Frame = { asOf, span: { kind: "month" }, basis: BUDGET, scope: context.scope };
          const { figure } = compareKpi(share, frame, context).actual;
          return isPresent(figure) ? figure.value : null;
        });
        // A whole of nothing has no shares.
        if (shares.every((s) => s === null)) return;
        const size = Math.max(1, ...shares.map((s) => Math.abs(s!)));
        expect(Math.abs(shares.reduce<number>((sum, s) => sum + s!, 0) - 1)).toBeLessThan(1e-12 * size);
      }),
      { numRuns: 60 },
    );
  });
});
