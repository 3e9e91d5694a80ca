import { expect, test as base } from "@playwright/test";

export { expect };

/** A test whose page is closed only when what was arranged on it is stored: the next test opens the pack as this one left it. */
export const test = base.extend({
  page: async ({ page }, use) => {
    await use(page);
    if (page.isClosed() || !page.url().startsWith("http")) return;
    await page.waitForFunction(() => Object.keys(localStorage).every((key) => !key.startsWith("hackle-unsent")));
  },
});
