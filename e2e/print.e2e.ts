import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

test("a page prints as a page: the whole width, without controls, dark figures on white", async ({ page }) => {
  await page.emulateMedia({ colorScheme: "dark" });
  await signInAs(page, "Maren Holt");
  for (const [name, panel] of [
    ["cover", "Scorecard"],
    ["routes", "Tiles"],
  ] as const) {
    await page.goto(`/packs/monthly-review/${name}`);
    const region = page.getByRole("region", { name: panel });
    await expect(region.getByText("Revenue", { exact: true }).first()).toBeVisible();
    await page.emulateMedia({ media: "print" });
    expect((await region.boundingBox())!.width).toBeGreaterThan(panel === "Tiles" ? 1200 : 700);
    await expect(page.getByRole("navigation").first()).toBeHidden();
    await expect(page.getByRole("button", { name: "Arrange" })).toBeHidden();
    await expect(region).toHaveCSS("background-color", "rgb(255, 255, 255)");
    // Nothing of a wide table is cut off on paper.
    const table = page.getByRole("region", { name: "Scorecard" }).locator("table");
    if (panel === "Scorecard") expect(await table.evaluate((t) => t.closest("div")!.scrollHeight)).toBeLessThan(2000);
    await page.emulateMedia({ media: "screen" });
  }
});
