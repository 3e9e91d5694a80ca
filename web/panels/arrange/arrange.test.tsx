import { screen, within } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import { PANEL_SCHEMAS, type DefinitionOf, type PanelKind } from "#core/panels/schemas.ts";
import type { LibraryKpi } from "#contract/kpis.ts";
import { renderPage } from "#testing/render-page.tsx";
import ArrangeScorecard from "../scorecard/arrange.tsx";
import ArrangeTiles from "../tiles/arrange.tsx";
import ArrangeTimeChart from "../time-chart/arrange.tsx";
import { ArrangeWords } from "./arrange-words.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";

const kpi = (key: string, problem: LibraryKpi["problem"] = null): LibraryKpi => ({
  definition: {
    key,
    name: key[0]!.toUpperCase() + key.slice(1),
    formula: key,
    unit: { kind: "money" },
    decimals: 0,
    direction: "higher",
    tolerance: { kind: "percent", percent: 1 },
    owner: "Maren",
    description: "",
    status: null,
    fallbackBasis: null,
  },
  version: 1,
  reads: [],
  usedBy: [],
  pages: [],
  problem,
});
const KPIS = [kpi("revenue"), kpi("fuel"), kpi("crew"), kpi("broken", { from: 0, to: 1, message: "No such account." })];
const DIMENSIONS: ArrangeProps<"tiles">["dimensions"] = [
  { key: "route", name: "Route", plural: "routes", levels: ["Sea area", "Route"], members: [] },
  { key: "vessel", name: "Vessel", plural: "vessels", levels: ["Vessel"], members: [] },
];

/** Arranges a panel the way the drawer does; what it becomes must be a definition the contract takes. */
function arrange<K extends PanelKind>(Arrange: (props: ArrangeProps<K>) => React.ReactNode, start: DefinitionOf<K>) {
  let panel = start;
  function Drawer() {
    const [current, setCurrent] = useState(start);
    return (
      <Arrange
        panel={current}
        dimensions={DIMENSIONS}
        onChange={(next) => {
          PANEL_SCHEMAS[start.kind].definition.parse(next);
          panel = next;
          setCurrent(next);
        }}
      />
    );
  }
  const page = renderPage(<Drawer />, { answers: { kpis: KPIS } });
  return { ...page, panel: () => panel };
}

describe("arranging a scorecard", () => {
  const start: DefinitionOf<"scorecard"> = {
    kind: "scorecard",
    key: "s",
    title: "Scorecard",
    groups: [
      { title: "Result", kpis: ["revenue"] },
      { title: "Costs", kpis: ["fuel"] },
    ],
    columns: ["actual", "delta"],
  };
  const show = () => arrange<"scorecard">(ArrangeScorecard, start);

  it("orders, adds and leaves out columns; one stays", async () => {
    const page = show();
    const columns = within(await screen.findByRole("region", { name: "Columns" }));
    await page.user.click(columns.getByRole("button", { name: /^Move Δ up/ }));
    expect(page.panel().columns).toEqual(["delta", "actual"]);
    await page.user.click(columns.getByRole("button", { name: "Trend line" }));
    expect(page.panel().columns).toEqual(["delta", "actual", "trend"]);
    for (const button of columns.getAllByRole("button", { name: /^Leave out/ }).slice(1)) await page.user.click(button);
    expect(page.panel().columns).toHaveLength(1);
    expect(columns.getByRole<HTMLButtonElement>("button", { name: /^Leave out/ }).disabled).toBe(true);
  });

  it("moves a KPI over the edge of its group, and offers neither those used nor those that cannot be calculated", async () => {
    const page = show();
    await page.user.click(await screen.findByRole("button", { name: "Move Fuel up" }));
    expect(page.panel().groups.map((g) => g.kpis)).toEqual([["revenue", "fuel"], []]);
    const add = screen.getByRole("combobox", { name: "Add a KPI to Costs" });
    expect(
      within(add)
        .getAllByRole("option")
        .map((o) => o.textContent),
    ).toEqual(["Add a KPI …", "Crew"]);
    await page.user.selectOptions(add, "Crew");
    expect(page.panel().groups[1]!.kpis).toEqual(["crew"]);
  });

  it("adds groups with names of their own, renames them when the field is left, and removes them", async () => {
    const page = show();
    await screen.findByText("Fuel");
    await page.user.click(screen.getByRole("button", { name: "Add a group" }));
    await page.user.click(screen.getByRole("button", { name: "Add a group" }));
    expect(page.panel().groups.map((g) => g.title)).toEqual(["Result", "Costs", "New group", "New group 2"]);
    const name = screen.getByRole("textbox", { name: "Group 3" });
    await page.user.clear(name);
    await page.user.type(name, "People");
    await page.user.tab();
    expect(page.panel().groups[2]!.title).toBe("People");
    await page.user.click(screen.getByRole("button", { name: "Remove the group Costs" }));
    expect(page.panel().groups.map((g) => g.title)).toEqual(["Result", "People", "New group 2"]);
  });

  it("says by what rows open", async () => {
    const page = show();
    await page.user.selectOptions(await screen.findByLabelText("Expand rows by"), "Vessel");
    expect(page.panel().expandBy).toBe("vessel");
  });
});

