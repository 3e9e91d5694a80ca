import { sessionOf } from "#testing/session.ts";
import { screen, waitFor, within } from "@testing-library/react";
import { beforeAll, describe, expect, it } from "vitest";
import type { LibraryKpi } from "#contract/kpis.ts";
import { Refusal, renderPage, type Answers } from "#testing/render-page.tsx";
import { KpiPage } from "./kpi-page.tsx";
import type { KpiDefinition } from "#core/kpis/schema.ts";

const FUEL: KpiDefinition = {
  key: "fuel",
  name: "Fuel",
  formula: "marine_fuel",
  unit: { kind: "money" },
  decimals: 0,
  direction: "lower",
  tolerance: { kind: "percent", percent: 1 },
  owner: "Maren",
  description: "",
  status: null,
  fallbackBasis: null,
};
const inLibrary = (definition: KpiDefinition, version: number): LibraryKpi => ({
  definition,
  version,
  reads: [],
  usedBy: [],
  pages: [],
  problem: null,
});
beforeAll(() => {
  // What the editor measures text with; a document without layout has none.
  Object.assign(Range.prototype, { getClientRects: () => [] });
});
const show = (answers: Answers) =>
  renderPage(<KpiPage />, {
    at: "/kpis/fuel",
    path: "/kpis/:kpi",
    answers: {
      session: sessionOf(),
      kpis: [inLibrary(FUEL, 3)],
      language: { accounts: [], kpis: [], scenarios: [], dimensions: [], functions: [] },
      kpiHistory: [],
      tryFormula: {
        frame: {
          asOf: "2026-10",
          span: "year-to-date",
          basis: "budget",
          basisCode: "budget",
          scope: {},
          unit: "thousand",
          words: { asOf: "", span: "", spanMonths: "", isOpen: false, shown: "Actual", basis: "Budget", scope: "" },
        },
        type: "money, adds up over time",
        unit: { kind: "money" },
        decimals: 0,
        printed: "marine_fuel",
        points: [],
        figures: [],
        notes: [],
      },
      ...answers,
    },
  });
const nameField = () => screen.findByLabelText<HTMLInputElement>("Name");
const rename = async ({ user }: ReturnType<typeof show>, name: string) => {
  const field = await nameField();
  await user.clear(field);
  await user.type(field, name);
  const save = screen.getByRole<HTMLButtonElement>("button", { name: "Save" });
  await waitFor(() => expect(save.disabled).toBe(false));
  await user.click(save);
};

describe("a KPI's page", () => {
  it("saves on the version it was opened with, and is clean afterwards", async () => {
    let library = [inLibrary(FUEL, 3)];
    const page = show({ saveKpi: [inLibrary({ ...FUEL, name: "Bunkers" }, 4)], kpis: () => library });
    await screen.findByText(/money, adds up over time/);
    library = [inLibrary({ ...FUEL, name: "Bunkers" }, 4)];
    await rename(page, "Bunkers");
    const saved = page.asked.find(({ id }) => id === "saveKpi");
    expect(saved?.body).toMatchObject({ key: "fuel", version: 3, definition: { name: "Bunkers" } });
    expect(await screen.findByRole("heading", { level: 1, name: "Bunkers" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Discard changes" })).toBeNull();
  });
  it("throws away what was typed when asked, in its fields too", async () => {
    const page = show({});
    await page.user.type(await nameField(), " oil");
    await page.user.click(await screen.findByRole("button", { name: "Discard changes" }));
    expect((await nameField()).value).toBe("Fuel");
  });
  it("shows both versions where somebody else saved first, and saves on top of theirs when asked", async () => {
    const theirs = { ...FUEL, name: "Marine fuel", direction: "neutral" as const };
    const page = show({
      saveKpi: ({ body }) =>
        (body as { version: number }).version === 9
          ? [inLibrary({ ...FUEL, name: "Bunkers" }, 10)]
          : new Refusal({
              code: "changed-meanwhile",
              detail: "Somebody changed Marine fuel while you edited it.",
              both: { current: { ...theirs, version: 9 }, yours: { ...FUEL, name: "Bunkers" } },
            }),
    });
    await rename(page, "Bunkers");
    const both = within(await screen.findByRole("alert"));
    expect(both.getByText("Marine fuel").nextElementSibling?.textContent).toBe("Bunkers");
    expect(both.getByText("neutral").nextElementSibling?.textContent).toBe("lower");
    expect(both.getByText("Good is").tagName).toBe("DT");
    expect(page.asked.filter(({ id }) => id === "kpiHistory").length).toBeGreaterThan(1);
    // Nothing typed is lost while it is decided.
    expect((await nameField()).value).toBe("Bunkers");
    await page.user.click(both.getByRole("button", { name: "Apply my version on top" }));
    const versions = page.asked
      .filter(({ id }) => id === "saveKpi")
      .map(({ body }) => (body as { version: number }).version);
    expect(versions).toEqual([3, 9]);
  });
  it("takes theirs when asked", async () => {
    let now = inLibrary(FUEL, 3);
    const page = show({
      kpis: () => [now],
      saveKpi: () => {
        now = inLibrary({ ...FUEL, name: "Marine fuel" }, 4);
        return new Refusal({
          code: "changed-meanwhile",
          detail: "Somebody was first.",
          both: { current: { ...now.definition, version: 4 }, yours: { ...FUEL, name: "Bunkers" } },
        });
      },
    });
    await rename(page, "Bunkers");
    await page.user.click(await screen.findByRole("button", { name: "Keep their version" }));
    expect(await screen.findByRole("heading", { level: 1, name: "Marine fuel" })).toBeTruthy();
    await waitFor(async () => expect((await nameField()).value).toBe("Marine fuel"));
    expect(screen.queryByRole("alert")).toBeNull();
  });
  it("says that a KPI is not there, with the way to those that are", async () => {
    show({ kpis: [] });
    expect(await screen.findByText('There is no KPI "fuel"')).toBeTruthy();
    expect(screen.getByRole("link", { name: "To the KPI library" }).getAttribute("href")).toBe("/kpis");
  });
});
