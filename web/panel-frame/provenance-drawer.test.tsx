import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { ProvenanceAnswer, SourceLinesAnswer } from "#contract/provenance.ts";
import { Refusal, renderPage, type Answers } from "#testing/render-page.tsx";
import { ProvenanceDrawer } from "./provenance-drawer.tsx";

type Input = ProvenanceAnswer["inputs"][number];
const input = (index: number, accountName: string, change: Partial<Input> = {}): Input => ({
  index,
  account: accountName.toLowerCase(),
  accountName,
  gathering: "sum",
  figure: { value: 1000 },
  unit: "€",
  decimals: 2,
  datasets: ["Monthly ledger"],
  leaves: 1,
  reads: { side: null, months: "September–October FY27", scope: null },
  ...change,
});
const ORIGIN: ProvenanceAnswer = {
  frame: {
    asOf: "2026-10",
    span: "quarter-to-date",
    basis: "budget",
    basisCode: "budget",
    scope: {},
    unit: "units",
    words: {
      asOf: "October FY27",
      span: "quarter to date",
      spanMonths: "",
      isOpen: false,
      shown: "Actual",
      basis: "Budget",
      scope: "all routes",
    },
  },
  kpi: {
    key: "fuel_price",
    name: "Fuel price",
    unit: { kind: "money" },
    decimals: 2,
    direction: "lower",
    tolerance: { kind: "percent", percent: 1 },
    description: "What a litre costs.",
  },
  owner: "Maren Holt",
  side: "actual",
  sideName: "Actual",
  figure: { value: 0.5 },
  formula: "fuel / litres",
  inputs: [
    input(0, "Fuel"),
    input(1, "Litres", {
      unit: "l",
      decimals: 0,
      leaves: 3,
      reads: { side: "Budget", months: "October FY27", scope: "Northreach" },
    }),
    input(2, "Days", { gathering: "clock", unit: "days" }),
  ],
  monthsName: "September–October FY27",
  months: ["2026-09", "2026-10"],
  asked: 3,
  notes: ["November is left out."],
};
const lines = (total: number, shown = total): SourceLinesAnswer => ({
  total,
  sum: 1000,
  decimals: 2,
  unit: "€",
  offset: 0,
  lines: Array.from({ length: shown }, (_, i) => ({
    load: "october.csv",
    postedOn: "5 November 2026",
    line: i + 2,
    period: "October FY27",
    account: "Fuel",
    members: ["Gannet"],
    reference: i === 0 ? "M-118" : null,
    amount: 10,
    original: i === 1 ? { amount: "1234.50", currency: "USD" } : null,
  })),
});
const show = (answers: Answers = {}) =>
  renderPage(<ProvenanceDrawer frame={{}} kpi="fuel_price" side="actual" onClose={() => {}} />, {
    answers: { provenance: ORIGIN, sourceLines: lines(2), ...answers },
  });

describe("where a figure comes from", () => {
  it("says formula, months, what is missing of them, and what an input reads otherwise", async () => {
    show();
    const inputs = within(await screen.findByRole("table", { name: "Inputs of the formula" }));
    const [, fuel, litres] = inputs.getAllByRole("row").map((row) => row.textContent);
    expect(fuel).toBe("Fuel Monthly ledger, sum of the months€ 1,000.00");
    expect(litres).toBe(
      "Litres Monthly ledger, sum of the months of 3 accountsBudget, October FY27, for Northreach1,000",
    );
    expect(screen.getByText("fuel / litres")).toBeTruthy();
    expect(screen.getByText("2 of 3 months: September–October FY27")).toBeTruthy();
    expect(screen.getByText("November is left out.")).toBeTruthy();
  });

  it("lists the source lines of the input that is chosen, and none for what the calendar counts", async () => {
    const page = show();
    const first = within(await screen.findByRole("region", { name: "Source lines" }));
    expect(first.getByText("2 lines; they add up to € 1,000.00. Largest first.")).toBeTruthy();
    expect(first.getAllByRole("row")[1]!.textContent).toBe("october.csvline 2, M-118Fuel, October FY27Gannet10.00");
    expect(first.getAllByRole("row")[2]!.textContent).toMatch(/10\.00USD 1,234\.50$/);
    await page.user.click(screen.getByRole("button", { name: /^Litres/ }));
    await screen.findByRole("heading", { name: "Source lines of Litres" });
    expect(page.asked.filter(({ id }) => id === "sourceLines").map(({ query }) => query.get("input"))).toEqual([
      "0",
      "1",
    ]);
    await page.user.click(screen.getByRole("button", { name: /^Days/ }));
    expect(screen.queryByRole("region", { name: "Source lines" })).toBeNull();
  });

  it("shows more lines when asked, while there are more", async () => {
    const page = show({ sourceLines: ({ query }) => lines(60, Math.min(60, Number(query.get("limit")))) });
    await page.user.click(await screen.findByRole("button", { name: "Show more (25 of 60 shown)" }));
    await screen.findByText("line 61");
    expect(screen.queryByRole("button", { name: /^Show more/ })).toBeNull();
  });

  it("says why there is no figure, or why it cannot be told", async () => {
    show({ provenance: { ...ORIGIN, figure: { absent: "no base", detail: "Litres are 0." } } });
    expect(await screen.findByText("Litres are 0.")).toBeTruthy();
  });
  it("says what the server said", async () => {
    show({ provenance: () => new Refusal({ code: "unknown-kpi", detail: "There is no KPI fuel_price." }) });
    expect(await screen.findByText("There is no KPI fuel_price.")).toBeTruthy();
  });
});