describe("arranging tiles", () => {
  const start: DefinitionOf<"tiles"> = {
    kind: "tiles",
    key: "t",
    title: "Tiles",
    kpis: ["revenue"],
    repeatBy: null,
    order: "set",
    isReversed: false,
    top: null,
  } as DefinitionOf<"tiles">;
  const show = () => arrange<"tiles">(ArrangeTiles, start);

  it("has a second KPI beside each, and so many in a row; a long list is emptied at once", async () => {
    const page = show();
    await within(await screen.findByLabelText("Second KPI")).findByRole("option", { name: "Fuel" });
    await page.user.selectOptions(screen.getByLabelText("Second KPI"), "Fuel");
    expect(page.panel().second).toBe("fuel");
    await page.user.selectOptions(screen.getByLabelText("Second KPI"), "none");
    expect(page.panel().second).toBeUndefined();
    await page.user.selectOptions(screen.getByLabelText("Tiles per row"), "3");
    expect(page.panel().perRow).toBe(3);
    await page.user.selectOptions(screen.getByLabelText("Tiles per row"), "automatic");
    expect(page.panel().perRow).toBeUndefined();
    await page.user.click(screen.getByRole("button", { name: "Remove all" }));
    expect(page.panel().figures).toEqual([]);
  });

  it("repeats by a dimension from its top, or by a level of it, and then keeps some apart", async () => {
    const page = show();
    const repeat = await screen.findByLabelText("Repeated by");
    expect(screen.queryByLabelText("Apart")).toBeNull();
    await page.user.selectOptions(repeat, "Sea area, opening into route");
    expect(page.panel().repeatBy).toEqual({ dimension: "route", level: null });
    await page.user.selectOptions(repeat, "Route");
    expect(page.panel().repeatBy).toEqual({ dimension: "route", level: "Route" });
    const apart = screen.getByLabelText<HTMLSelectElement>("Apart");
    await page.user.selectOptions(apart, apart.options[1]!);
    expect(page.panel().top).toBe(Number(apart.options[1]!.value));
    await page.user.selectOptions(apart, "all");
    expect(page.panel().top).toBeNull();
    await page.user.selectOptions(repeat, "nothing: a tile for each KPI");
    expect(page.panel().repeatBy).toBeNull();
  });

  it("shows no small figures where none are wanted, but always a KPI", async () => {
    const page = show();
    const small = within(await screen.findByRole("region", { name: "Small figures" }));
    for (;;) {
      const [first] = small.queryAllByRole("button", { name: /^Leave out/ });
      if (!first) break;
      await page.user.click(first);
    }
    expect(page.panel().figures).toEqual([]);
    await page.user.click(small.getByRole("button", { name: "Full-year outlook" }));
    expect(page.panel().figures).toEqual(["outlook"]);
    const kpis = within(screen.getByRole("region", { name: "KPIs" }));
    expect((await kpis.findByRole<HTMLButtonElement>("button", { name: "Leave out Revenue" })).disabled).toBe(true);
    await page.user.click(kpis.getByRole("button", { name: "Crew" }));
    expect(page.panel().kpis).toEqual(["revenue", "crew"]);
    expect(kpis.queryByRole("button", { name: "Broken" })).toBeNull();
  });
});

