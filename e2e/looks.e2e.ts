import { expect, test } from "@playwright/test";
import { expectAccessible } from "./accessibility.ts";

/** Every main view, by its address and what says that it is there. */
const VIEWS: readonly (readonly [string, string])[] = [
  ["/home", "November FY27 is open"],
  ["/packs/monthly-review/cover", "Revenue is"],
  ["/packs/monthly-review/at-a-glance", ""],
  ["/packs/monthly-review/routes", ""],
  ["/packs/monthly-review/operations?asOf=2026-11", ""],
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
      await page.request.post("/api/session/sample", { data: { email: "maren.holt@quillhaven.example" } });
      const themes = i % 2 === 0 ? (["light", "dark"] as const) : (["dark", "light"] as const);
      for (const [size, theme] of [
        [WIDE, themes[0]],
        [NARROW, themes[1]],
      ] as const) {
        await page.setViewportSize(size);
        await page.emulateMedia({ colorScheme: theme, reducedMotion: "reduce" });
        await page.goto(address);
        await expect(page.getByRole("heading", { level: 1 })).toContainText(heading);
        await page.waitForLoadState("networkidle");
        await expectAccessible(page);
        // Nothing is wider than the screen: what must be scrolls in a box of its own.
        const beyond = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
        expect(beyond, `${address} at ${size.width} px is wider than the screen`).toBeLessThanOrEqual(0);
      }
    });
  }
});
