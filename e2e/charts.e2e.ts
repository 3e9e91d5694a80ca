import { expectAccessible } from "./accessibility.ts";
import { add, done, emptyPage, offer, retire } from "./board.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

test("this year against the average, least and most of the years before: on their range, dot by dot, year by year", async ({
  page,
}) => {
  await emptyPage(page, "First board");
  await add(page, "a season");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Passengers" });
  await expect(drawer.getByLabel("Prior years")).toHaveValue("3");
  await done(page);
  const season = page.getByRole("region", { name: "Season", exact: true });
  await expect(season.getByText("range and average of 3 years")).toBeVisible();
  await expect(season.getByRole("heading", { level: 2 })).toContainText("above the month's average of 3 years");
  const see = async (how: string) => {
    await season.getByRole("button", { name: /^Seen/ }).click();
    await page.getByRole("menuitemradio", { name: how }).click();
  };
  await see("against the average");
  await expect(season.getByText(/one dot a month; line: r 0\.\d\d, n 7/)).toBeVisible();
  await see("a small chart for each year");
  for (const year of ["FY24", "FY25", "FY26", "FY27"])
    await expect(season.locator("svg text", { hasText: new RegExp(`^${year}$`) })).toBeVisible();
  await expectAccessible(page);
  await season.getByRole("button", { name: "Table of numbers" }).click();
  await expect(season.getByRole("columnheader", { name: "Average" })).toBeVisible();
  await expect(season.getByRole("row")).toHaveCount(13);
  await retire(page, "First board");
});

test("growth month by month, coloured by ranges of one's own, the first month present", async ({ page }) => {
  await emptyPage(page, "Second board");
  await add(page, "growth");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Fuel" });
  await drawer.getByLabel("Growth against").selectOption({ label: "the period before" });
  await drawer.getByLabel("Window").selectOption({ label: "the last 6" });
  await drawer.getByLabel("Colour by my own ranges").check();
  await drawer.getByLabel("Name of range 1").fill("less fuel");
  await drawer.getByLabel("Name of range 1").press("Tab");
  await done(page);
  const growth = page.getByRole("region", { name: "Growth", exact: true });
  await expect(growth.getByRole("heading", { level: 2 })).toContainText(/^Fuel .* in October FY27 on the month before/);
  for (const name of ["less fuel", "growing", "growing fast"])
    await expect(growth.getByRole("listitem").filter({ hasText: new RegExp(`^${name}$`) })).toBeVisible();
  await growth.getByRole("img").focus();
  await page.keyboard.press("Home");
  await expect(growth.locator("[aria-live]")).toHaveText(/^May FY27: .*[+−]\d/);
  await expectAccessible(page);
  await retire(page, "Second board");
});

test("from the year to date to the year's end, against the plan, on an axis that says it is shortened", async ({
  page,
}) => {
  await emptyPage(page, "Third board");
  await add(page, "a bridge");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Operating result" });
  await drawer.getByLabel("It leads").selectOption({ label: "from the year to date to the year’s end" });
  await done(page);
  const bridge = page.getByRole("region", { name: "Bridge", exact: true });
  await expect(bridge.getByRole("heading", { level: 2 })).toContainText("is expected to end the year");
  for (const name of ["Year to date", "November FY27", "Outlook", "To Budget", "Budget"])
    await expect(bridge.locator("svg text", { hasText: new RegExp(`^${name}`) }).first()).toBeVisible();
  await expect(bridge.getByText("The axis does not start at zero")).toBeVisible();
  await bridge.getByRole("button", { name: "Show the axis from zero" }).click();
  await expect(bridge.getByText("The axis does not start at zero")).toHaveCount(0);
  await expectAccessible(page);
  // The other way: by account, opened one below the other, and back.
  await bridge.getByRole("button", { name: /^Leads/ }).click();
  await page.getByRole("menuitemradio", { name: "from the prior year to the actual" }).click();
  await expect(bridge.getByRole("heading", { level: 2 })).toContainText("Prior year");
  await retire(page, "Third board");
});