describe("arranging a chart over time", () => {
  const start: DefinitionOf<"time-chart"> = { kind: "time-chart", key: "c", title: "Chart", kpi: "revenue" };
  const show = () => arrange<"time-chart">(ArrangeTimeChart, start);

  it("leaves a part out again where the usual is wanted", async () => {
    const page = show();
    const marks = await screen.findByLabelText("Drawn as");
    await page.user.selectOptions(marks, "lines");
    expect(page.panel()).toEqual({ ...start, marks: "lines" });
    await page.user.selectOptions(marks, "to suit the KPI");
    expect(page.panel()).toEqual(start);
  });

  it("hides and shows what stands with the actual", async () => {
    const page = show();
    const budget = await screen.findByRole("checkbox", { name: "Budget" });
    await page.user.click(budget);
    await page.user.click(screen.getByRole("checkbox", { name: "Show values on marks" }));
    expect(page.panel()).toMatchObject({ hides: ["budget"], hasLabels: false });
    await page.user.click(budget);
    expect(page.panel().hides).toEqual([]);
  });

  it("adds reference lines until there are six, and takes constants only with a name and a number", async () => {
    const page = show();
    await page.user.selectOptions(await screen.findByLabelText("Over which months"), "of the span");
    await page.user.click(screen.getByRole("button", { name: "Add this statistic" }));
    expect(page.panel().references).toEqual([{ kind: "statistic", of: "average", side: "actual", over: "span" }]);
    const add = () => screen.getByRole<HTMLButtonElement>("button", { name: "Add" });
    await page.user.type(screen.getByLabelText("Name of the constant"), "Break-even");
    await page.user.type(screen.getByLabelText("Value, unscaled"), "nine");
    expect(add().disabled).toBe(true);
    await page.user.clear(screen.getByLabelText("Value, unscaled"));
    await page.user.type(screen.getByLabelText("Value, unscaled"), "9,000.5");
    await page.user.click(add());
    expect(page.panel().references![1]).toEqual({ kind: "constant", name: "Break-even", value: 9000.5 });
    expect(screen.getByText("Break-even, 9,000.5")).toBeTruthy();
    for (let i = 0; i < 4; i += 1) await page.user.click(screen.getByRole("button", { name: "Add this statistic" }));
    expect(screen.queryByRole("button", { name: "Add this statistic" })).toBeNull();
    await page.user.click(screen.getByRole("button", { name: /^Remove Break-even/ }));
    expect(page.panel().references).toHaveLength(5);
    expect(screen.getByRole("button", { name: "Add this statistic" })).toBeTruthy();
  });
});

describe("arranging the words of a panel", () => {
  const chart: DefinitionOf<"time-chart"> = { kind: "time-chart", key: "c", kpi: "revenue" };

  it("names axes, sets decimals and leaves the legend out; left empty they are the usual again", async () => {
    const page = arrange<"time-chart">(ArrangeWords, chart);
    const axis = screen.getByLabelText(/^Value axis title/);
    await page.user.type(axis, "Thousand euro");
    await page.user.tab();
    await page.user.selectOptions(screen.getByLabelText("Decimals"), "2");
    await page.user.click(screen.getByLabelText(/^Show the legend/));
    expect(page.panel()).toEqual({ ...chart, axisTitle: "Thousand euro", decimals: 2, hidesLegend: true });
    await page.user.clear(axis);
    await page.user.tab();
    await page.user.selectOptions(screen.getByLabelText("Decimals"), "each KPI’s own");
    await page.user.click(screen.getByLabelText(/^Show the legend/));
    expect(page.panel()).toEqual(chart);
  });

  it("offers only what the kind has", () => {
    arrange<"scorecard">(ArrangeWords, { kind: "scorecard", key: "s", groups: [], columns: ["actual"] });
    expect(screen.getByLabelText("Decimals")).toBeTruthy();
    expect(screen.queryByLabelText(/axis/)).toBeNull();
    expect(screen.queryByLabelText(/legend/)).toBeNull();
  });
});
