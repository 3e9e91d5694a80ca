import { expectAccessible } from "./accessibility.ts";
import { add, done, emptyPage, retire } from "./board.ts";
import { expect, test } from "./test.ts";

/** What a page is made for, from nothing: each test starts a pack of its own and ends with what a reader does with it. */

test("a scorecard: KPIs in a group, trend and outlook beside the variance, a row opened by area and route", async ({
  page,
}) => {
  await emptyPage(page, "Scorecard board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "a scorecard");
  const columns = drawer.getByRole("region", { name: "Columns" });
  await columns.getByRole("button", { name: "Full-year outlook", exact: true }).click();
  await done(page);
  const scorecard = page.getByRole("region", { name: "Scorecard", exact: true });
  for (const head of ["Actual", "Budget", "Δ", "Δ%", "Outlook", "Trend"])
    await expect(scorecard.getByRole("columnheader", { name: head, exact: true })).toBeVisible();
  await scorecard.getByRole("button", { name: "Open Revenue by route" }).click();
  await scorecard.getByRole("button", { name: "Open Northreach" }).click();
  await expect(scorecard.getByRole("rowheader", { name: /Vardel–Isenholm/ })).toBeVisible();
  const revenue = scorecard.locator("tr[data-kpi=total_revenue]");
  const toDate = await revenue.innerText();
  await page.getByRole("button", { name: /^Span: / }).click();
  await page
    .getByRole("menuitemradio", { name: /^month/ })
    .first()
    .click();
  await expect(revenue).not.toHaveText(toDate);
  await expectAccessible(page);
  await retire(page, "Scorecard board");
});

test("tiles: one for each route, the worst first, with the month and the prior year small, traced to the lines of a file", async ({
  page,
}) => {
  await emptyPage(page, "Tiles board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "tiles");
  await drawer.getByLabel("Repeated by").selectOption({ label: "Route" });
  await drawer.getByLabel("Second KPI").selectOption({ label: "Fuel" });
  await done(page);
  const tiles = page.getByRole("region", { name: "Tiles", exact: true });
  const names = tiles.getByRole("heading", { level: 3 });
  await expect(names).toHaveCount(9);
  await expect(tiles.getByText("Fuel").first()).toBeVisible();
  await tiles.getByRole("button", { name: /^Order: / }).click();
  await page.getByRole("menuitemradio", { name: "worst against the basis first" }).click();
  await expect(page).toHaveURL(/order=/);
  await expect(page.getByRole("heading", { level: 1 })).toContainText(
    /^Revenue by route: .* below Budget, unfavourable/,
  );
  const first = await names.first().innerText();
  await tiles
    .getByRole("button", { name: new RegExp(`^${first}, .*Where does it come from`) })
    .first()
    .click();
  const origin = page.getByRole("complementary", { name: "Where this figure comes from" });
  await expect(origin.getByRole("region", { name: "Source lines" }).getByRole("row").nth(1)).toContainText(first);
  await origin.press("Escape");
  await expectAccessible(page);
  await retire(page, "Tiles board");
});

test("over time: actual, budget and forecast with the variance below, a moving average and a straight line; the kind changed in the meeting", async ({
  page,
}) => {
  await emptyPage(page, "Time board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "a chart over time");
  await drawer.getByLabel("Default KPI").selectOption({ label: "Revenue" });
  await drawer.getByLabel("Moving average").selectOption({ label: "over the last 3" });
  await drawer.getByLabel("Trend line through the actual").check();
  await done(page);
  const chart = page.getByRole("region", { name: "Over time", exact: true });
  for (const name of [/^Actual$/, /^Budget$/, /^Forecast 6\+6$/, /^Prior year$/])
    await expect(chart.getByRole("listitem").filter({ hasText: name })).toBeVisible();
  await expect(chart.getByText(/a month, R² 0\.\d+/)).toBeVisible();
  await chart.getByRole("img").focus();
  await page.keyboard.press("End");
  await expect(chart.locator("[aria-live]")).toContainText(/^March FY27: Forecast 6\+6 /);
  await chart.getByRole("button", { name: "Lines", exact: true }).click();
  await expect(chart.getByRole("button", { name: "Lines", exact: true })).toHaveAttribute("aria-pressed", "true");
  await chart.getByRole("button", { name: "Bars", exact: true }).click();
  await expect(chart.locator("svg text", { hasText: /^March FY27$/ })).toBeVisible();
  await expect(chart.locator("svg text", { hasText: "closed to here" })).toBeVisible();
  await page.getByRole("button", { name: /^Basis: / }).click();
  await page.getByRole("menuitemradio", { name: "Prior year" }).click();
  await expect(chart.getByText(/against Prior year/)).toBeVisible();
  await expectAccessible(page);
  await retire(page, "Time board");
});

test("by member: the first three and the others, beside what they are compared with; a click narrows every other panel", async ({
  page,
}) => {
  await emptyPage(page, "Member board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "a breakdown");
  await drawer.getByLabel("Break down by").selectOption({ label: "Route" });
  await drawer.getByLabel("Split bars by").selectOption({ label: "scenario" });
  await add(page, "tiles");
  await done(page);
  const bars = page.getByRole("region", { name: "Breakdown", exact: true });
  await bars.getByRole("button", { name: /^How many/ }).click();
  await page.getByRole("menuitemradio", { name: "the first 3" }).click();
  await expect(bars.locator("svg text", { hasText: /^The other 6/ })).toBeVisible();
  const tiles = page.getByRole("region", { name: "Tiles", exact: true });
  const whole = await tiles.innerText();
  // A mouse that lies still points at nothing, whatever is redrawn under it.
  await bars.getByRole("img").hover();
  await bars.getByRole("img").focus();
  await page.keyboard.press("Home");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: "narrowed to" })).toBeVisible();
  await expect(tiles).not.toHaveText(whole);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: "narrowed to" })).toHaveCount(0);
  await expectAccessible(page);
  await retire(page, "Member board");
});

