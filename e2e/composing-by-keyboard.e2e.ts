import { type Page } from "@playwright/test";
import { expectAccessible } from "./accessibility.ts";
import { barButton } from "./arrange.ts";
import { chooseIn, pressOn, tabTo, writeInto } from "./keyboard.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

const chartOf = (page: Page) => page.getByRole("group", { name: /^Panel chart over time/ });
const barsOf = (page: Page) => page.getByRole("group", { name: /^Panel breakdown/ });

test("a review is composed by keyboard alone", async ({ page }) => {
  await signInAs(page, "Maren Holt");
  const pack = page.getByRole("region", { name: "Pages of October by hand" });
  await test.step("a pack, a page, a pattern, panels from the rack", async () => {
    await pressOn(page, page.getByRole("link", { name: "Packs and pages" }));
    await writeInto(page, page.getByLabel(/^Name of a new pack/), "{month} by hand");
    await pressOn(page, page.getByRole("button", { name: "Create pack" }));
    await pressOn(page, pack.getByRole("button", { name: "Add a page" }));
    await writeInto(page, pack.getByLabel("Page", { exact: true }), "Front");
    await page.keyboard.press("Tab");
    await expect(pack.getByText("Saved")).toBeVisible();
    await pressOn(page, pack.getByRole("link", { name: "Arrange" }));
    await expect(page.getByText("This page is empty")).toBeVisible();
    await pressOn(page, page.getByRole("button", { name: "Pattern" }));
    await pressOn(page, page.getByRole("button", { name: /^Month at hand/ }));
    await pressOn(page, page.locator(".react-grid-item").getByRole("button", { name: "a chart over time" }));
    await expect(page.getByRole("region", { name: "Over time" }).getByRole("img")).toBeVisible();
    await pressOn(page, page.getByRole("button", { name: /^Add a breakdown/ }));
    await expect(page.getByRole("region", { name: "Breakdown" }).getByRole("img")).toBeVisible();
    await expectAccessible(page);
  });
  const placeOf = async (panel: ReturnType<typeof chartOf>) => {
    const { x, y, width, height } = (await panel.boundingBox())!;
    return { x: Math.round(x), y: Math.round(y), width: Math.round(width), height: Math.round(height) };
  };
  await test.step("moved, sized, made equally wide, undone and redone", async () => {
    await tabTo(page, chartOf(page));
    const before = await placeOf(chartOf(page));
    await page.keyboard.press("Shift+ArrowLeft");
    await page.keyboard.press("Shift+ArrowLeft");
    await expect.poll(async () => (await placeOf(chartOf(page))).width).toBeLessThan(before.width);
    await page.keyboard.press("ArrowRight");
    await expect.poll(async () => (await placeOf(chartOf(page))).x).toBeGreaterThan(before.x);
    const { width } = await placeOf(chartOf(page));
    await page.keyboard.press("Space");
    await expect(page.getByText("2 panels chosen")).toBeVisible();
    await pressOn(page, barButton(page, "Equally wide"));
    const difference = async () => Math.abs((await placeOf(chartOf(page))).width - (await placeOf(barsOf(page))).width);
    await expect.poll(difference).toBeLessThan(3);
    await page.keyboard.press("Control+z");
    await expect.poll(async () => Math.abs((await placeOf(chartOf(page))).width - width)).toBeLessThan(3);
    await page.keyboard.press("Control+Shift+z");
    await expect.poll(difference).toBeLessThan(3);
  });
  await test.step("duplicated, its kind changed, its span its own, its headline written", async () => {
    await tabTo(page, barsOf(page));
    await page.keyboard.press("Control+d");
    await expect(barsOf(page)).toHaveCount(2);
    await pressOn(page, chartOf(page));
    const drawer = page.getByRole("complementary", { name: /^Arrange / });
    await chooseIn(page, drawer.getByRole("combobox", { name: /^Span/ }), "year so far");
    await expect(page.getByText(/Keeps its own: year so far/)).toBeVisible();
    await expectAccessible(page);
    await chooseIn(page, drawer.getByLabel("Kind"), "tiles");
    await expect(page.getByRole("region", { name: "Tiles" }).getByText(/Keeps its own: year so far/)).toBeVisible();
    await pressOn(page, page.getByRole("button", { name: /^Headline: / }));
    await page.keyboard.press("Control+a");
    await page.keyboard.type("The month holds");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("The month holds");
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  });
  await test.step("copied to another page", async () => {
    await tabTo(page, barsOf(page));
    await page.keyboard.press("Control+c");
    await pressOn(page, page.getByRole("button", { name: "Done" }));
    await pressOn(page, page.getByRole("link", { name: "Packs and pages" }));
    await pressOn(page, pack.getByRole("button", { name: "Add a page" }));
    await expect(pack.getByLabel("Page", { exact: true })).toHaveCount(2);
    await pressOn(page, pack.getByRole("button", { name: "Move New page up" }));
    await expect(pack.getByLabel("Page", { exact: true }).first()).toHaveValue("New page");
    await pressOn(page, pack.getByRole("link", { name: "Arrange" }));
    await expect(page.getByText("This page is empty")).toBeVisible();
    await page.keyboard.press("Control+v");
    await expect(page.getByRole("region", { name: "Breakdown" }).getByRole("img")).toBeVisible();
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    await pressOn(page, page.getByRole("button", { name: "Done" }));
  });
  await test.step("removed, brought back, retired", async () => {
    await pressOn(page, page.getByRole("link", { name: "Packs and pages" }));
    await pressOn(page, pack.getByRole("button", { name: "Remove New page" }));
    await expect(pack.getByLabel("Page", { exact: true })).toHaveCount(1);
    await pressOn(page, pack.getByRole("button", { name: "Restore" }));
    await expect(pack.getByLabel("Page", { exact: true })).toHaveCount(2);
    await pressOn(page, pack.getByRole("button", { name: "Retire" }));
    await expect(page.getByRole("region", { name: "Retired packs" }).getByText("October by hand")).toBeVisible();
    await expectAccessible(page);
  });
});

