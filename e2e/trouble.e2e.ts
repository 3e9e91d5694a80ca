import { startCluster } from "../launch/postgres/cluster.ts";
import { openHome } from "../launch/home.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

const COVER = "/packs/monthly-review/cover";

test.describe("bad addresses leave a page to work with", () => {
  for (const [what, address, sentence] of [
    ["as-of", `${COVER}?asOf=2026-13`, '"2026-13" is not a month.'],
    ["basis", `${COVER}?basis=bugdet`, 'Is "budget" meant?'],
    ["member", `${COVER}?scope=route:skery-sound`, 'There is no route "skery-sound".'],
  ] as const) {
    test(`unknown ${what}`, async ({ page }) => {
      await signInAs(page, "Maren Holt", address);
      // A panel may be refused a moment before the page is: the page's own sentence is the one that stays.
      await expect(page.getByRole("alert").filter({ hasText: "The page cannot be shown like this" })).toContainText(
        sentence,
      );
      await page.getByRole("button", { name: "Show October FY27, year to date" }).click();
      await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Revenue is/);
    });
  }

  test("a word of the sentence is a way out too", async ({ page }) => {
    await signInAs(page, "Maren Holt", `${COVER}?basis=bugdet`);
    await page.getByRole("button", { name: /^Span/ }).click();
    await page.getByRole("menuitemradio", { name: /^month October/ }).click();
    await expect(page.getByText(/^Month, October FY27/)).toBeVisible();
  });

  test("a member that is gone, and a choice that there is not", async ({ page }) => {
    await signInAs(page, "Maren Holt");
    const revenue = "/packs/monthly-review/revenue";
    await page.goto(`${revenue}?narrow=route:northreach,sunk&weigh=fleet:gone`);
    await expect(page.getByText("There is no “sunk” any more: the page is shown without it.")).toBeVisible();
    await expect(page.getByText("There is no “gone” any more")).toBeVisible();
    await expect(page.getByRole("region", { name: "Over time" }).getByText(/for Northreach, against/)).toBeVisible();
    await page.getByRole("button", { name: "Take sunk out" }).click();
    await expect(page.getByText("There is no “sunk” any more")).toHaveCount(0);
    await page.goto(`${revenue}?over-time.grain=hour`);
    await expect(page.getByText('"grain" is "hour"; it can be day, week, month, quarter or year.')).toBeVisible();
    await page.getByRole("button", { name: "Show it as it is arranged" }).click();
    await expect(page.getByRole("region", { name: "Over time" }).getByRole("img")).toBeVisible();
  });

  test("unknown KPI, page and pack", async ({ page }) => {
    await signInAs(page, "Maren Holt", `${COVER}?over-time.kpi=feul`);
    await expect(page.getByRole("alert")).toContainText('Is "fuel" meant?');
    await page.getByRole("button", { name: "Show it as it is arranged" }).click();
    await expect(page.getByRole("heading", { level: 2, name: /^Revenue for/ })).toBeVisible();
    await page.goto("/packs/monthly-review/nowhere");
    await expect(page.getByText('October review has no page "nowhere".')).toBeVisible();
    await page.goto("/packs/nothing");
    await expect(page.getByText('There is no pack "nothing"')).toBeVisible();
  });
});

test("a page that another removes while it is read says so, and is there again once it is brought back", async ({
  page,
  browser,
}) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/outlook");
  await page.getByRole("region", { name: "Scorecard" }).getByRole("table").waitFor();
  const other = await (await browser.newContext()).newPage();
  await signInAs(other, "Maren Holt", "/packs");
  const pages = other.getByRole("region", { name: "Pages of October review" });
  await pages.getByRole("button", { name: "Remove Outlook" }).click();
  await expect(pages.getByText("Saved")).toBeVisible();
  await page.getByRole("button", { name: /^Span/ }).click();
  await page.getByRole("menuitemradio", { name: /^month October/ }).click();
  await expect(page.getByText('October review has no page "outlook". It may have been removed')).toBeVisible();
  await pages.getByRole("button", { name: "Restore" }).click();
  await expect(pages.getByText("Saved")).toBeVisible();
  await page.reload();
  await expect(page.getByRole("region", { name: "Scorecard" }).getByRole("table")).toBeVisible();
  await other.context().close();
});

test("a connection that is lost while a page is arranged: what was done is kept, said, and sent later", async ({
  page,
}) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/outlook?arrange=yes");
  const tool = page.getByRole("toolbar", { name: "Arrange the page" });
  await expect(tool.getByText("Saved", { exact: true })).toBeVisible();
  const panel = page.getByRole("group", { name: /^Panel scorecard/ });
  const before = Math.round((await panel.boundingBox())!.width);
  await page.context().setOffline(true);
  await panel.focus();
  await page.keyboard.press("Shift+ArrowLeft");
  await expect(tool.getByText(/Kept here, and sent when it does/)).toBeVisible();
  await page.context().setOffline(false);
  await expect(tool.getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect.poll(async () => Math.round((await panel.boundingBox())?.width ?? before)).toBeLessThan(before);
  await panel.focus();
  await page.keyboard.press("Shift+ArrowRight");
  await expect(tool.getByText("Saved", { exact: true })).toBeVisible();
});

test("a session that ended leads to sign-in and back to the same view", async ({ page }) => {
  await signInAs(page, "Maren Holt", `${COVER}?over-time.kpi=fuel&span=month`);
  await page.getByRole("heading", { level: 2, name: /^Fuel/ }).waitFor();
  await page.request.delete("/api/session");
  await page.getByRole("button", { name: /^Span/ }).click();
  await page.getByRole("menuitemradio", { name: /^year so far/ }).click();
  await expect(page.getByText("Your session has ended.")).toBeVisible();
  await page.getByRole("button", { name: /Maren Holt/ }).click();
  await expect(page).toHaveURL(/over-time.kpi=fuel&span=full-year/);
  await expect(page.getByRole("heading", { level: 2, name: /^Fuel for the year so far/ })).toBeVisible();
});

test("PostgreSQL goes and comes back while the page is open: the page recovers without reload", async ({ page }) => {
  await signInAs(page, "Maren Holt");
  const cluster = await startCluster(openHome(process.env["HACKLE_TEST_HOME"]));
  await page.evaluate(() => {
    (window as unknown as { mark: boolean }).mark = true;
  });
  cluster.stop();
  try {
    await page.getByRole("button", { name: /^Span/ }).click();
    await page.getByRole("menuitemradio", { name: /^month October/ }).click();
    await expect(page.getByText(/The database does not answer at the moment/).first()).toBeVisible({ timeout: 60_000 });
    expect((await page.request.get("/api/health")).status()).toBe(503);
  } finally {
    cluster.restart();
  }
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/maintenance is €\s374k/, { timeout: 60_000 });
  await expect(page.getByText(/does not answer/)).toHaveCount(0, { timeout: 60_000 });
  expect(await page.evaluate(() => (window as unknown as { mark?: boolean }).mark)).toBe(true);
});
