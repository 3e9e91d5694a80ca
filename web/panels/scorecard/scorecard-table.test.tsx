import { cleanup, screen, within } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { panelProps } from "#testing/panel-props.ts";
import { renderPage } from "#testing/render-page.tsx";
import { ScorecardTable } from "./scorecard-table.tsx";
import { DEFAULT_COLUMNS, type ScorecardAnswer } from "#core/panels/scorecard/schema.ts";
import type { KpiRow } from "#core/panels/parts/schema.ts";

const value = (amount: number) => ({ value: amount });
const row = (key: string, actual: number, delta: number, tolerances: number, change: Partial<KpiRow> = {}): KpiRow => ({
  kpi: {
    key,
    name: key,
    unit: { kind: "money" },
    decimals: 0,
    direction: "higher",
    tolerance: { kind: "percent", percent: 1 },
    description: "",
  },
  actual: value(actual),
  basis: value(actual - delta),
  basisName: "Budget",
  basisCode: "budget",
  isFallback: false,
  variance: {
    delta: value(delta),
    deltaPercent: value(delta / (actual - delta)),
    judgement: tolerances === 0 ? "on plan" : delta > 0 ? "favourable" : "unfavourable",
    tolerances,
  },
  attainment: value(1),
  words: "",
  status: null,
  priorYear: value(actual),
  growth: null,
  toDate: null,
  outlook: null,
  outside: null,
  trend: [],
  notes: [],
  ...change,
});
const DATA: ScorecardAnswer = {
  kind: "scorecard",
  message: "",
  columns: DEFAULT_COLUMNS,
  expandBy: null,
  frame: {
    asOf: "2026-10",
    span: "year-to-date",
    basis: "budget",
    basisCode: "budget",
    scope: {},
    unit: "thousand",
    words: {
      asOf: "October",
      span: "year to date",
      spanMonths: "",
      isOpen: false,
      shown: "Actual",
      basis: "Budget",
      scope: "all",
    },
  },
  groups: [
    { title: "Result", rows: [row("Revenue", 900_000, 9000, 1), row("Margin", 500_000, -40_000, -7)] },
    {
      title: "Costs",
      rows: [
        row("Fuel", 300_000, 0, 0),
        row("Crew", 200_000, 0, 0, { actual: { absent: "no data", detail: "Nothing is there." } }),
        row("Punctuality", 100_000, 0, 0, { isFallback: true, basisName: "Target", basisCode: "target" }),
      ],
    },
  ],
};
beforeEach(() => {
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe() {}
      disconnect() {}
    },
  );
});
const show = (onChoose = vi.fn(), data = DATA) => {
  const view = panelProps<"scorecard">(
    { key: "s", kind: "scorecard", groups: [] },
    { leads: { kpi: "Revenue", choose: onChoose } },
  );
  return {
    onAsk: view.actions.ask,
    onChoose,
    ...renderPage(<ScorecardTable data={data} part={undefined} view={view} />),
  };
};
const names = () =>
  screen
    .getAllByRole("rowheader")
    .filter((head) => head.getAttribute("scope") === "row")
    .map((head) => head.textContent.replace(/ € k$/, ""));
const rowOf = (name: string) => within(screen.getByRole("rowheader", { name: new RegExp(name) }).closest("tr")!);

describe("a scorecard on screen", () => {
  it("says each variance in figures, as a comb that can be heard, and in a word", () => {
    show();
    const revenue = rowOf("Revenue");
    expect(revenue.getByRole("button", { name: /^Revenue, Actual, year to date: € 900k/ }).textContent).toBe("900");
    expect(revenue.getByText(/\+9/)).toBeTruthy();
    expect(revenue.getByRole("img", { name: "1 tolerance above" })).toBeTruthy();
    expect(revenue.getByText("favourable")).toBeTruthy();
    const margin = rowOf("Margin");
    expect(margin.getByRole("img", { name: "7 tolerances below" })).toBeTruthy();
    expect(margin.getByText("×7")).toBeTruthy();
    expect(rowOf("Fuel").getByRole("img", { name: "inside its tolerance" })).toBeTruthy();
  });
  it("explains combs only where it has some", () => {
    show();
    expect(screen.queryByText(/^comb: /)).not.toBeNull();
    cleanup();
    show(vi.fn(), { ...DATA, columns: ["actual", "basis", "delta", "status"] });
    expect(screen.queryByText(/^comb: /)).toBeNull();
  });
  it("says what a figure lacks, and what it is compared with instead", () => {
    show();
    expect(rowOf("Crew").getByText("no data").getAttribute("title")).toBe("Nothing is there.");
    expect(rowOf("Punctuality").getByTitle("against Target")).toBeTruthy();
    expect(screen.getByText("compared with Target")).toBeTruthy();
  });
  it("opens where a figure comes from", async () => {
    const { user, onAsk } = show();
    await user.click(rowOf("Fuel").getByRole("button", { name: /^Fuel, Budget/ }));
    expect(onAsk).toHaveBeenCalledWith("Fuel.basis", undefined);
  });
  it("sorts by a column and back, inside its groups", async () => {
    const { user } = show();
    const head = screen.getByRole("button", { name: /^Δ$/ });
    expect(names()).toEqual(["Revenue", "Margin", "Fuel", "Crew", "Punctuality"]);
    await user.click(head);
    await user.click(head);
    expect(names().slice(0, 2)).toEqual(["Margin", "Revenue"]);
    expect(head.closest("th")?.getAttribute("aria-sort")).toBe("ascending");
    await user.click(head);
    expect(names().slice(0, 2)).toEqual(["Revenue", "Margin"]);
  });
  it("closes a group and says how much is in it", async () => {
    const { user } = show();
    await user.click(screen.getByRole("button", { name: "Costs" }));
    expect(names()).toEqual(["Revenue", "Margin"]);
    expect(screen.getByText("3 KPIs")).toBeTruthy();
  });
  it("is walked with the arrow keys, over groups, in the same column", async () => {
    const { user, onChoose } = show();
    rowOf("Margin")
      .getByRole("button", { name: /^Margin, Actual/ })
      .focus();
    await user.keyboard("{ArrowDown}");
    expect(onChoose).toHaveBeenLastCalledWith("Fuel");
    expect(document.activeElement?.getAttribute("aria-label")).toMatch(/^Fuel, Actual/);
    await user.keyboard("{ArrowUp}{ArrowUp}");
    expect(onChoose).toHaveBeenLastCalledWith("Revenue");
    await user.keyboard("{ArrowUp}");
    expect(onChoose).toHaveBeenLastCalledWith("Revenue");
  });
});