test("attainment sorted, with what is left; a click narrows the map", async ({ page }) => {
  await emptyPage(page, "Fourth board");
  await add(page, "shares");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Ticket revenue" });
  await drawer.getByLabel("Show as").selectOption({ label: "attainment of the basis" });
  await add(page, "a map");
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Ticket revenue" });
  await done(page);
  const shares = page.getByRole("region", { name: "Shares", exact: true });
  await expect(shares.getByRole("listitem")).toHaveText([/102\.2%.*above Budget/, /101\.6%/, /96\.8%.*left to Budget/]);
  const map = page.getByRole("region", { name: "Map", exact: true });
  await expect(map.getByRole("listitem").first()).toContainText("Netherlands");
  await expect(map.locator("circle")).toHaveCount(9);
  const before = await map.getByRole("listitem").first().textContent();
  await shares.getByRole("button", { name: /Northreach/ }).click();
  await expect(map.getByText(/for Northreach/)).toBeVisible();
  await expect(map.getByRole("listitem").first()).not.toHaveText(before!);
  await expectAccessible(page);
  await retire(page, "Fourth board");
});

test("a heat grid and a scatter are read, walked, narrowed by and traced", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/costs-and-fuel");
  const heat = page.getByRole("region", { name: "Heat grid" });
  await heat.getByRole("button", { name: /^Shaded by/ }).click();
  await page.getByRole("menuitemradio", { name: "shaded by judgement" }).click();
  await expect(page).toHaveURL(/vessel-months\.shade=judgement/);
  // What comes to lie under the pointer would be looked at.
  await page.mouse.move(0, 0);
  await heat.getByRole("img").focus();
  await page.keyboard.press("Home");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowRight");
  await expect(heat.locator("[aria-live]")).toContainText("Whimbrel, May: ");
  await page.keyboard.press("Shift+Enter");
  const origin = page.getByRole("complementary", { name: "Where this figure comes from" });
  await expect(origin).toContainText("Whimbrel");
  await origin.press("Escape");
  await page.goto("/packs/monthly-review/operations");
  const scatter = page.getByRole("region", { name: "Scatter" });
  await expect(scatter.getByText(/line: R² 0\.\d\d, n 9/)).toBeVisible();
  await scatter.getByRole("img").focus();
  await page.keyboard.press("Home");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: "narrowed to" })).toBeVisible();
  await page.keyboard.press("Escape");
});

