import { expectAccessible } from "./accessibility.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

test("from sign-in to a page whose every figure follows the frame, down to the source lines", async ({ page }) => {
  const failures: string[] = [];
  page.on("pageerror", (error) => failures.push(error.message));
  await page.goto("/");
  await expect(page.getByRole("heading", { name: /every figure straight/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: /Maren Holt/ }).click();

  await test.step("home says what is open and what is off plan, and leads there", async () => {
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("November FY27 is open");
    await expect(page.getByRole("region", { name: "Missing for November FY27" })).toContainText(
      "Daily operationsto day 17 of 30",
    );
    const worst = page.getByRole("region", { name: "Off plan" }).getByRole("listitem").first();
    await expect(worst).toContainText(/Fuel €\s1,082k \(8\.5%\) above Budget/);
    await expectAccessible(page);
    await worst.getByRole("link", { name: "Cover" }).click();
  });

  const scorecard = page.getByRole("region", { name: "Scorecard" });
  const row = (kpi: string) =>
    scorecard.getByRole("row").filter({ has: page.getByRole("button", { name: kpi, exact: false }).first() });
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(
    /Revenue is €\s1,594k \(1\.4%\) above Budget, favourable, but fuel is €\s1,082k/,
  );
  await expect(row("Actual").nth(0)).toBeVisible();
  await expect(page.getByRole("heading", { level: 2, name: /Revenue for the year to date/ })).toBeVisible();
  await expectAccessible(page);

  await test.step("the frame sentence, word by word", async () => {
    await page.getByRole("button", { name: "Span: year to date" }).click();
    await page.getByRole("menuitemradio", { name: /^month October/ }).click();
    await expect(page).toHaveURL(/span=month/);
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(/maintenance is €\s374k \(46\.6%\) above Budget/);
    await page.getByRole("button", { name: "Basis: Budget" }).click();
    await page.getByRole("menuitemradio", { name: /Prior year/ }).click();
    await expect(scorecard.getByRole("columnheader", { name: "Prior year" })).toBeVisible();
    await page.getByRole("button", { name: /As-of period/ }).click();
    await page.getByRole("menuitemradio", { name: "September FY27" }).click();
    await expect(page.getByText("Month, September FY27, for all routes, against Prior year")).toBeVisible();
    await page.getByRole("button", { name: /^Scope/ }).click();
    await page.getByRole("checkbox", { name: "Northreach" }).check();
    await page.keyboard.press("Escape");
    await expect(page.getByText("Month, September FY27, for Northreach, against Prior year")).toBeVisible();
    await page.getByRole("button", { name: /^Unit/ }).click();
    await page.getByRole("menuitemradio", { name: "€ million" }).click();
    await expect(page).toHaveURL(/unit=million/);
    await expect(scorecard.getByText("€ m").first()).toBeVisible();
  });

  await test.step("another row, and the chart follows", async () => {
    await scorecard.getByRole("button", { name: "On-time rate %" }).click();
    await expect(
      page.getByRole("heading", {
        level: 2,
        name: /On-time rate in September FY27 is .* below Prior year, unfavourable/,
      }),
    ).toBeVisible();
    await page.getByRole("img", { name: /by month/ }).focus();
    await page.keyboard.press("ArrowRight");
    await expect(page.locator("[aria-live=polite]")).toContainText("October FY27");
    await page.keyboard.press("t");
    await expect(page.getByRole("region", { name: "Table of numbers" }).getByRole("row")).toHaveCount(13);
  });

  await test.step("where a figure comes from", async () => {
    await scorecard.getByRole("button", { name: /^Fuel, Actual/ }).click();
    const drawer = page.getByRole("complementary", { name: "Where this figure comes from" });
    await expect(drawer.getByText("fuel_cost")).toBeVisible();
    await expect(drawer.getByText("1 of 1 month: September FY27")).toBeVisible();
    await expect(drawer.getByText("ledger-2026-09.csv").first()).toBeVisible();
    await expect(drawer.getByText(/they add up to € /)).toBeVisible();
    await expectAccessible(page);
  });

  await test.step("the address reopens the same view", async () => {
    const message = await page.getByRole("heading", { level: 1 }).textContent();
    const again = await page.context().newPage();
    await again.goto(page.url());
    await expect(again.getByRole("heading", { level: 1 })).toHaveText(message!);
    await expect(again.getByRole("complementary", { name: "Where this figure comes from" })).toBeVisible();
    await expect(again.getByRole("button", { name: "Unit: € million" })).toBeVisible();
    await again.close();
    await page.keyboard.press("Escape");
    await expect(page.getByRole("complementary")).toHaveCount(0);
  });
  expect(failures).toEqual([]);
});

test("the whole page can be worked by keyboard", async ({ page }) => {
  await signInAs(page, "Clara Oduya");
  const scorecard = page.getByRole("region", { name: "Scorecard" });
  await scorecard.getByRole("button", { name: "Revenue € k", exact: true }).focus();
  await page.keyboard.press("ArrowDown");
  await expect(page).toHaveURL(/kpi=operating_result/);
  await expect(page.getByRole("heading", { level: 2, name: /^Operating result/ })).toBeVisible();
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary", { name: "Where this figure comes from" })).toBeFocused();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox").fill("freight price");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 2, name: /^Freight price/ })).toBeVisible();
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox").fill("costs and");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/costs-and-fuel/);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keyboard" })).toBeVisible();
  await expectAccessible(page);
});

test("an area manager sees only their sea area", async ({ page }) => {
  await signInAs(page, "Tomas Reyl");
  await expect(page.getByText("All figures: Skerry Sound only")).toBeVisible();
  await expect(page.getByText(/Year to date, April–October FY27, for Skerry Sound, against Budget/)).toBeVisible();
  await page.getByRole("link", { name: "Northreach" }).click();
  await expect(page.getByText("no access").first()).toBeVisible();
  await page.getByRole("button", { name: /^Scope/ }).click();
  await expect(page.getByRole("checkbox", { name: "Northreach" })).toHaveCount(0);
});

test("dark theme is kept, and as accessible", async ({ page }) => {
  await signInAs(page, "Maren Holt");
  await page.getByRole("button", { name: "Dark theme" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await page.goto("/packs/monthly-review/operations");
  await page.getByRole("heading", { level: 2 }).first().waitFor();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await expectAccessible(page);
  await page.goto("/loads");
  await expect(page.getByText(/rows in force, from/)).toBeVisible();
  await expectAccessible(page);
});
