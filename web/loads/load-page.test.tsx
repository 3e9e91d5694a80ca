import { sessionOf } from "#testing/session.ts";
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { LoadDetail } from "#contract/loads.ts";
import { Refusal, renderPage, type Answers } from "#testing/render-page.tsx";
import { LoadPage } from "./load-page.tsx";

const KPI = { key: "fuel", name: "Fuel", unit: { kind: "money" as const }, decimals: 0, direction: "lower" as const };
const LOAD: LoadDetail = {
  id: 7,
  fileName: "october.csv",
  dataset: "Monthly ledger",
  scenario: "Actual",
  postedOn: "5 November 2026",
  postedBy: "Maren Holt",
  postedAt: "2026-11-05T08:00:00Z",
  rows: 1200,
  rejected: 2,
  months: "October FY27",
  state: "in force",
  undone: null,
  intake: "Ledger extract",
  hasFile: true,
  totals: [{ account: "Fuel", scenario: "Actual", rows: 40, amount: "1250.50", unit: "€" }],
  findings: [],
  rates: [],
  brought: [],
  isFollowedUp: true,
  asksOfDays: false,
  moved: [
    { kpi: KPI, scenario: "Actual", span: "month", before: { value: 1000 }, after: { value: 1250 } },
    {
      kpi: { ...KPI, key: "price", name: "Fuel price" },
      scenario: "Actual",
      span: "year to date",
      before: { absent: "no data", detail: "Nothing before." },
      after: { value: 3 },
    },
  ],
  review: null,
  replaces: [],
  replacedBy: [],
  hindrance: null,
};
const show = (load: LoadDetail, answers: Answers = {}, at = "/loads/7") =>
  renderPage(<LoadPage />, { at, path: "/loads/:load", answers: { load, ...answers } });