test("profit over months as a line, by country on a map, by service and area beside each other, under choosers of year and month", async ({
  page,
}) => {
  await emptyPage(page, "Fifth board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "a chart over time");
  await drawer.getByLabel("Default KPI").selectOption({ label: "Ticket revenue" });
  await drawer.getByLabel("Drawn as").selectOption({ label: "lines" });
  await add(page, "a map");
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Ticket revenue" });
  await add(page, "a breakdown");
  await drawer.getByLabel("Break down by").selectOption({ label: "Service line" });
  await drawer.getByLabel("Split bars by").selectOption({ label: "Sea area" });
  for (const part of ["the as-of month", "the span"]) {
    await add(page, "a chooser");
    await drawer.getByLabel("Chooses").selectOption({ label: part });
    if (part === "the as-of month") await offer(drawer, "March FY26");
  }
  await done(page);
  const chart = page.getByRole("region", { name: "Over time", exact: true });
  await expect(chart.getByRole("button", { name: "Lines", exact: true })).toHaveAttribute("aria-pressed", "true");
  const bars = page.getByRole("region", { name: "Breakdown", exact: true });
  for (const area of ["Skerry Sound", "Lantern Bay", "Northreach"])
    await expect(bars.getByText(area, { exact: true }).first()).toBeVisible();
  await page.getByRole("button", { name: /^As of: / }).click();
  await page.getByRole("menuitemradio", { name: /^March FY26/ }).click();
  await expect(chart.getByText(/April–March FY26/)).toBeVisible();
  await expect(bars.getByText(/April–March FY26/)).toBeVisible();
  await expect(page.getByRole("region", { name: "Map", exact: true }).getByText(/April–March FY26/)).toBeVisible();
  await page.getByRole("group", { name: "Span" }).getByRole("button", { name: "month", exact: true }).click();
  await expect(bars.getByText(/, March FY26,/)).toBeVisible();
  await expectAccessible(page);
  await retire(page, "Fifth board");
});

test("the average of a chosen year as a line over columns side by side, the year changed by a chooser", async ({
  page,
}) => {
  await emptyPage(page, "Sixth board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "a chart over time");
  await drawer.getByLabel("Default KPI").selectOption({ label: "Fuel" });
  await drawer.getByRole("button", { name: "Crew", exact: true }).click();
  await drawer.getByLabel("Drawn as").selectOption({ label: "columns" });
  await drawer.getByLabel("Over which months").selectOption({ label: "of a year that is chosen" });
  await drawer.getByLabel(/^Default fiscal year/).fill("2025");
  await drawer.getByRole("button", { name: "Add this statistic" }).click();
  await add(page, "a chooser");
  await drawer.getByLabel("Chooses").selectOption({ label: "the year of reference lines" });
  await offer(drawer, "FY26");
  await done(page);
  const chart = page.getByRole("region", { name: "Over time", exact: true });
  await expect(chart.locator("svg text", { hasText: /^Average, April–March FY25: [\d,]+$/ })).toBeVisible();
  for (const name of ["Fuel", "Crew"])
    await expect(chart.getByRole("listitem").filter({ hasText: name })).toBeVisible();
  await page.getByRole("group", { name: "Year" }).getByRole("button", { name: "FY26" }).click();
  await expect(chart.locator("svg text", { hasText: /^Average, April–March FY26: [\d,]+$/ })).toBeVisible();
  await chart.getByRole("img").focus();
  await page.keyboard.press("Home");
  await expect(chart.locator("[aria-live]")).toContainText(/^April FY27: Fuel .*, Crew /);
  await expectAccessible(page);
  await retire(page, "Sixth board");
});

test("a member's colour is chosen once for a page; axes, legend and decimals are one's own", async ({ page }) => {
  await emptyPage(page, "Coloured board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "shares");
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Revenue" });
  await drawer.getByRole("button", { name: "Close" }).click();
  await add(page, "a chart over time");
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Revenue" });
  await drawer.getByLabel(/^Split/).selectOption({ label: "Sea area, opening into route" });
  await drawer.getByLabel(/^Value axis title/).fill("Tickets and all else");
  await drawer.getByLabel("Decimals").selectOption("2");
  await drawer.getByRole("button", { name: "Close" }).click();
  const shares = page.getByRole("region", { name: "Shares", exact: true });
  const chart = page.getByRole("region", { name: "Over time", exact: true });
  // Neither panel is chosen by it: nothing moves under the pointer between its press and its release.
  await page.keyboard.press("Escape");
  await shares.getByRole("button", { name: "Colour of Lantern Bay" }).click();
  await page.getByRole("button", { name: "violet" }).click();
  await expect(page.getByText("Saved")).toBeVisible();
  await done(page);
  await page.reload();
  const violet = 'rect[fill="var(--dye-7)"], path[fill="var(--dye-7)"]';
  await expect(shares.locator(violet).first()).toBeVisible();
  await expect(chart.locator(violet).first()).toBeVisible();
  await expect(chart.getByText("Tickets and all else")).toBeVisible();
  await chart.getByRole("button", { name: "Table of numbers" }).click();
  await expect(chart.getByRole("cell", { name: /^\d[\d,]*\.\d\d$/ }).first()).toBeVisible();
  await expect(shares.getByRole("button", { name: /^Colour of/ })).toHaveCount(0);
  await retire(page, "Coloured board");
});
