import { expectAccessible } from "./accessibility.ts";
import { barButton, openSettings } from "./arrange.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

test("a review is composed: pack, pattern, panels from the rack, moved, sized, aligned, copied, undone; pages ordered and removed", async ({
  page,
}) => {
  await signInAs(page, "Maren Holt", "/packs");
  await expect(page.getByRole("heading", { level: 1, name: "Packs and pages" })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel(/^Name of a new pack/).fill("{month} board");
  await page.getByRole("button", { name: "Create pack" }).click();
  const pack = page.getByRole("region", { name: "Pages of October board" });
  await pack.getByRole("button", { name: "Add a page" }).click();
  await pack.getByLabel("Page", { exact: true }).fill("Front");
  await pack.getByLabel("Page", { exact: true }).press("Tab");
  await expect(pack.getByText("Saved")).toBeVisible();
  await pack.getByRole("link", { name: "Arrange" }).click();
  await expect(page.getByText("This page is empty")).toBeVisible();

  await page.getByRole("button", { name: "Pattern" }).click();
  await page.getByRole("button", { name: /^Month at hand/ }).click();
  await expect(page.getByText("Empty place: drop a panel here, or add")).toHaveCount(4);
  await expectAccessible(page);
  await page.locator(".react-grid-item").getByRole("button", { name: "a chart over time" }).click();
  await expect(page.getByRole("region", { name: "Over time" }).getByRole("img")).toBeVisible();
  await expect(page.getByText("Empty place: drop a panel here, or add")).toHaveCount(3);
  await page.getByRole("button", { name: /^Add a breakdown/ }).click();
  await expect(page.getByRole("region", { name: "Breakdown" }).getByRole("img")).toBeVisible();

  const [front] = page.url().split("?") as [string];
  const chart = page.getByRole("group", { name: /^Panel chart over time/ });
  const bars = page.getByRole("group", { name: /^Panel breakdown/ });
  const width = async (panel: typeof chart) => Math.round((await panel.boundingBox())!.width);
  const before = await width(chart);
  await test.step("sized and moved by keyboard, several brought into line", async () => {
    await chart.focus();
    await page.keyboard.press("Shift+ArrowLeft");
    await page.keyboard.press("Shift+ArrowLeft");
    await expect.poll(() => width(chart)).toBeLessThan(before);
    // The one that was added last is chosen already.
    await page.keyboard.press("Space");
    await expect(page.getByText("2 panels chosen")).toBeVisible();
    await barButton(page, "Equally wide").click();
    await expect.poll(async () => Math.abs((await width(chart)) - (await width(bars)))).toBeLessThan(3);
    await barButton(page, /^Undo/).click();
  });
  await test.step("dragged by the mouse", async () => {
    await bars.hover();
    // Waits until it stands still, and is not under the bar at the top.
    await bars.locator(".panel-grip").hover();
    const start = (await bars.boundingBox())!;
    const grip = (await bars.locator(".panel-grip").boundingBox())!;
    await page.mouse.move(grip.x + 8, grip.y + 8);
    await page.mouse.down();
    await page.mouse.move(grip.x - 200, grip.y - 100, { steps: 5 });
    await page.mouse.move(grip.x - 500, grip.y - 900, { steps: 10 });
    await page.mouse.up();
    await expect
      .poll(async () => {
        const { x, y } = (await bars.boundingBox())!;
        return Math.abs(x - start.x) + Math.abs(y - start.y);
      })
      .toBeGreaterThan(20);
  });
  await test.step("copied to another page, and a title written where it stands", async () => {
    await bars.focus();
    await page.keyboard.press("Control+c");
    await page.getByRole("button", { name: "Done" }).click();
    await page.goto("/packs/monthly-review/outlook?arrange=yes");
    await page.getByRole("region", { name: "Scorecard" }).waitFor();
    await page.keyboard.press("Control+v");
    await expect(page.getByRole("region", { name: "Breakdown" }).getByRole("img")).toBeVisible();
    await barButton(page, /^Undo/).click();
    await expect(page.getByRole("region", { name: "Breakdown" })).toHaveCount(0);
    await page.goto(`${front}?arrange=yes`);
  });
  await test.step("duplicated, its kind changed without losing what fits", async () => {
    const one = page.getByRole("group", { name: /^Panel breakdown/ });
    await one.focus();
    await page.keyboard.press("Control+d");
    await expect(page.getByRole("group", { name: /^Panel breakdown/ })).toHaveCount(2);
    await openSettings(page, "chart over time");
    const drawer = page.getByRole("complementary", { name: /^Arrange / });
    await drawer.getByRole("combobox", { name: /^Span/ }).selectOption({ label: "year so far" });
    await expect(page.getByText(/Keeps its own: year so far/)).toBeVisible();
    await drawer.getByLabel("Kind").selectOption({ label: "tiles" });
    const tiles = page.getByRole("region", { name: "Tiles" });
    await expect(tiles.getByText(/Keeps its own: year so far/)).toBeVisible();
    await barButton(page, /^Undo/).click();
    await expect(page.getByRole("region", { name: "Over time" })).toBeVisible();
    await page.getByRole("button", { name: "Headline: ", exact: false }).first().click();
    await page.getByLabel("Headline", { exact: true }).fill("The month holds");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("The month holds");
  });
  await test.step("read as it was arranged; the page held, let go, removed and brought back", async () => {
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    await page.getByRole("button", { name: "Done" }).click();
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("The month holds");
    await page.getByRole("button", { name: "Follow the page" }).click();
    await expect(page.getByText("Follows the page for now")).toBeVisible();
    await expectAccessible(page);
    await page.goto("/packs");
    await pack.getByRole("button", { name: "Duplicate Front" }).click();
    await expect(pack.getByLabel("Page", { exact: true })).toHaveCount(2);
    await pack.getByRole("button", { name: "Move Front, copy up" }).click();
    await expect(pack.getByLabel("Page", { exact: true }).first()).toHaveValue("Front, copy");
    await pack.getByRole("button", { name: "Remove Front, copy" }).click();
    await expect(pack.getByLabel("Page", { exact: true })).toHaveCount(1);
    await pack.getByRole("button", { name: "Restore" }).click();
    await expect(pack.getByLabel("Page", { exact: true })).toHaveCount(2);
    await pack.getByRole("button", { name: "Retire" }).click();
    await expect(page.getByRole("region", { name: "Retired packs" }).getByText("October board")).toBeVisible();
  });
});

test("a page answers: choosers, a click that narrows, another that adds, weighing, drilling, a link and the way back, down to the lines", async ({
  page,
}) => {
  await signInAs(page, "Maren Holt", "/packs/monthly-review/revenue");
  const chart = page.getByRole("region", { name: "Over time" });
  const areas = page.getByRole("region", { name: "Breakdown", exact: true });
  await test.step("choosers change several panels together", async () => {
    await page.getByRole("group", { name: "KPI" }).getByRole("button", { name: "Freight revenue" }).click();
    await expect(page.getByRole("heading", { level: 1 })).toContainText("Freight revenue for the year to date");
    // What the page says above, the chart does not say again.
    await expect(chart.getByText("Freight revenue for the year to date")).toHaveCount(0);
    await expect(chart.getByText(/^Freight revenue in € thousand, by month/)).toBeVisible();
    await expect(areas.getByRole("heading", { level: 2 })).toContainText("Freight revenue by sea area");
    await page.getByRole("group", { name: "By" }).getByRole("button", { name: "quarter" }).click();
    await expect(chart.getByText(/by quarter, April FY25–March FY27/)).toBeVisible();
    await expect(page).toHaveURL(/grain\.chosen=quarter/);
    await chart.getByRole("button", { name: "Lines", exact: true }).click();
    await expectAccessible(page);
  });
  const bar = (name: string) => areas.locator("svg text", { hasText: name }).first();
  const click = async (name: string, modifiers: ("Control" | "Alt")[] = []) => {
    const box = (await bar(name).boundingBox())!;
    for (const key of modifiers) await page.keyboard.down(key);
    await page.mouse.click(box.x + 5, box.y + box.height / 2);
    for (const key of modifiers) await page.keyboard.up(key);
  };
  await test.step("narrowing, by a link too, and Escape", async () => {
    await click("Northreach");
    await expect(chart.getByText(/for Northreach, against Budget/)).toBeVisible();
    await expect(areas.getByText(/for all routes/)).toBeVisible();
    await click("Lantern Bay", ["Control"]);
    await expect(chart.getByText(/for Lantern Bay and Northreach, against Budget/)).toBeVisible();
    await expect(page).toHaveURL(/narrow=route%3Alantern-bay%2Cnorthreach/);
    await page.reload();
    await expect(chart.getByText(/for Lantern Bay and Northreach, against Budget/)).toBeVisible();
    await page.getByRole("button", { name: "Take Lantern Bay out" }).click();
    await expect(chart.getByText(/for Northreach, against Budget/)).toBeVisible();
    await page.keyboard.press("Escape");
    await expect(chart.getByText(/for all routes, against Budget/)).toBeVisible();
    await page.goBack();
    await expect(chart.getByText(/for Northreach, against Budget/)).toBeVisible();
    await page.keyboard.press("Escape");
  });
  await test.step("weighing keeps the whole, and shows the part", async () => {
    await click("Northreach", ["Alt"]);
    await expect(page.getByRole("group", { name: "with the part of" })).toBeVisible();
    await expect(chart.getByText(/for all routes, against Budget/)).toBeVisible();
    await expect(
      page
        .getByRole("region", { name: "Scorecard" })
        .getByTitle(/^Selected part/)
        .first(),
    ).toBeVisible();
    await expectAccessible(page);
    await page.keyboard.press("Escape");
  });
  await test.step("a double click drills; the path leads back", async () => {
    const box = (await bar("Northreach").boundingBox())!;
    await page.mouse.dblclick(box.x + 5, box.y + box.height / 2);
    await expect(areas.getByRole("heading", { level: 2 })).toContainText("by route");
    await expect(page).not.toHaveURL(/narrow=/);
    await areas.getByRole("button", { name: "all", exact: true }).click();
    await expect(areas.getByRole("heading", { level: 2 })).toContainText("by sea area");
  });
  await test.step("by keyboard: walk, narrow, open, trace", async () => {
    await areas.getByRole("img").focus();
    await page.keyboard.press("Enter");
    await expect(page.getByRole("group", { name: "narrowed to" })).toBeVisible();
    await page.keyboard.press("Enter");
    await expect(page.getByRole("group", { name: "narrowed to" })).toHaveCount(0);
    await page.keyboard.press("ArrowDown");
    await expect(areas.getByRole("heading", { level: 2 })).toContainText("by route");
  });
  await test.step("a row leads to the page with the detail, and Back returns", async () => {
    await page.goto("/packs/monthly-review/cover?span=month&narrow=route:northreach");
    const scorecard = page.getByRole("region", { name: "Scorecard" });
    await scorecard.getByRole("button", { name: "Open Costs and fuel" }).first().click();
    await expect(page).toHaveURL(/costs-and-fuel\?.*span=month/);
    await expect(page.getByRole("button", { name: "Take Northreach out" })).toBeVisible();
    await page.goBack();
    await expect(page).toHaveURL(/cover\?span=month/);
    await scorecard.getByRole("button", { name: /^Fuel, Actual, month.*Where does it come from/ }).click();
    const origin = page.getByRole("complementary", { name: "Where this figure comes from" });
    await expect(origin).toContainText("for Northreach");
    await expect(origin.getByRole("region", { name: "Source lines" }).getByRole("row").nth(1)).toBeVisible();
    await origin.press("Escape");
  });
});

test("nothing is decided yet: the workbench, back and forward, kept as a panel; the palette understands a line", async ({
  page,
}) => {
  await signInAs(page, "Maren Holt");
  await page.getByRole("link", { name: "Workbench" }).click();
  // It begins with what the closed month is off plan by, one click each.
  const starts = page.getByRole("region", { name: "Largest variances" });
  await expect(starts).toContainText("October FY27, year to date, against Budget");
  await starts
    .getByRole("listitem")
    .filter({ hasText: "Fuel" })
    .first()
    .getByRole("button", { name: "By route" })
    .click();
  await expect(page).toHaveURL(/kpi=fuel&split=route/);
  await expect(page.getByRole("group", { name: "Kind" }).getByRole("button", { name: "breakdown" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await page.goto("/workbench");
  await expectAccessible(page);
  await page.getByRole("button", { name: "Choose a KPI" }).click();
  await page.getByRole("option", { name: "Fuel", exact: true }).click();
  await expect(page.getByRole("region", { name: "Over time" }).getByRole("img")).toBeVisible();
  await page.getByLabel("Split by").selectOption({ label: "Vessel" });
  const breakdown = page.getByRole("region", { name: "Breakdown" });
  await expect(breakdown.getByRole("img")).toBeVisible();
  await page.getByRole("group", { name: "Kind" }).getByRole("button", { name: "tiles" }).click();
  await expect(page.getByRole("region", { name: "Tiles" })).toBeVisible();
  await expect(page.getByText("4 of 4 tried").or(page.getByText("3 of 3 tried"))).toBeVisible();
  await page.getByRole("button", { name: "Back to the previous view" }).click();
  await expect(breakdown.getByRole("img")).toBeVisible();
  await page.getByRole("button", { name: "Forward" }).click();
  await expect(page.getByRole("region", { name: "Tiles" })).toBeVisible();
  await expectAccessible(page);

  await page.keyboard.press("Control+k");
  await page.keyboard.type("fuel by vessel as breakdown against prior year");
  await expect(page.getByRole("option", { name: "Show it in the workbench" })).toHaveAttribute("data-selected", "true");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/kpi=fuel&split=vessel%2F&kind=breakdown&basis=prior-year/);
  await expect(breakdown.getByText(/against Prior year/)).toBeVisible();
  await page.getByLabel("Add it as a panel to").selectOption({ label: "Costs and fuel" });
  await page.getByRole("button", { name: "Add panel" }).click();
  await page.getByRole("status").getByRole("link", { name: "Costs and fuel" }).click();
  await expect(
    page
      .getByRole("region", { name: /^Breakdown/ })
      .last()
      .getByText(/Keeps its own: against Prior year/),
  ).toBeVisible();
});
