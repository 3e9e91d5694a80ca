import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { questionOf, someBooks, sumOf, YEAR_TO_DATE } from "../../testing/small-question.ts";
import { OCTOBER, type SmallFact } from "../../testing/small-company.ts";
import { tableAsTsv } from "../parts/panel-table.ts";
import { computeCrossTab } from "./compute.ts";
import { crossTable } from "./table.ts";
import { readSort, writeSort, type CrossMeasure, type CrossTabDefinition, type CrossTabAnswer } from "./schema.ts";

const TOWNS = { kind: "member", dimension: "shop", level: "Town", hasTotal: true } as const;
const SHOPS_IN = { kind: "member", dimension: "shop", level: "Shop", hasTotal: true } as const;
const MONTHS = { kind: "period", grain: "month", hasTotal: true } as const;
const base: CrossTabDefinition = {
  key: "tab",
  kind: "cross-tab",
  kpis: ["turnover"],
  rows: [TOWNS, SHOPS_IN],
  columns: [MONTHS],
  measures: ["value"],
  shade: "none",
};
const compute = (facts: readonly SmallFact[], change: Partial<CrossTabDefinition> = {}, choice = {}, frame = {}) =>
  computeCrossTab({ ...base, ...change }, choice, questionOf(facts, frame));
const named = ({ axes, lines }: CrossTabAnswer["rows"]) =>
  lines.map((line) => line.map((at, depth) => (at === null ? "all" : axes[depth]!.entries[at]!.key)).join(" "));
/** The figures by the names of their row and column. */
const figuresOf = (answer: CrossTabAnswer, shown: CrossMeasure = "value") => {
  const [rows, columns] = [named(answer.rows), named(answer.columns)];
  const all = new Map<string, number | null>();
  for (const [c, { figures }] of answer.cells.entries())
    for (const [r, value] of figures[shown]!.values.entries()) all.set(`${rows[r]} / ${columns[c]}`, value);
  return (row: string, column: string) => all.get(`${row} / ${column}`);
};
const is = (part: Partial<SmallFact>) => (fact: SmallFact) =>
  Object.entries(part).every(([key, value]) => fact[key as keyof SmallFact] === value);
const bread = is({ scenario: "actual", account: "bread" });
const NAMES = { north: ["mill", "gate"], south: ["quay"] } as const;

