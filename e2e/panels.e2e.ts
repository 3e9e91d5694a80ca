import { expectAccessible } from "./accessibility.ts";
import { arrangePage, barButton, openSettings } from "./arrange.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

test("tiles are ordered, switched to another layer, gathered, opened downwards, traced, taken off and put back", async ({
  page,
}) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/routes");
  const tiles = page.getByRole("region", { name: "Tiles" });
  const names = tiles.getByRole("heading", { level: 3 });
  await expect(names).toHaveCount(9);
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Revenue by route:");
  const worst = await names.first().innerText();
  await expectAccessible(page);

  await tiles.getByRole("button", { name: "Order: worst against the basis first" }).click();
  await page.getByRole("menuitemradio", { name: "best against the basis first" }).click();
  await expect(names.last()).toHaveText(worst);
  await tiles.getByRole("button", { name: /^How many/ }).click();
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
  await arrangePage(page);
  const drawer = await openSettings(page, "tiles");
  await drawer.getByLabel("Repeated by").selectOption({ label: "Sea area, opening into route" });
  await expect(names).toHaveCount(3);
  await expectAccessible(page);
  await tiles.getByRole("button", { name: "Open Lantern Bay", exact: true }).click();
  await expect(names).toHaveCount(3);
  await expect(tiles.getByText("Lantern Bay", { exact: true })).toBeVisible();
  await tiles.getByRole("button", { name: "all", exact: true }).click();
  await expect(names).toHaveCount(3);
  await barButton(page, /^Undo/).click();
  await expect(names).toHaveCount(9);

  await drawer.getByRole("button", { name: "Remove from this page" }).click();
  await expect(tiles).toHaveCount(0);
  await barButton(page, /^Undo/).click();
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
  expect(sent).toBeLessThan(290_000);
  await page.getByRole("button", { name: /^Span/ }).click();
  await page.getByRole("menuitemradio", { name: /^year so far/ }).click();
  await expect(page.getByRole("heading", { level: 2, name: /^Revenue for the year so far/ })).toBeVisible();
  expect(asked.slice(2).sort()).toEqual(["answers", "frame"]);
});

test("tiles beside a scorecard begin with its KPIs", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/revenue");
  await arrangePage(page);
  await page.getByRole("button", { name: /^Add tiles/ }).click();
  const tiles = page.getByRole("region", { name: "Tiles" });
  const drawer = page.getByRole("complementary", { name: "Arrange tiles" });
  await expect(tiles.getByRole("heading", { level: 3 })).toHaveCount(7);
  await drawer.getByRole("button", { name: "Full-year outlook" }).click();
  await expect(tiles.getByRole("row", { name: /^Outlook, FY27/ })).toHaveCount(7);
  await drawer.getByRole("button", { name: "Remove from this page" }).click();
  await expect(tiles).toHaveCount(0);
});

test("a page is emptied and filled anew from the rack", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/at-a-glance?arrange=yes");
  await page.getByRole("region", { name: "Tiles" }).waitFor();
  await page.keyboard.press("Control+a");
  await barButton(page, /^Remove \(Delete\)/).click();
  await expect(page.getByText("This page is empty")).toBeVisible();
  await page.getByRole("button", { name: /^Add a scorecard/ }).click();
  const scorecard = page.getByRole("region", { name: "Scorecard" });
  await expect(scorecard.locator("tr[data-kpi]")).toHaveCount(10);
  for (const head of ["Actual", "Budget", "Status"])
    await expect(scorecard.getByRole("columnheader", { name: head })).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Revenue is");
  await page.getByRole("button", { name: /^Add a chart over time/ }).click();
  await expect(page.getByRole("region", { name: "Over time" }).getByRole("img")).toBeVisible();
  // Other tests read the page as it was.
  for (let i = 0; i < 3; i += 1) await barButton(page, /^Undo/).click();
  await expect(page.getByRole("region", { name: "Tiles" })).toBeVisible();
});