describe("a load's page", () => {
  it("shows what moved by span, with Δ only where both sides are there", async () => {
    show(LOAD);
    const moved = within(await screen.findByRole("region", { name: "What changed" }));
    const rows = moved.getAllByRole("row").map((row) => row.textContent);
    expect(rows).toEqual([
      "Month, ActualBeforeAfterΔ",
      "Fuel€ 1,000€ 1,250+€ 250",
      "Year to date, ActualBeforeAfterΔ",
      expect.stringMatching(/^Fuel price.*€ 3$/),
    ]);
  });

  it("says whose it is, and offers file and left-out lines", async () => {
    show(LOAD);
    expect((await screen.findByText(/1,200 rows of Monthly ledger, Actual, October FY27/)).textContent).toMatch(
      /posted by Maren Holt on .*, loaded as “Ledger extract”\.$/,
    );
    expect(screen.getByRole("link", { name: "The file" }).getAttribute("href")).toBe("/api/loads/7/file");
    expect(screen.getByRole("link", { name: "Left-out lines as CSV" }).getAttribute("href")).toBe(
      "/api/loads/7/rejected.csv",
    );
  });

  it("asks those who may say it what days without lines are, and nobody else", async () => {
    const asking = { ...LOAD, asksOfDays: true };
    show(asking, { session: sessionOf() });
    const link = await screen.findByRole("link", { name: "Answer under Calendar and datasets" });
    expect(link.getAttribute("href")).toBe("/structure/calendar");
    cleanup();
    show(asking, { session: sessionOf("area-manager") });
    await screen.findByRole("heading", { level: 1 });
    expect(screen.queryByRole("link", { name: /^Answer/ })).toBeNull();
  });

  it("offers neither where there is none", async () => {
    show({ ...LOAD, hasFile: false, rejected: 0 });
    await screen.findByRole("heading", { level: 1 });
    expect(screen.queryByRole("link", { name: "The file" })).toBeNull();
    expect(screen.queryByRole("link", { name: /Left-out/ })).toBeNull();
  });

  it("is undone in one step and brought back in another", async () => {
    const undone = { at: "2026-11-06T08:00:00Z", by: "Maren Holt" };
    let current: LoadDetail = LOAD;
    const page = renderPage(<LoadPage />, {
      at: "/loads/7",
      path: "/loads/:load",
      answers: {
        load: () => current,
        undoLoad: () => (current = { ...LOAD, state: "undone", undone }),
        redoLoad: () => (current = LOAD),
      },
    });
    await page.user.click(await screen.findByRole("button", { name: "Undo this load" }));
    expect(await screen.findByText(/Undone by Maren Holt on .*: nothing of it counts\./)).toBeTruthy();
    await page.user.click(screen.getByRole("button", { name: "Redo this load" }));
    expect(await screen.findByRole("button", { name: "Undo this load" })).toBeTruthy();
    expect(page.asked.filter(({ id }) => id !== "load").map(({ id, params }) => [id, params["load"]])).toEqual([
      ["undoLoad", "7"],
      ["redoLoad", "7"],
    ]);
  });

  it("keeps to what is there where undoing is refused, and says why", async () => {
    const page = show(LOAD, {
      undoLoad: () => new Refusal({ code: "changed-meanwhile", detail: "Another load stands on it: november.csv." }),
    });
    await page.user.click(await screen.findByRole("button", { name: "Undo this load" }));
    expect((await screen.findByRole("alert")).textContent).toBe("Another load stands on it: november.csv.");
    await waitFor(() =>
      expect(screen.getByRole<HTMLButtonElement>("button", { name: "Undo this load" }).disabled).toBe(false),
    );
  });

  it("cannot be undone while something hinders it, which it says", async () => {
    show({ ...LOAD, hindrance: "Undo november.csv first: it replaced this one." });
    expect((await screen.findByRole<HTMLButtonElement>("button", { name: "Undo this load" })).disabled).toBe(true);
    expect(screen.getByText("Undo november.csv first: it replaced this one.")).toBeTruthy();
  });

  it("leads to the load that replaced it and shows the difference to the one it replaced", async () => {
    const page = show(
      { ...LOAD, replaces: [{ id: 5, fileName: "first.csv", months: "October FY27" }] },
      {
        loadDifference: {
          from: { id: 5, fileName: "first.csv" },
          to: { id: 7, fileName: "october.csv" },
          same: 1199,
          total: 1,
          byAccount: [{ account: "Repairs", unit: "€", from: "368000", to: "184000", delta: "-184000" }],
          lines: [
            {
              side: "gone",
              line: 88,
              account: "Repairs",
              period: "October FY27",
              members: "Gannet",
              reference: "M-118",
              amount: "184000",
              unit: "€",
            },
          ],
        },
      },
    );
    await page.user.click(await screen.findByRole("button", { name: "Show differing lines" }));
    const difference = within(await screen.findByRole("region", { name: "Difference" }));
    expect(difference.getByRole("heading", { level: 2 }).textContent).toBe(
      "1 line differs between first.csv and october.csv",
    );
    expect(difference.getByText("− gone").closest("tr")!.textContent).toContain("M-118184,000 €");
    expect(difference.getByText("−184,000 €")).toBeTruthy();
    expect(page.address()).toBe("/loads/7?compare=5");
    await page.user.click(screen.getByRole("button", { name: "Hide differing lines" }));
    expect(screen.queryByRole("region", { name: "Difference" })).toBeNull();
  });

  it("says that all of it is new where a first review starts from it, and leads there", async () => {
    show({
      ...LOAD,
      moved: [],
      findings: [
        {
          rule: "outlier",
          severity: "warn",
          message: "One amount stands out.",
          count: 1,
          lines: [],
          names: [],
          answer: "Kept",
        },
      ] as unknown as LoadDetail["findings"],
      review: { pack: "own", name: "Own review" },
    });
    expect(await screen.findByText("Everything is new: there were no figures before.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "See “Own review”" }).getAttribute("href")).toBe("/packs/own");
    expect(screen.getByRole("region", { name: "Check results" }).textContent).toContain("One amount stands out. Kept.");
  });

  it("that is not there leads back to the list", async () => {
    renderPage(<LoadPage />, {
      at: "/loads/99",
      path: "/loads/:load",
      answers: { load: () => new Refusal({ code: "not-found", detail: "There is no load 99." }) },
    });
    expect(await screen.findByText("There is no load 99.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "To the list of loads" }).getAttribute("href")).toBe("/loads");
  });
});
