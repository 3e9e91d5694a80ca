import { expectAccessible } from "./accessibility.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

test("a chart looks ahead: followed while it is dragged, judged, told to a colleague, and kept as a version", async ({
  page,
}) => {
  await signInAs(page, "Maren Holt", "/workbench?kpi=total_revenue&kind=time-chart");
  const chart = page.getByRole("region", { name: "Over time", exact: true });
  await chart.getByRole("button", { name: "Look ahead" }).click();
  const bar = chart.getByRole("region", { name: "Looking ahead" });
  await expect(bar).toContainText("12 months ahead");
  await expect(bar).toContainText("more accurate than repeating the season before");
  await expect(chart.getByText("holds 80% and 95% of what comes")).toBeVisible();
  // The chart follows while a slider is moved, before anything is asked of the server.
  await bar.getByRole("button", { name: "Adjust" }).click();
  const svg = chart.getByRole("img", { name: /^Revenue/ });
  const labels = svg.locator("text", { hasText: /^FY28$/ });
  await expect(labels).toHaveCount(1);
  const thumb = bar.getByRole("slider", { name: "Ahead" });
  await thumb.focus();
  for (let i = 0; i < 10; i += 1) await page.keyboard.press("ArrowRight");
  await expect(bar).toContainText("22 months ahead");
  await expect(svg.locator("text", { hasText: /^FY29$/ })).toHaveCount(1);
  await expect(bar).toContainText("backtests");
  await expect(page).toHaveURL(/horizon=22/);
  // The reading card has the bounds.
  await svg.focus();
  await page.keyboard.press("End");
  await expect(chart.getByText("95% between", { exact: true })).toBeVisible();
  await page.keyboard.press("Escape");
  await bar.getByRole("button", { name: "Model notes" }).click();
  const notes = page.getByRole("complementary", { name: "Model notes" });
  // Drawn as well as told: residuals, their correlations, components, and what earlier origins would have said.
  for (const drawn of [
    /^Residuals over time/,
    /^Autocorrelation/,
    /^The level/,
    /^The season/,
    /from earlier origins$/,
  ])
    await expect(notes.getByRole("img", { name: drawn })).toBeVisible();
  await expect(notes.getByRole("table").filter({ hasText: "Interval" }).getByRole("row")).toHaveCount(3);
  for (const question of [
    "Which model, and why?",
    "How does it compare with naive methods?",
    "Are the residuals white noise?",
    "Do the intervals hold?",
    "What was excluded or adjusted for?",
  ])
    await expect(notes.getByText(question, { exact: true })).toBeVisible();
  await expect(notes.getByRole("row", { name: /^Seasonal naive/ })).toBeVisible();
  await expectAccessible(page);
  await notes.getByRole("button", { name: "Close" }).click();
  await bar.getByRole("button", { name: "Post as forecast" }).click();
  await page.getByLabel("Its name").fill("Forecast of spring");
  await page.getByRole("button", { name: "Post forecast" }).click();
  await page.getByRole("link", { name: "See all versions" }).click();
  const version = page.getByRole("region", { name: "Forecast of spring" });
  await expect(version).toContainText("open: not used in outlooks yet");
  await expect(version).toContainText("by Maren Holt");
  await version.getByRole("button", { name: "Freeze" }).click();
  await expect(version).toContainText("latest forecast: used in outlooks");
  await expectAccessible(page);
  // Other tests find the latest forecast as it was.
  await version.getByRole("button", { name: "Retire" }).click();
  await expect(version).toHaveCount(0);
});

test("the outlook by every source, one of them taken for the page", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/outlook");
  const sources = page.getByRole("region", { name: "Outlook", exact: true });
  await expect(sources.getByRole("row", { name: /^Run rate with its season/ })).toBeVisible();
  await expect(sources).toContainText(/Each of the 5 months left needs/);
  const bridge = page.getByRole("region", { name: "Bridge", exact: true });
  await expect(bridge).toContainText("then Forecast 6+6");
  await sources.getByRole("button", { name: /^Use Prior year grown/ }).click();
  await expect(bridge).toContainText("then the prior year grown");
  await expect(page.getByRole("group", { name: "Frame" })).toContainText("outlook by Prior year grown");
  await page.getByRole("button", { name: "Outlook: Prior year grown" }).click();
  await page.getByRole("menuitemradio", { name: /^Forecast 6\+6/ }).click();
  await expect(bridge).toContainText("then Forecast 6+6");
});

