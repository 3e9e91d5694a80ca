import { type Page } from "@playwright/test";
import { expectAccessible } from "./accessibility.ts";
import { add, anotherPage, done } from "./board.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

const REGIONS = ["Fjordmark", "Osterholt", "Sandvik"];
const DISCOUNTS = [
  ["none", 1],
  ["small", 0.5],
  ["large", 0.2],
] as const;

/** Two years of sales and quantities by region and discount; what could be sold is told for the second year only. */
function salesFile(): string {
  const lines = ["Month,Scenario,Region,Discount,Sales,Quantity"];
  for (let i = 0; i < 24; i += 1) {
    const month = `${2024 + Math.floor((3 + i) / 12)}-${String(((3 + i) % 12) + 1).padStart(2, "0")}`;
    for (const [r, region] of REGIONS.entries())
      for (const [discount, share] of DISCOUNTS) {
        const sales = Math.round(1000 * (1 + 0.4 * r) * share * (1 + 0.02 * i));
        const row = (scenario: string, factor: number) =>
          `${month},${scenario},${region},${discount},${Math.round(sales * factor)},${Math.round((sales * factor) / 4)}`;
        lines.push(row("Actual", 1), row("Budget", 0.96 + 0.03 * r));
        if (i >= 12) lines.push(row("Potential", 1.25));
      }
  }
  return `${lines.join("\n")}\n`;
}