test("a chart is given a title, reference lines and fewer series, and all of it is taken back", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/cover");
  const chart = page.getByRole("region", { name: "Over time" });
  await arrangePage(page);
  const drawer = await openSettings(page, "chart over time");
  await drawer.getByRole("button", { name: "Add this statistic" }).click();
  await expect(chart.getByText("Average, April–March FY26: 12,665")).toBeVisible();
  await drawer.getByLabel("Name of the constant").fill("Break-even");
  await drawer.getByLabel("Value, unscaled").fill("9,000,000");
  await drawer.getByRole("button", { name: "Add", exact: true }).click();
  await expect(chart.getByText("Break-even: 9,000")).toBeVisible();
  await expect(drawer.getByLabel("Name of the constant")).toHaveValue("");
  await drawer.getByRole("checkbox", { name: "Prior year" }).uncheck();
  await expect(chart.getByRole("list").getByText("Prior year")).toHaveCount(0);
  await drawer.getByLabel("Title", { exact: true }).fill("Revenue holds up");
  await drawer.getByLabel("Title", { exact: true }).press("Tab");
  const titled = page.getByRole("region", { name: "Revenue holds up" });
  await expect(titled.getByRole("heading", { level: 2 })).toHaveText("Revenue holds up");
  await expectAccessible(page);
  for (let i = 0; i < 4; i += 1) await barButton(page, /^Undo/).click();
  await expect(chart.getByRole("heading", { level: 2 })).toContainText("Revenue for the year to date is");
  await expect(chart.getByText("Break-even")).toHaveCount(0);
  await expect(chart.getByRole("list").getByText("Prior year")).toBeVisible();
});

test("two people arrange one panel: what each does is seen by the other; one setting shows both versions; the page goes back", async ({
  page,
  browser,
}) => {
  await signInAs(page, "Maren Holt");
  const second = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signInAs(second, "Maren Holt");
  for (const p of [page, second]) {
    await p.goto("/packs/monthly-review/operations?arrange=yes");
    await p.getByRole("region", { name: "Scorecard" }).waitFor();
    await openSettings(p, "scorecard");
  }
  const field = (p: typeof page, name: string) =>
    p.getByRole("complementary", { name: "Arrange the scorecard" }).getByLabel(name, { exact: true });
  // The second one is cut off: what they do is kept, and said to be.
  await second.context().setOffline(true);
  await field(second, "Title").fill("The second one's");
  await field(second, "Title").press("Tab");
  await expect(second.getByText(/^Not sent/)).toBeVisible();
  await field(page, "Title").fill("The first one's");
  await field(page, "Title").press("Tab");
  await expect(page.getByRole("region", { name: "The first one's" })).toBeVisible();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await second.context().setOffline(false);
  const conflict = second.getByRole("alert").filter({ hasText: "while you did" });
  await expect(conflict).toContainText("The first one's");
  await expect(conflict).toContainText("The second one's");
  await expectAccessible(second);
  await conflict.getByRole("button", { name: "Apply my version on top" }).click();
  await expect(second.getByRole("region", { name: "The second one's" })).toBeVisible();
  // The other one sees it without doing anything, and adds a setting of their own.
  await expect(page.getByRole("region", { name: "The second one's" })).toBeVisible();
  await field(page, "Subtitle").fill("As of the close");
  await field(page, "Subtitle").press("Tab");
  await expect(second.getByText("As of the close", { exact: true }).first()).toBeVisible();
  await barButton(second, /^Page$/).click();
  const history = second.getByRole("region", { name: "History of the page" });
  await expect(history.getByRole("listitem").nth(1)).toContainText("Arranged “The second one's”");
  await history.getByRole("listitem").nth(1).getByRole("button", { name: "Take back" }).click();
  await expect(second.getByRole("region", { name: "The first one's" })).toBeVisible();
  await expect(second.getByText("As of the close", { exact: true }).first()).toBeVisible();
  await second.context().close();
});