test("the storm is named as one event on two routes", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/operations?asOf=2026-09");
  const range = page.getByRole("region", { name: "Expected range", exact: true });
  await expect(range.getByRole("heading", { level: 2 })).toContainText(
    "9 to 20 September FY27 below the range, lowest beyond −10 σ, on Vardel–Isenholm and Vardel–Grey Ness",
  );
  const events = range.getByRole("list", { name: "Events" });
  await expect(events.getByRole("listitem").filter({ hasText: "September" })).toHaveCount(1);
  // Its month is marked where it stands in a row of figures, too.
  await expect(page.getByRole("button", { name: /^Unusual: September FY27 is/ }).first()).toBeVisible();
  await events.getByRole("button", { name: "Explain this event" }).last().click();
  await page.getByLabel("The reason").fill("A storm kept two routes in port");
  await page.getByRole("button", { name: "Confirm" }).click();
  await expect(events).toContainText("Confirmed: “A storm kept two routes in port”, Maren Holt");
  await expectAccessible(page);
  await events.getByRole("button", { name: "Take back" }).click();
  await expect(events).not.toContainText("Confirmed");
  await events.getByRole("button", { name: "Vardel–Grey Ness" }).first().click();
  await expect(page).toHaveURL(/narrow=route(%3A|:)vardel-grey-ness/);
});

test("the range that was expected stands behind a chart over time", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/revenue?asOf=2026-10");
  const chart = page.getByRole("region", { name: "Over time", exact: true });
  await chart.getByRole("button", { name: "Expected range" }).click();
  await expect(chart).toContainText("expected, 95%");
  await chart.getByRole("img").focus();
  await page.keyboard.press("ArrowLeft");
  await expect(chart).toContainText(/September FY27.*Off by−\d\.\d σ, outside/);
  await chart.getByRole("button", { name: "Expected range" }).click();
  await expect(chart).not.toContainText("expected, 95%");
});

test("a version is copied, adjusted with a reason, and compared with what it was before", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/versions");
  await page.getByRole("region", { name: "Forecast 6+6" }).getByRole("button", { name: "Copy" }).click();
  await page.getByLabel("Its name").fill("Forecast by hand");
  await page.getByRole("button", { name: "Copy version" }).click();
  const version = page.getByRole("region", { name: "Forecast by hand" });
  await version.getByRole("button", { name: "Adjust" }).click();
  await page.getByRole("combobox", { name: /^Of/ }).selectOption("tickets");
  await page.getByRole("combobox", { name: /^For/ }).selectOption("route:northreach");
  await page.getByLabel("To", { exact: true }).fill("2027-02");
  await page.getByLabel("Percent, such as −5").fill("-4");
  await page.getByLabel("The reason").fill("Two berths are closed until February");
  await expectAccessible(page);
  await page.getByRole("button", { name: "Adjust version" }).click();
  await expect(version).toContainText(
    "Ticket revenue for Northreach, October–February FY27: −4.0%. “Two berths are closed until February”, Maren Holt",
  );
  await version.getByRole("link", { name: "Compare with what it was before" }).click();
  await expect(page.getByRole("group", { name: "Frame" })).toContainText(
    "Forecast by hand in place of the actual, as of October FY27, full year, against Forecast by hand, before adjustments",
  );
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/Revenue is €\s\d+k \(0\.\d%\) below/);
  await page.getByRole("button", { name: "Looked at: Forecast by hand" }).click();
  await page.getByRole("menuitemradio", { name: /^Actual/ }).click();
  await expect(page.getByRole("group", { name: "Frame" })).not.toContainText("in place of the actual");
  await page.goto("/versions");
  await version.getByRole("button", { name: "Take back" }).click();
  await expect(version).not.toContainText("Adjusted by hand");
  // Other tests find the versions as they were.
  await version.getByRole("button", { name: "Retire" }).click();
  await expect(version).toHaveCount(0);
});