describe("a cross-tab", () => {
  it("has every figure, subtotal and total that the facts add up to, on both sides", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const figure = figuresOf(compute(facts));
        for (const month of [...YEAR_TO_DATE, null]) {
          const column = month === null ? "all" : `2026-${String(10 - (OCTOBER - month)).padStart(2, "0")}`;
          const inMonth = (fact: SmallFact) => month === null || fact.month === month;
          for (const [town, shops] of Object.entries(NAMES)) {
            for (const shop of shops)
              expect(figure(`${town} ${shop}`, column) ?? 0).toBeCloseTo(sumOf(facts, bread, inMonth, is({ shop })), 6);
            // A town of one shop needs no subtotal.
            if (shops.length > 1 && figure(`${town} all`, column) !== undefined)
              expect(figure(`${town} all`, column)).toBeCloseTo(
                sumOf(facts, bread, inMonth, ({ shop }) => (shops as readonly string[]).includes(shop!)),
                6,
              );
          }
          expect(figure("all all", column) ?? 0).toBeCloseTo(sumOf(facts, bread, inMonth), 6);
        }
      }),
      { numRuns: 25 },
    );
  });
  it("measures totals of rates, and never sums them", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const figure = figuresOf(compute(facts, { kpis: ["margin"], rows: [TOWNS] }));
        const sales = sumOf(facts, bread);
        const flour = sumOf(facts, is({ scenario: "actual", account: "flour" }));
        if (sales > 0) expect(figure("all", "all")).toBeCloseTo((sales - flour) / sales, 9);
      }),
      { numRuns: 25 },
    );
  });
  it("shows Δ against the frame's basis, and against each scenario where a side is by scenario", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const budget = sumOf(facts, is({ scenario: "budget", account: "bread" }));
        const delta = sumOf(facts, bread) - budget;
        const inFrame = compute(facts, { rows: [TOWNS], columns: [], measures: ["value", "basis", "delta"] });
        expect(figuresOf(inFrame, "delta")("all", "")).toBeCloseTo(delta, 6);
        expect(figuresOf(inFrame, "basis")("all", "")).toBeCloseTo(budget, 6);
        const across = compute(facts, { rows: [TOWNS], columns: [{ kind: "scenario" }], measures: ["value", "delta"] });
        expect(figuresOf(across)("all", "budget")).toBeCloseTo(budget, 6);
        expect(figuresOf(across, "delta")("all", "budget")).toBeCloseTo(delta, 6);
        expect(figuresOf(across, "delta")("all", "actual")).toBeNull();
        expect(across.reasons).toContain("The actual is not compared with itself.");
      }),
      { numRuns: 25 },
    );
  });
  it("has shares that add up to the whole along their own way", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const measures = ["share-of-row", "share-of-column", "share-of-total"] as const;
        const answer = compute(facts, { rows: [TOWNS], measures: [...measures] });
        const [ofRow, ofColumn, ofTotal] = measures.map((measure) => figuresOf(answer, measure));
        const [rows, columns] = [named(answer.rows).slice(0, -1), named(answer.columns).slice(0, -1)];
        const sum = (values: readonly (number | null | undefined)[]) =>
          values.reduce<number>((all, value) => all + (value ?? 0), 0);
        if (rows.length < 2) return;
        for (const row of rows) expect(sum(columns.map((column) => ofRow!(row, column)))).toBeCloseTo(1, 9);
        expect(sum(rows.map((row) => ofColumn!(row, "all")))).toBeCloseTo(1, 9);
        expect(sum(rows.flatMap((row) => columns.map((column) => ofTotal!(row, column))))).toBeCloseTo(1, 9);
      }),
      { numRuns: 25 },
    );
  });
  it("orders the rows within their groups by any column, absent ones last, totals where they belong", () => {
    fc.assert(
      fc.property(someBooks, fc.boolean(), (facts, isRising) => {
        const sort = writeSort({ column: "*", measure: "value", isRising });
        const answer = compute(facts, {}, { sort });
        const figure = figuresOf(answer);
        const rows = named(answer.rows);
        const towns = [...new Set(rows.map((row) => row.split(" ")[0]!))];
        expect(rows.at(-1)).toBe("all all");
        const size = (town: string) =>
          sumOf(facts, bread, ({ shop }) => (NAMES[town as "north"] as readonly string[]).includes(shop!));
        const sizes = towns.slice(0, -1).map(size);
        expect(sizes).toEqual(sizes.toSorted((a, b) => (isRising ? a - b : b - a)));
        const inNorth = rows.filter((row) => /^north (mill|gate)$/.test(row)).map((row) => figure(row, "all")!);
        expect(inNorth).toEqual(inNorth.toSorted((a, b) => (isRising ? a - b : b - a)));
      }),
      { numRuns: 25 },
    );
    expect(readSort(writeSort({ column: "budget|2026-10", measure: "rank", isRising: true }))).toEqual({
      column: "budget|2026-10",
      measure: "rank",
      isRising: true,
    });
    expect(readSort("budget")).toBeUndefined();
  });

  const fact = (shop: string, amount: number, part: Partial<SmallFact> = {}): SmallFact => ({
    scenario: "actual",
    account: "bread",
    month: OCTOBER,
    shop,
    amount,
    ...part,
  });
  const FACTS = [fact("mill", 300), fact("gate", 100), fact("quay", 200)];

  it("ranks the best first among those beside it, and gives equal ones the same place", () => {
    const facts = [...FACTS, fact("quay", 100)];
    const answer = compute(facts, { rows: [SHOPS_IN], columns: [], measures: ["value", "rank"] });
    expect(named(answer.rows)).toEqual(["mill", "gate", "quay", "all"]);
    expect(answer.cells[0]!.figures.rank!.values).toEqual([1, 3, 1, null]);
  });
  it("switches subtotals and totals by axis, and leaves them out over a single entry", () => {
    const off = { ...TOWNS, hasTotal: false };
    expect(named(compute(FACTS).rows)).toEqual(["north mill", "north gate", "north all", "south quay", "all all"]);
    expect(named(compute(FACTS, { rows: [off, SHOPS_IN] }).rows)).toEqual([
      "north mill",
      "north gate",
      "north all",
      "south quay",
    ]);
    expect(named(compute(FACTS, { rows: [TOWNS, { ...SHOPS_IN, hasTotal: false }] }).rows)).toEqual([
      "north mill",
      "north gate",
      "south quay",
      "all all",
    ]);
    const columns = (hasTotal: boolean) => named(compute(FACTS, { columns: [{ ...MONTHS, hasTotal }] }).columns);
    expect([columns(true).length, columns(false).length]).toEqual([8, 7]);
  });
  it("keeps KPIs apart in totals, each with its own", () => {
    const answer = compute([...FACTS, fact("mill", 50, { account: "flour" })], {
      kpis: ["turnover", "profit"],
      rows: [TOWNS, { kind: "kpi" }],
      columns: [],
    });
    expect(named(answer.rows)).toEqual([
      "north turnover",
      "north profit",
      "south turnover",
      "south profit",
      "all turnover",
      "all profit",
    ]);
    expect(answer.cells[0]!.figures.value!.values).toEqual([4, 3.5, 2, 2, 6, 5.5]);
  });
  it("goes down into a member: its own members, and its own total", () => {
    const answer = compute(FACTS, { rows: [TOWNS], columns: [] }, { below: "north" });
    expect(named(answer.rows)).toEqual(["mill", "gate", "all"]);
    expect(answer.cells[0]!.figures.value!.values).toEqual([3, 1, 4]);
    expect(answer.path.map(({ key }) => key)).toEqual(["north"]);
  });
  it("leaves rows without figures out, and says how many", () => {
    const answer = compute([fact("mill", 300)], { rows: [SHOPS_IN], columns: [] });
    expect(named(answer.rows)).toEqual(["mill"]);
    expect(answer.notes).toContain("2 rows without figures are left out.");
  });
  it("tells whole periods from those that are not over", () => {
    const quarters = compute(FACTS, {
      rows: [TOWNS],
      columns: [{ kind: "period", grain: "quarter", hasTotal: false }],
    });
    expect(quarters.columns.axes[0]!.entries.map(({ name }) => name)).toEqual([
      "Q1 FY27",
      "Q2 FY27",
      "Q3 FY27, October only",
    ]);
    const years = compute(FACTS, { columns: [{ kind: "period", grain: "year", hasTotal: false }], last: 2 });
    expect(years.columns.axes[0]!.entries.map(({ months }) => months)).toEqual([
      "2025-04..2026-03",
      "2026-04..2026-10",
    ]);
  });
  it("refuses in words what makes no table", () => {
    const refusal = (change: Partial<CrossTabDefinition>) => compute(FACTS, change).refusal;
    expect(refusal({ rows: [] })).toMatch(/There are no rows/);
    expect(refusal({ rows: [TOWNS], columns: [SHOPS_IN] })).toMatch(/the same dimension/);
    expect(refusal({ rows: [MONTHS], columns: [MONTHS] })).toMatch(/More than one depth is by period/);
    expect(compute(FACTS, { kpis: ["cash"] }).refusal).toMatch(/Nothing of cash is kept here/);
  });
  it("copies as it stands: names, then figures, under the names of their columns", () => {
    const answer = compute(FACTS, { rows: [TOWNS], columns: [{ kind: "scenario" }], measures: ["value", "delta"] });
    const shown = crossTable(answer);
    const lines = tableAsTsv(shown)
      .split("\n")
      .map((line) => line.split("\t"));
    expect(lines[0]!.filter((head) => !["KPI", "Unit", "Scope", "Why absent"].includes(head))).toEqual([
      "Town",
      "Actual, Value",
      "Prior year, Value",
    ]);
    expect(lines.map((line) => [line[0], line[4]])).toEqual([
      ["Town", "Actual, Value"],
      ["North", "4"],
      ["South", "2"],
      ["All shops", "6"],
    ]);
  });
});