test("a page answers by keyboard alone", async ({ page }) => {
  await signInAs(page, "Maren Holt");
  const chart = page.getByRole("region", { name: "Over time" });
  const areas = page.getByRole("region", { name: "Breakdown", exact: true });
  await test.step("the frame and the choosers", async () => {
    await pressOn(page, page.getByRole("link", { name: "Revenue", exact: true }));
    await expect(chart.getByText(/for all routes, against Budget/)).toBeVisible();
    await pressOn(page, page.getByRole("group", { name: "KPI" }).getByRole("button", { name: "Freight revenue" }));
    await expect(page.getByRole("heading", { level: 1 })).toContainText("Freight revenue for the year to date");
    await pressOn(page, page.getByRole("group", { name: "By" }).getByRole("button", { name: "quarter" }));
    await expect(chart.getByText(/by quarter/)).toBeVisible();
    await pressOn(page, chart.getByRole("button", { name: "Lines", exact: true }));
    await expect(chart.getByRole("button", { name: "Lines", exact: true })).toHaveAttribute("aria-pressed", "true");
  });
  const narrowed = page.getByRole("group", { name: "narrowed to" });
  await test.step("narrowed, added to, weighed, taken back", async () => {
    await tabTo(page, areas.getByRole("img"));
    await page.keyboard.press("Enter");
    await expect(narrowed.getByRole("button")).toHaveCount(1);
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("Control+Enter");
    await expect(narrowed.getByRole("button")).toHaveCount(2);
    await page.keyboard.press("Escape");
    await page.keyboard.press("Escape");
    await expect(narrowed).toHaveCount(0);
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("Alt+Enter");
    await expect(page.getByRole("group", { name: "with the part of" })).toBeVisible();
    await expect(chart.getByText(/for all routes, against Budget/)).toBeVisible();
    await page.keyboard.press("Escape");
    await page.keyboard.press("Escape");
    await expect(page.getByRole("group", { name: "with the part of" })).toHaveCount(0);
  });
  await test.step("drilled, and back by the path", async () => {
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("ArrowDown");
    await expect(areas.getByRole("heading", { level: 2 })).toContainText("by route");
    await pressOn(page, areas.getByRole("button", { name: "all", exact: true }));
    await expect(areas.getByRole("heading", { level: 2 })).toContainText("by sea area");
  });
  await test.step("a row leads to the detail, Back returns, a figure to its source lines", async () => {
    await pressOn(page, page.getByRole("link", { name: "Cover", exact: true }));
    const scorecard = page.getByRole("region", { name: "Scorecard" });
    await pressOn(page, scorecard.getByRole("button", { name: "Open Costs and fuel" }));
    await expect(page).toHaveURL(/costs-and-fuel/);
    // The browser's own key for it is not the page's.
    await page.goBack();
    await expect(page).toHaveURL(/cover/);
    await pressOn(page, scorecard.getByRole("button", { name: /^Fuel, Actual, .*Where does it come from/ }));
    const origin = page.getByRole("complementary", { name: "Where this figure comes from" });
    await expect(origin.getByRole("region", { name: "Source lines" }).getByRole("row").nth(1)).toBeVisible();
    await expectAccessible(page);
    await page.keyboard.press("Escape");
    await expect(origin).toHaveCount(0);
  });
  await test.step("the workbench, and what is kept of it", async () => {
    await pressOn(page, page.getByRole("link", { name: "Workbench" }));
    await pressOn(page, page.getByRole("button", { name: "Choose a KPI" }));
    await page.keyboard.type("Fuel");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("region", { name: "Over time" }).getByRole("img")).toBeVisible();
    await chooseIn(page, page.getByLabel("Split by"), "Vessel");
    await expect(page.getByRole("region", { name: "Breakdown" }).getByRole("img")).toBeVisible();
    await pressOn(page, page.getByRole("group", { name: "Kind" }).getByRole("button", { name: "tiles" }));
    await expect(page.getByRole("region", { name: "Tiles" })).toBeVisible();
    await pressOn(page, page.getByRole("button", { name: "Back to the previous view" }));
    await expect(page.getByRole("region", { name: "Breakdown" }).getByRole("img")).toBeVisible();
    await page.keyboard.press("Control+k");
    await page.keyboard.type("fuel by vessel as breakdown against prior year");
    await expect(page.getByRole("option", { name: "Show it in the workbench" })).toHaveAttribute(
      "data-selected",
      "true",
    );
    await page.keyboard.press("Enter");
    await expect(page.getByText(/by vessel, .*against Prior year/)).toBeVisible();
    await chooseIn(page, page.getByLabel("Add it as a panel to"), "Costs and fuel");
    await pressOn(page, page.getByRole("button", { name: "Add panel" }));
    await pressOn(page, page.getByRole("status").getByRole("link", { name: "Costs and fuel" }));
    await expect(
      page
        .getByRole("region", { name: /^Breakdown/ })
        .last()
        .getByText(/Keeps its own: against Prior year/),
    ).toBeVisible();
  });
});
