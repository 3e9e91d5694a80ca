import { expect, test as base, type Page } from "@playwright/test";

export { expect };

/**
 * One tab for all tests of a run, emptied between them: a new one would start a renderer of its own and compile the product
 * anew, which takes three times as long as what a test opens. How a first visit begins has tests with contexts of their own.
 */
export const test = base.extend<object, { tab: Page }>({
  tab: [
    async ({ browser }, use, { project }) => {
      const { baseURL, viewport, contextOptions, actionTimeout } = project.use;
      const context = await browser.newContext({ ...contextOptions, baseURL: baseURL!, viewport: viewport! });
      context.setDefaultTimeout(actionTimeout!);
      await use(await context.newPage());
      await context.close();
    },
    { scope: "worker" },
  ],
  context: ({ tab }, use) => use(tab.context()),
  page: async ({ tab }, use, { project }) => {
    await tab.setViewportSize(project.use.viewport!);
    await use(tab);
    // The next test opens the pack as this one left it: what was arranged is stored first.
    if (tab.url().startsWith("http")) {
      await tab.waitForFunction(() => Object.keys(localStorage).every((key) => !key.startsWith("hackle-unsent")));
      await tab.evaluate(() => {
        localStorage.clear();
        sessionStorage.clear();
      });
    }
    await tab.goto("about:blank");
    await tab.unrouteAll();
    tab.removeAllListeners();
    await tab.emulateMedia({ media: null, colorScheme: null });
    await tab.context().clearCookies();
    await tab.context().clearPermissions();
    await tab.context().setOffline(false);
  },
});