test("the expected range, day by day, with what lies outside as events that a person explains", async ({ page }) => {
  await emptyPage(page, "Range board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "an expected range");
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "On-time rate" });
  await drawer.getByRole("combobox", { name: /^By/ }).selectOption({ label: "day" });
  await done(page);
  const range = page.getByRole("region", { name: "Expected range", exact: true });
  await expect(range.getByRole("list", { name: "Events" }).getByRole("listitem").first()).toBeVisible();
  await range.getByRole("button", { name: "Explain this event" }).last().click();
  await page.getByLabel("The reason").fill("A strike in port");
  await page.getByRole("button", { name: "Confirm" }).click();
  await expect(range).toContainText("Confirmed: “A strike in port”, Maren Holt");
  await range.getByRole("button", { name: "Take back" }).click();
  await expect(range).not.toContainText("A strike in port");
  await expectAccessible(page);
  await retire(page, "Range board");
});

test("looking ahead: a forecast with its interval and notes, the year's end by every source with the gap, kept as a version", async ({
  page,
}) => {
  await emptyPage(page, "Outlook board");
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await add(page, "a chart over time");
  await drawer.getByLabel("Default KPI").selectOption({ label: "Fuel" });
  await drawer.getByLabel("Forecast open periods").check();
  await drawer.getByLabel("How far").selectOption({ label: "6 months" });
  await add(page, "outlook");
  await drawer.getByLabel(/^(Default )?KPI(?! on)/).selectOption({ label: "Fuel" });
  await done(page);
  const chart = page.getByRole("region", { name: "Over time", exact: true });
  const bar = chart.getByRole("region", { name: "Looking ahead" });
  await expect(bar).toContainText("6 months ahead");
  await bar.getByRole("button", { name: "Model notes" }).click();
  const notes = page.getByRole("complementary", { name: "Model notes" });
  await expect(notes.getByRole("row", { name: /^Seasonal naive/ })).toBeVisible();
  await notes.getByRole("button", { name: "Close" }).click();
  const outlook = page.getByRole("region", { name: "Outlook", exact: true });
  await expect(outlook.getByRole("row", { name: /^Run rate with its season/ })).toBeVisible();
  await expect(outlook).toContainText(/months left/);
  await expectAccessible(page);
  await bar.getByRole("button", { name: "Post as forecast" }).click();
  await page.getByLabel("Its name").fill("Fuel by model");
  await page.getByRole("button", { name: "Post forecast" }).click();
  await page.getByRole("link", { name: "See all versions" }).click();
  const version = page.getByRole("region", { name: "Fuel by model" });
  await expect(version).toContainText("open: not used in outlooks yet");
  // Other tests find the versions as they were.
  await version.getByRole("button", { name: "Retire" }).click();
  await expect(version).toHaveCount(0);
  await retire(page, "Outlook board");
});
