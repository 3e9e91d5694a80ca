import { sessionOf } from "#testing/session.ts";
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { LibraryKpi } from "#contract/kpis.ts";
import { renderPage } from "#testing/render-page.tsx";
import { LibraryPage } from "./library-page.tsx";

const kpi = (key: string, name: string, change: Partial<LibraryKpi> = {}, owner = "Maren Holt"): LibraryKpi => ({
  definition: {
    key,
    name,
    formula: key,
    unit: { kind: "money" },
    decimals: 0,
    direction: "higher",
    tolerance: { kind: "percent", percent: 1 },
    owner,
    description: "",
    status: null,
    fallbackBasis: null,
  },
  version: 1,
  reads: [],
  usedBy: [],
  pages: [],
  problem: null,
  ...change,
});
const place = { pack: "review", packName: "Review", page: "cover", name: "Cover" };
const KPIS = [
  kpi("revenue", "Revenue", { pages: [place, { ...place, page: "sea" }], usedBy: [{ key: "margin", name: "Margin" }] }),
  kpi("margin", "Margin", { problem: { from: 0, to: 3, message: "There is no account “reveune”." } }, "Ilse Brandt"),
];
const show = (role: "analyst" | "executive" = "analyst") =>
  renderPage(<LibraryPage />, {
    at: "/kpis",
    answers: {
      kpis: KPIS,
      session: sessionOf(role),
    },
  });
const rows = async () => {
  const region = within(await screen.findByRole("region", { name: "KPIs" }));
  await region.findByRole("searchbox");
  return region.queryAllByRole("rowheader").map((head) => head.closest("tr")!.textContent);
};

describe("the KPI library", () => {
  it("says what each is made of, where it is used, and what is wrong with it", async () => {
    show();
    const [revenue, margin] = await rows();
    expect(revenue).toMatch(/^Revenuerevenuemoney.*Maren Holt2 pages, 1 KPI$/);
    expect(margin).toContain("There is no account “reveune”.");
    expect(margin).toMatch(/not used yet$/);
    expect(screen.getByRole("link", { name: "Margin" }).getAttribute("href")).toBe("/kpis/margin");
  });

  it("finds by name, formula and owner", async () => {
    const page = show();
    await rows();
    const field = screen.getByRole("searchbox", { name: "Find a KPI" });
    await page.user.type(field, "BRANDT");
    expect((await rows()).map((row) => row.slice(0, 6))).toEqual(["Margin"]);
    await page.user.clear(field);
    await page.user.type(field, "nothing like it");
    expect(await rows()).toEqual([]);
    expect(screen.getByText("No KPI matches. Change your search, or add a KPI.")).toBeTruthy();
  });

  it("offers a new one to those who may define it", async () => {
    show();
    expect((await screen.findByRole("link", { name: "New KPI" })).getAttribute("href")).toBe("/kpis/new");
  });
  it("and to nobody else", async () => {
    show("executive");
    await rows();
    expect(screen.queryByRole("link", { name: "New KPI" })).toBeNull();
  });
});
