import { sessionOf } from "#testing/session.ts";
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Home } from "#contract/home.ts";
import { Refusal, renderPage, type Answers } from "#testing/render-page.tsx";
import { useVisited, visitorOf } from "../shell/visited.ts";
import { HomePage } from "./home-page.tsx";

type OffPlan = NonNullable<Home["offPlan"]>["kpis"][number];

const kpi = (name: string, tolerances: number, change: Partial<OffPlan> = {}): OffPlan => ({
  kpi: {
    key: name.toLowerCase(),
    name,
    unit: { kind: "money" },
    decimals: 0,
    direction: "lower",
    tolerance: { kind: "percent", percent: 1 },
    description: "",
  },
  basisName: "Budget",
  variance: { delta: { value: 5 }, deltaPercent: { value: 0.05 }, judgement: "unfavourable", tolerances },
  status: null,
  words: `€ ${tolerances}k above Budget, unfavourable`,
  page: { pack: "review", packName: "Review", page: "costs", name: "Costs" },
  ...change,
});
const HOME: Home = {
  openMonth: {
    month: "2026-11",
    name: "November FY27",
    datasets: [
      { key: "ledger", name: "Ledger", has: "nothing", words: "nothing yet", closes: true },
      { key: "daily", name: "Daily", has: "part", words: "to day 17 of 30", closes: false },
      { key: "people", name: "People", has: "all", words: "there", closes: true },
    ],
  },
  beginning: null,
  news: [],
  offPlan: { frame: "October FY27, year to date, against Budget", kpis: [kpi("Fuel", 8), kpi("Crew", 2)] },
};
const show = (home: Answers["home"], role: "analyst" | "executive" = "analyst") =>
  renderPage(<HomePage />, {
    answers: {
      ...(home === undefined ? {} : { home }),
      session: sessionOf(role),
      alerts: { load: null, words: "", changes: [], unusual: [] },
      packs: [],
      drafts: [],
    },
  });

describe("home", () => {
  it("says which month is open, what it lacks, and what closes it", async () => {
    show(HOME);
    expect((await screen.findByRole("heading", { level: 1, name: "November FY27 is open" })).textContent).toBeTruthy();
    const lacks = within(screen.getByRole("region", { name: "Missing for November FY27" }));
    const [ledger, daily, people] = lacks.getAllByRole("listitem");
    expect(ledger!.textContent).toBe("Ledgernothing yet; the month closes with it");
    expect(daily!.textContent).toBe("Dailyto day 17 of 30");
    expect(people!.textContent).toBe("Peoplethere");
    expect((await lacks.findByRole("link", { name: "Load a file" })).getAttribute("href")).toBe("/loads");
  });
  it("offers no loading to those who may not", async () => {
    show(HOME, "executive");
    await screen.findByRole("region", { name: "Missing for November FY27" });
    expect(screen.queryByRole("link", { name: "Load a file" })).toBeNull();
  });
  it("lists what is off plan as it comes, the worst first, with the way to its page", async () => {
    show(HOME);
    const list = within(await screen.findByRole("region", { name: "Off plan" }));
    expect((await list.findByRole("heading", { name: "2 KPIs are off plan" })).textContent).toBeTruthy();
    const [first] = list.getAllByRole("listitem");
    const fuel = within(first!);
    expect(fuel.getByRole("img", { name: "8 tolerances above" })).toBeTruthy();
    // What all of them are is said once, in the heading.
    expect(first!.textContent).toContain("€ 8k above Budget");
    expect(first!.textContent).not.toContain("Budget, unfavourable");
    expect(fuel.getByRole("link", { name: "Costs" }).getAttribute("href")).toBe("/packs/review/costs");
    expect(fuel.getByRole("link", { name: "Fuel" }).getAttribute("href")).toBe("/kpis/fuel");
  });
  it("shows eight at first, and all when asked", async () => {
    const many = Array.from({ length: 11 }, (_, i) => kpi(`K${i}`, 20 - i));
    const { user } = show({ ...HOME, offPlan: { frame: "", kpis: many } });
    const list = within(await screen.findByRole("region", { name: "Off plan" }));
    await list.findByText("11 KPIs are off plan");
    expect(list.getAllByRole("listitem")).toHaveLength(8);
    await user.click(list.getByRole("button", { name: "All 11" }));
    expect(list.getAllByRole("listitem")).toHaveLength(11);
    await user.click(list.getByRole("button", { name: "Only the worst 8" }));
    expect(list.getAllByRole("listitem")).toHaveLength(8);
  });
  it("tells what others changed on the pages, and where one left off oneself", async () => {
    useVisited.setState({
      by: { [visitorOf(sessionOf("analyst"))]: [{ path: "/kpis/fuel", search: "?span=month", title: "Fuel" }] },
    });
    const news = [
      {
        at: "2026-11-30T09:00:00Z",
        by: "Jonas Lund",
        said: "Moved “Fuel”",
        page: { pack: "review", packName: "Review", page: "costs", name: "Costs" },
      },
      { at: "2026-11-29T09:00:00Z", by: "Jonas Lund", said: "Removed the page “Old”", page: null },
    ];
    show({ ...HOME, news });
    const changed = within(await screen.findByRole("region", { name: "Changed by others" }));
    expect(changed.getAllByRole("listitem").map(({ textContent }) => textContent)).toEqual([
      expect.stringMatching(/^Costs Moved “Fuel”, Jonas Lund, /),
      expect.stringMatching(/Removed the page “Old”, Jonas Lund, /),
    ]);
    expect(changed.getByRole("link", { name: "Costs" }).getAttribute("href")).toBe("/packs/review/costs");
    const left = within(screen.getByRole("region", { name: "Where you left off" }));
    expect(left.getByRole("link", { name: "Fuel" }).getAttribute("href")).toBe("/kpis/fuel?span=month");
    useVisited.setState({ by: {} });
  });
  it("leads to the first load where nothing is loaded", async () => {
    show({ openMonth: null, beginning: null, news: [], offPlan: null });
    expect(await screen.findByRole("heading", { level: 1, name: "No month is loaded yet" })).toBeTruthy();
    expect(await screen.findByRole("link", { name: "Load the first month" })).toBeTruthy();
  });
  it("says what went wrong, and tries again", async () => {
    let isAway = true;
    const { user } = show(() =>
      isAway ? new Refusal({ code: "database-unavailable", detail: "The database does not answer." }) : HOME,
    );
    const sheet = within(await screen.findByRole("region", { name: "Off plan" }));
    expect(await sheet.findByText("The database does not answer.")).toBeTruthy();
    isAway = false;
    await user.click(sheet.getByRole("button", { name: "Try again now" }));
    expect(await sheet.findByText("2 KPIs are off plan")).toBeTruthy();
  });
});
