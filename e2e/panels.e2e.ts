import { expect, test } from "@playwright/test";
import { expectAccessible } from "./accessibility.ts";
import { signInAs } from "./sign-in.ts";

test("tiles are ordered, switched to another layer, gathered, opened downwards, traced, taken off and put back", async ({
  page,
}) => {
  await signInAs(page, "Maren Holt");
  await page.goto("/packs/monthly-review/routes");
  const tiles = page.getByRole("region", { name: "Tiles" });
  const names = tiles.getByRole("heading", { level: 3 });
  await expect(names).toHaveCount(9);
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Revenue by route:");
  const worst = await names.first().innerText();
  await expectAccessible(page);

  await page.getByRole("button", { name: "Order: worst against the basis first" }).click();
  await page.getByRole("menuitemradio", { name: "best against the basis first" }).click();
  await expect(names.last()).toHaveText(worst);
  await page.getByRole("button", { name: /^How many/ }).click();
  await page.getByRole("menuitemradio", { name: "the first 3" }).click();
  await expect(names).toHaveText([/./, /./, /./, "The other 6"]);
  await tiles.getByRole("button", { name: "Fuel", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Fuel by route:");
  // What was chosen stands in the address, so that a link shows the same.
  await page.reload();
  await expect(names.last()).toHaveText("The other 6");
  await expect(tiles.getByRole("button", { name: "Fuel", exact: true })).toHaveAttribute("aria-pressed", "true");

  const first = await names.first().innerText();
  await tiles.getByRole("button", { name: new RegExp(`^${first}, .*Where does it come from`) }).click();
  const origin = page.getByRole("complementary", { name: "Where this figure comes from" });
  await expect(origin).toContainText(`for ${first}`);
  await expect(origin.getByRole("region", { name: "Source lines" })).toContainText(first);
  await origin.press("Escape");

  await page.goto("/packs/monthly-review/routes");
  await tiles.getByRole("button", { name: "Arrange" }).click();
  const drawer = page.getByRole("complementary", { name: "Arrange tiles" });
  await drawer.getByLabel("Repeated by").selectOption({ label: "Sea area, opening into route" });
  await expect(names).toHaveCount(3);
  await expectAccessible(page);
  await tiles.getByRole("button", { name: "Lantern Bay", exact: true }).click();
  await expect(tiles.getByText("by route in Lantern Bay")).toBeVisible();
  await tiles.getByRole("button", { name: "back up" }).click();
  await expect(names).toHaveCount(3);
  await drawer.getByRole("button", { name: "Undo" }).click();
  await expect(names).toHaveCount(9);

  await drawer.getByRole("button", { name: "Take it off this page" }).click();
  await expect(tiles).toHaveCount(0);
  await page.getByRole("button", { name: "Undo the last change" }).click();
  await expect(names).toHaveCount(9);
});

test("a page is one question, asked when its address is opened and again for each frame", async ({ page }) => {
  await signInAs(page, "Maren Holt");
  const asked: string[] = [];
  page.on("request", (request) => {
    const { pathname } = new URL(request.url());
    if (/^\/api\/.*(frame|answers|panels)/.test(pathname)) asked.push(pathname.split("/").at(-1)!);
  });
  await page.goto("/packs/monthly-review/cover");
  await expect(page.getByRole("heading", { level: 2, name: /^Revenue for/ })).toBeVisible();
  expect(asked).toEqual(["frame", "answers"]);
  const sent = await page.evaluate(() =>
    (performance.getEntriesByType("resource") as PerformanceResourceTiming[])
      .filter(({ name }) => name.endsWith(".js"))
      .reduce((sum, { encodedBodySize }) => sum + encodedBodySize, 0),
  );
  // What a first view costs on a slow line, compressed.
  expect(sent).toBeGreaterThan(0);
  expect(sent).toBeLessThan(300_000);
  await page.getByRole("button", { name: /^Span/ }).click();
  await page.getByRole("menuitemradio", { name: /full year/ }).click();
  await expect(page.getByRole("heading", { level: 2, name: /^Revenue for the full year/ })).toBeVisible();
  expect(asked.slice(2).sort()).toEqual(["answers", "frame"]);
});

test("tiles beside a scorecard begin with its KPIs", async ({ page }) => {
  await signInAs(page, "Maren Holt");
  await page.goto("/packs/monthly-review/revenue");
  await page.getByRole("button", { name: "Add tiles" }).click();
  const tiles = page.getByRole("region", { name: "Tiles" });
  const drawer = page.getByRole("complementary", { name: "Arrange tiles" });
  await expect(tiles.getByRole("heading", { level: 3 })).toHaveCount(6);
  await drawer.getByRole("button", { name: "Full-year outlook" }).click();
  await expect(tiles.getByRole("row", { name: /^Outlook, FY27/ })).toHaveCount(6);
  await drawer.getByRole("button", { name: "Take it off this page" }).click();
  await expect(tiles).toHaveCount(0);
});

test("a page is filled anew: a scorecard of ten KPIs and nothing else is fit to be read", async ({ page }) => {
  await signInAs(page, "Maren Holt");
  await page.goto("/packs/monthly-review/at-a-glance");
  const remove = page.getByRole("button", { name: "Take it off this page" });
  await page.getByRole("region", { name: "Tiles" }).getByRole("button", { name: "Arrange" }).click();
  await remove.click();
  await expect(page.getByText("This page is empty")).toBeVisible();
  await page.getByRole("button", { name: "Add a scorecard" }).click();
  const scorecard = page.getByRole("region", { name: "Scorecard" });
  await expect(scorecard.locator("tr[data-kpi]")).toHaveCount(10);
  for (const head of ["Actual", "Budget", "Status"])
    await expect(scorecard.getByRole("columnheader", { name: head })).toBeVisible();
  // Beside the drawer there is no room for all columns: those that gave way are named.
  await expect(scorecard.getByText(/Left out for want of width: Trend line/)).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Revenue is");
  await page.getByRole("button", { name: "Add a chart over time" }).click();
  await expect(page.getByRole("region", { name: "Over time" }).getByRole("img")).toBeVisible();
  await remove.click();
  await scorecard.getByRole("button", { name: "Arrange" }).click();
  await remove.click();
  await page.getByRole("button", { name: "Add tiles" }).click();
  await expect(page.getByRole("region", { name: "Tiles" }).getByRole("heading", { level: 3 })).toHaveCount(10);
});

test("a chart is given a title, reference lines and fewer series, and all of it is taken back", async ({ page }) => {
  await signInAs(page, "Maren Holt");
  await page.goto("/packs/monthly-review/cover");
  const chart = page.getByRole("region", { name: "Over time" });
  const drawer = page.getByRole("complementary", { name: "Arrange the chart" });
  await chart.getByRole("button", { name: "Arrange" }).click();
  await drawer.getByRole("button", { name: "Add this statistic" }).click();
  await expect(chart.getByText("Average, April–March FY26: 12,665")).toBeVisible();
  await drawer.getByLabel("Constant, its name").fill("Break-even");
  await drawer.getByLabel("Value, unscaled").fill("9,000,000");
  await drawer.getByRole("button", { name: "Add", exact: true }).click();
  await expect(chart.getByText("Break-even: 9,000")).toBeVisible();
  await expect(drawer.getByLabel("Constant, its name")).toHaveValue("");
  await drawer.getByLabel("Prior year").uncheck();
  await expect(chart.getByRole("list").getByText("Prior year")).toHaveCount(0);
  await drawer.getByLabel("Title", { exact: true }).fill("Revenue holds up");
  await drawer.getByLabel("Title", { exact: true }).press("Tab");
  const titled = page.getByRole("region", { name: "Revenue holds up" });
  await expect(titled.getByRole("heading", { level: 2 })).toHaveText("Revenue holds up");
  await expectAccessible(page);
  for (let i = 0; i < 4; i += 1) await drawer.getByRole("button", { name: "Undo" }).click();
  await expect(chart.getByRole("heading", { level: 2 })).toContainText("Revenue for the year to date is");
  await expect(chart.getByText("Break-even")).toHaveCount(0);
  await expect(chart.getByRole("list").getByText("Prior year")).toBeVisible();
});

test("two people arrange one scorecard: the second sees both versions and decides; the page's history takes back either", async ({
  page,
  browser,
}) => {
  await signInAs(page, "Maren Holt");
  const second = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signInAs(second, "Maren Holt");
  const title = (p: typeof page) =>
    p.getByRole("complementary", { name: "Arrange the scorecard" }).getByLabel("Title", { exact: true });
  for (const p of [page, second]) {
    await p.goto("/packs/monthly-review/operations");
    await p.getByRole("region", { name: "Scorecard" }).getByRole("button", { name: "Arrange" }).click();
    await title(p).waitFor();
  }
  await title(page).fill("The first one's");
  await title(page).press("Tab");
  await expect(page.getByRole("region", { name: "The first one's" })).toBeVisible();
  await title(second).fill("The second one's");
  await title(second).press("Tab");
  const conflict = second.getByRole("alert").filter({ hasText: "while you arranged it" });
  await expect(conflict).toContainText("The first one's");
  await expect(conflict).toContainText("The second one's");
  await expect(second.getByText("Your last change is not saved.")).toBeVisible();
  await expectAccessible(second);
  await conflict.getByRole("button", { name: "Apply my version on top" }).click();
  await expect(second.getByRole("region", { name: "The second one's" })).toBeVisible();
  const history = second.getByRole("region", { name: "History of the page" });
  await expect(history.getByRole("listitem").first()).toContainText("Arranged “The second one's”");
  const takeBack = (said: string) =>
    history
      .getByRole("listitem")
      .filter({ hasText: new RegExp(`^Arranged “${said}”`) })
      .getByRole("button")
      .click();
  await takeBack("The second one's");
  await expect(second.getByRole("region", { name: "The first one's" })).toBeVisible();
  await takeBack("The first one's");
  await expect(second.getByRole("region", { name: "Scorecard", exact: true })).toBeVisible();
  await second.context().close();
});