test.describe.configure({ mode: "serial" });
test.describe("scenarios, accounts and regions from one file", () => {
  let page: Page;
  test.beforeAll(async ({ browser }) => {
    page = await browser.newPage();
    await signInAs(page, "Maren Holt", "/loads");
    const file = { name: "regions.csv", mimeType: "text/csv", buffer: Buffer.from(salesFile()) };
    await page.setInputFiles("input[type=file]", file);
    await expect(page.getByText("One stop is open.")).toBeVisible();
    await page.getByRole("button", { name: /^What Potential is/ }).click();
    await page.getByRole("menuitemradio", { name: /^Target/ }).click();
    await page.getByRole("button", { name: /^Post [\d,]+ amounts$/ }).click();
    await expect(page.getByRole("heading", { name: "What changed" })).toBeVisible();
    // Its first page is made after it was posted.
    await expect(page.getByRole("link", { name: "See “Regions”" })).toBeVisible();
  });
  test.afterAll(async () => {
    // Others find the packs and the figures as they were.
    await page.goto("/packs");
    await page.getByRole("region", { name: "Pages of Regions" }).getByRole("button", { name: "Retire" }).click();
    await expect(page.getByRole("region", { name: "Retired packs" }).getByText("Regions")).toBeVisible();
    await page.goto("/loads");
    await page
      .getByRole("link", { name: /regions\.csv/ })
      .first()
      .click();
    await page.getByRole("button", { name: "Undo this load" }).click();
    await expect(page.getByText("nothing of it counts")).toBeVisible();
    await page.close();
  });
  const drawer = () => page.getByRole("complementary", { name: /^Arrange / });
  const empty = async () => {
    await page.goto("/packs");
    await anotherPage(page, "Regions");
  };

  test("as a bridge by region and by year, stacked months, a table of changes and a heat grid", async () => {
    await empty();
    await add(page, "a bridge");
    await drawer()
      .getByLabel(/^(Default )?KPI(?! on)/)
      .selectOption({ label: "Sales" });
    await drawer().getByLabel("It leads").selectOption({ label: "from the prior year to the actual" });
    await drawer().getByLabel("Step by step").selectOption({ label: "member" });
    await drawer().getByLabel("Break down by").selectOption({ label: "Region" });
    await add(page, "a chart over time");
    await drawer().getByLabel("Default KPI").selectOption({ label: "Sales" });
    await drawer().getByLabel("Split by").selectOption({ label: "Region" });
    await drawer().getByLabel("Arrange columns").selectOption({ label: "on top of each other" });
    await add(page, "a cross-tab");
    await drawer().getByLabel("Rows, depth 1").selectOption({ label: "Region" });
    await add(page, "a heat grid");
    await drawer()
      .getByLabel(/^(Default )?KPI(?! on)/)
      .selectOption({ label: "Sales" });
    await drawer().getByLabel("Rows").selectOption({ label: "Region" });
    await done(page);
    const bridge = page.getByRole("region", { name: "Bridge", exact: true });
    for (const name of ["Prior year", ...REGIONS, "Actual"])
      await expect(bridge.locator("svg text", { hasText: name }).first()).toBeVisible();
    const months = page.getByRole("region", { name: "Over time", exact: true });
    for (const region of REGIONS) await expect(months.getByRole("button", { name: region })).toBeVisible();
    await expect(months.getByRole("button", { name: "Series: on top of each other" })).toBeVisible();
    const changes = page.getByRole("region", { name: "Cross-tab", exact: true }).getByRole("grid");
    await expect(changes.getByRole("columnheader", { name: "Budget", exact: true })).toBeVisible();
    await expect(changes.getByRole("row", { name: /^Fjordmark [\d,]+ [\d,]+ / })).toContainText("+");
    await expect(changes.getByRole("row", { name: /^All / })).toBeVisible();
    await expect(
      page.getByRole("region", { name: "Heat grid", exact: true }).locator("svg text", { hasText: "Sandvik" }),
    ).toBeVisible();
    await expectAccessible(page);
  });

  test("the actual as columns with what could be sold as a line, which is there for one year only: so it says", async () => {
    await empty();
    await add(page, "a chart over time");
    await drawer().getByLabel("Default KPI").selectOption({ label: "Sales" });
    await drawer().getByLabel("Drawn as").selectOption({ label: "columns, with a line for the basis" });
    await drawer().getByLabel("Window").selectOption({ label: "the last 24" });
    for (const part of ["Budget", "Prior year", "Forecast"]) await drawer().getByLabel(part, { exact: true }).uncheck();
    await done(page);
    const chart = page.getByRole("region", { name: "Over time", exact: true });
    await expect(chart.getByText("Target is there for April–March FY26 only.")).toBeVisible();
    await expect(chart.getByRole("listitem").filter({ hasText: /^Target$/ })).toBeVisible();
    await expect(chart.getByRole("button", { name: "Columns and lines" })).toHaveAttribute("aria-pressed", "true");
    await expectAccessible(page);
  });

  test("quantities by region and discount as a cross-tab without the totals of its columns", async () => {
    await empty();
    await add(page, "a cross-tab");
    await drawer().getByRole("button", { name: "Quantity", exact: true }).click();
    const chosen = drawer().getByRole("region", { name: "KPIs" });
    await chosen.getByRole("button", { name: /^Leave out (?!Quantity)/ }).click();
    await drawer().getByLabel("Rows, depth 1").selectOption({ label: "Region" });
    await drawer().getByLabel("Columns, depth 1").selectOption({ label: "Discount" });
    const top = drawer().getByRole("region", { name: "Columns" });
    await top.getByLabel("Show total").uncheck();
    for (const measure of ["Δ", "Δ%, with combs"]) await drawer().getByLabel(measure, { exact: true }).uncheck();
    await done(page);
    const grid = page.getByRole("region", { name: "Cross-tab", exact: true }).getByRole("grid");
    await expect(grid.getByRole("columnheader")).toHaveText(["region", "none", "small", "large"]);
    await expect(grid.getByRole("row")).toHaveText([/^region/, /^Fjordmark/, /^Osterholt/, /^Sandvik/, /^All /]);
    // Ordered by a column, walked by keyboard, a row narrows the page.
    await grid.getByRole("button", { name: "none" }).click();
    await expect(grid.getByRole("row").nth(1)).toContainText("Sandvik");
    await grid.focus();
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("ArrowRight");
    const cross = page.getByRole("region", { name: "Cross-tab", exact: true });
    await expect(cross.getByText(/^Quantity, Sandvik, small: [\d,]+/)).toBeVisible();
    await page.keyboard.press("Enter");
    await expect(page.getByRole("group", { name: "narrowed to" }).getByRole("button")).toHaveCount(1);
    await page.keyboard.press("Shift+Enter");
    await expect(page.getByRole("complementary", { name: "Where this figure comes from" })).toContainText("Sandvik");
    await expectAccessible(page);
  });
});
