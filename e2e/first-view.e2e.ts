import { type Page } from "@playwright/test";
import { openInRounds } from "./first-view.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

const isReadable = async (page: Page) =>
  (await page.locator("main h1").count()) > 0 &&
  (await page.locator("main [aria-busy=true], main .waiting").count()) === 0;

for (const address of [
  "/packs/monthly-review/cover",
  "/packs/monthly-review/operations?asOf=2026-09&span=month",
  "/kpis",
])
  test(`${address} comes in two rounds, the document and all that it needs, nothing of it twice`, async ({
    browser,
    page,
    baseURL,
  }) => {
    await signInAs(page, "Maren Holt", "/api/health");
    const fresh = await browser.newContext({ baseURL: baseURL!, storageState: await page.context().storageState() });
    try {
      const first = await fresh.newPage();
      const { requests, rounds } = await openInRounds(first, address, () => isReadable(first));
      const isFont = (path: string) => path.endsWith(".woff2");
      expect(new Set(requests).size, requests.join("\n")).toBe(requests.length);
      expect(rounds, requests.join("\n")).toBe(2);
      expect(requests.filter((path) => !isFont(path)).length, requests.join("\n")).toBeLessThanOrEqual(12);
      expect(requests.filter(isFont).length, requests.join("\n")).toBeLessThanOrEqual(4);
    } finally {
      await fresh.close();
    }
  });

test("what other views need is fetched once nobody waits for anything", async ({ browser, baseURL }) => {
  const fresh = await browser.newContext({ baseURL: baseURL! });
  const page = await fresh.newPage();
  const fetched = page.waitForResponse((response) => /\/assets\/workbench-page-.*\.js$/.test(response.url()));
  await signInAs(page, "Maren Holt");
  expect((await fetched).status()).toBe(200);
  await fresh.close();
});
