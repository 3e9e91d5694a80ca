import type { Page } from "@playwright/test";
import { expectAccessible } from "./accessibility.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

/** Every main view, by its address and what says that it is there. */
const VIEWS: readonly (readonly [string, string])[] = [
  ["/home", "November FY27 is open"],
  ["/packs/monthly-review/cover", "Revenue is"],
  ["/packs/monthly-review/at-a-glance", ""],
  ["/packs/monthly-review/routes", ""],
  ["/packs/monthly-review/operations?asOf=2026-11", ""],
  ["/packs/monthly-review/revenue?narrow=route:northreach&weigh=service:freight", ""],
  ["/packs/monthly-review/costs-and-fuel", "Operating costs"],
  ["/packs", "Packs and pages"],
  ["/workbench?kpi=fuel&split=vessel/", "Workbench"],
  ["/kpis", "KPIs"],
  ["/kpis/operating_margin", "Operating margin"],
  ["/kpis/language", ""],
  ["/loads", "Loads"],
  ["/feeds", "Feeds"],
  ["/structure/accounts", ""],
  ["/structure/dimensions/route", ""],
  ["/structure/calendar", ""],
  ["/export", "Export"],
];
const WIDE = { width: 1280, height: 800 };
const NARROW = { width: 390, height: 844 };

test.describe("every view, wide and narrow, light and dark", () => {
  for (const [i, [address, heading]] of VIEWS.entries()) {
    test(address, async ({ page }) => {
      const themes = i % 2 === 0 ? (["light", "dark"] as const) : (["dark", "light"] as const);
      await page.setViewportSize(WIDE);
      await page.emulateMedia({ colorScheme: themes[0] });
      await signInAs(page, "Maren Holt", address);
      await expect(page.getByRole("heading", { level: 1 })).toContainText(heading);
      await expectWhole(page, address);
      await page.setViewportSize(NARROW);
      await page.emulateMedia({ colorScheme: themes[1] });
      await page.reload();
      await expect(page.getByRole("heading", { level: 1 })).toContainText(heading);
      await expectWhole(page, address);
    });
  }
});

/** Accessible, and nothing wider than the screen: what must be scrolls in a box of its own. */
async function expectWhole(page: Page, address: string): Promise<void> {
  await expectAccessible(page);
  const { beyond, width } = await page.evaluate(() => ({
    beyond: document.documentElement.scrollWidth - window.innerWidth,
    width: window.innerWidth,
  }));
  expect(beyond, `${address} is wider than its ${width} px`).toBeLessThanOrEqual(0);
}
