import { sessionOf } from "#testing/session.ts";
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { EditableStructure } from "#contract/structure.ts";
import { renderPage } from "#testing/render-page.tsx";
import { CalendarPage } from "./calendar-page.tsx";

const STRUCTURE: EditableStructure = {
  company: { name: "Mill", startMonth: 4 },
  lastClosed: { month: "2026-10", name: "October FY27" },
  accounts: [],
  dimensions: [],
  datasets: [
    {
      key: "ledger",
      name: "Ledger",
      grain: "month",
      closes: true,
      days: null,
      dimensions: [],
      rows: 12_345,
      months: "April–October FY27",
      isWhole: true,
      scenarios: ["Actual"],
    },
  ],
  scenarios: [
    { key: "actual", name: "Actual", kind: "actual", madeAfter: null, months: "April–October FY27" },
    { key: "budget", name: "Budget", kind: "budget", madeAfter: null, months: "FY27" },
  ],
  changes: [
    { id: 2, at: "2026-11-20T10:00:00.000Z", by: "Maren", said: "Renamed Mill", isUndone: false, mayUndo: true },
    { id: 1, at: "2026-11-19T10:00:00.000Z", by: "Ines", said: "Added Ledger", isUndone: true, mayUndo: false },
  ],
};
const show = (structure = STRUCTURE) =>
  renderPage(<CalendarPage />, {
    answers: {
      session: sessionOf(),
      structure,
      changeDataset: structure,
      removePart: STRUCTURE,
      undoChange: STRUCTURE,
    },
  });

describe("the calendar", () => {
  it("says when the fiscal year opens, and where that is changed", async () => {
    show();
    expect(await screen.findByText(/The fiscal year opens in April/)).toBeTruthy();
    expect(screen.getByRole("link", { name: "changes with the company" }).getAttribute("href")).toBe("/company");
  });
  it("removes a dataset, or a scenario that nothing was loaded for", async () => {
    const page = show();
    await page.user.click(await screen.findByRole("button", { name: "Remove Ledger" }));
    expect(page.asked.find(({ id }) => id === "removePart")?.params).toEqual({ table: "dataset", key: "ledger" });
    // Of Actual, and of what has figures, there is nothing to remove.
    expect(screen.getAllByRole("button", { name: /^Remove/ })).toHaveLength(1);
  });
  it("says which month is closed and what each dataset has", async () => {
    show();
    expect(await screen.findByText("October FY27")).toBeTruthy();
    const datasets = within(screen.getByRole("region", { name: "Datasets" }));
    expect(datasets.getByText("12,345")).toBeTruthy();
  });
  it("asks what days without lines are where that is not clear, and says how they are taken until then", async () => {
    const [ledger] = STRUCTURE.datasets;
    const orders = { ...ledger!, key: "orders", name: "Orders", grain: "day" as const };
    const page = show({ ...STRUCTURE, datasets: [{ ...orders, days: { as: "zero", isClear: false } }] });
    expect(await screen.findByText("Until you answer, they count as zero.")).toBeTruthy();
    await page.user.click(screen.getByRole("button", { name: "Data is missing" }));
    expect(page.asked.find(({ id }) => id === "changeDataset")).toMatchObject({
      params: { dataset: "orders" },
      body: { daysWithoutLines: "missing" },
    });
  });
  it("says how days without lines are taken where it is clear, and lets it be said otherwise", async () => {
    const [ledger] = STRUCTURE.datasets;
    const page = show({ ...STRUCTURE, datasets: [{ ...ledger!, days: { as: "missing", isClear: true } }] });
    await page.user.click(await screen.findByRole("button", { name: "Count them as zero" }));
    expect(page.asked.find(({ id }) => id === "changeDataset")).toMatchObject({ body: { daysWithoutLines: "zero" } });
  });
  it("takes back those changes that can be", async () => {
    const page = show();
    expect(await screen.findByText(/Renamed Mill/)).toBeTruthy();
    const back = screen.getAllByRole("button", { name: "Take back" });
    expect(back).toHaveLength(1);
    await page.user.click(back[0]!);
    expect(page.asked.find(({ id }) => id === "undoChange")?.params).toEqual({ change: "2" });
  });
});
