import { sessionOf } from "#testing/session.ts";
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { LoadHead, LoadList } from "#contract/loads.ts";
import { Refusal, renderPage, type Answers } from "#testing/render-page.tsx";
import { LoadsPage } from "./loads-page.tsx";

const load = (id: number, fileName: string, change: Partial<LoadHead> = {}): LoadHead => ({
  id,
  fileName,
  dataset: "Monthly ledger",
  scenario: "Actual",
  postedOn: "5 November 2026",
  postedBy: "Maren Holt",
  rows: 1200,
  rejected: 0,
  months: "October FY27",
  state: "in force",
  ...change,
});
const LOADS: LoadList = {
  total: 3,
  rows: 3600,
  loads: [
    load(3, "october.csv", { state: "partly replaced" }),
    load(2, "sailings.csv", { dataset: "Daily operations", months: "November FY27" }),
    load(1, "budget.xlsx", { scenario: "Budget", state: "undone", postedBy: "Ilse Brandt" }),
  ],
  broken: [],
};
const show = (answers: Answers = {}, role: "analyst" | "executive" = "analyst") =>
  renderPage(<LoadsPage />, {
    at: "/loads",
    answers: {
      session: sessionOf(role),
      loads: LOADS,
      drafts: [],
      ...answers,
    },
  });
const files = async () => {
  const table = within(await screen.findByRole("region", { name: "Loads" }));
  return (await table.findAllByRole("rowheader")).map((cell) => cell.textContent);
};

describe("the list of loads", () => {
  it("says how much counts, newest first, and what no longer counts in full", async () => {
    show();
    expect(await screen.findByText("3,600 rows in force, from 3 files, newest first.")).toBeTruthy();
    expect(await files()).toEqual(["october.csvpartly replaced", "sailings.csv", "budget.xlsxundone"]);
    expect(screen.getByRole("link", { name: "october.csv" }).getAttribute("href")).toBe("/loads/3");
  });

  it("finds by every word of file, dataset, scenario, month or person", async () => {
    const page = show();
    const field = await screen.findByRole("searchbox", { name: "Find a load" });
    await page.user.type(field, "BUDGET ilse");
    expect(await files()).toEqual(["budget.xlsxundone"]);
    await page.user.clear(field);
    await page.user.type(field, "november daily");
    expect(await files()).toEqual(["sailings.csv"]);
    await page.user.clear(field);
    await page.user.type(field, "budget daily");
    expect(screen.getByText("No load matches. Change your search, or load a file.")).toBeTruthy();
  });

  it("leads back to files that were not posted, and says why one has to be looked at again", async () => {
    const head = { id: 9, uploadedAt: "2026-11-05T08:00:00Z", uploadedBy: "Maren Holt" };
    show({
      drafts: [
        { ...head, fileName: "late.csv", note: null },
        { ...head, id: 10, fileName: "old.csv", note: "It was read anew" },
      ],
    });
    const list = within(await screen.findByRole("region", { name: "Files being loaded" }));
    const [late, old] = list.getAllByRole("listitem");
    expect(late!.textContent).toMatch(/^late\.csv brought by Maren Holt, .*, not posted yet$/);
    expect(old!.textContent).toMatch(/It was read anew$/);
    expect(list.getByRole("link", { name: "old.csv" }).getAttribute("href")).toBe("/loads/files/10");
  });

  it("says what was broken off, with the way to go on where the file is still there", async () => {
    const broken = {
      id: 5,
      at: "2026-11-05T08:00:00Z",
      by: "Maren Holt",
      message: "The server stopped. Nothing was posted.",
    };
    show({
      loads: {
        ...LOADS,
        broken: [
          { ...broken, fileName: "kept.csv", draftId: 12 },
          { ...broken, id: 6, fileName: "gone.csv", draftId: null },
        ],
      },
    });
    const [kept, gone] = await screen.findAllByText(
      (_text, element) =>
        /Nothing was posted/.test(element?.textContent ?? "") && element?.getAttribute("role") === "status",
    );
    expect(within(kept!).getByRole("link", { name: "Open the draft" }).getAttribute("href")).toBe("/loads/files/12");
    expect(within(gone!).queryByRole("link")).toBeNull();
  });

  it("shows those who only read the list and nothing to load, open or go on with", async () => {
    const page = show(
      {
        loads: {
          ...LOADS,
          broken: [
            { id: 5, fileName: "x.csv", at: "2026-11-05T08:00:00Z", by: "M", message: "Broken off.", draftId: 1 },
          ],
        },
      },
      "executive",
    );
    expect(await files()).toHaveLength(3);
    expect(screen.queryByRole("link")).toBeNull();
    expect(screen.queryByText(/Broken off/)).toBeNull();
    expect(page.asked.some(({ id }) => id === "drafts")).toBe(false);
  });

  it("says what the server said where the list cannot be had", async () => {
    show({
      loads: () => new Refusal({ code: "database-unavailable", detail: "The database does not answer. Try again." }),
    });
    expect((await screen.findByText(/The database does not answer/)).textContent).toBeTruthy();
  });
});
