import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { expect, type Page } from "@playwright/test";

const axe = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

interface Violation {
  readonly id: string;
  readonly impact: string;
  readonly nodes: readonly { readonly html: string }[];
}

/** Waits until what is shown is what will stay: nothing busy, nothing fading in. */
async function settled(page: Page): Promise<void> {
  // Also where a dialog lies over the page and hides it from assistive software.
  await page.locator("h1").first().waitFor({ state: "attached" });
  await expect(page.locator("[aria-busy=true], .waiting")).toHaveCount(0);
  await page.waitForFunction(() => document.getAnimations().every((a) => a.playState !== "running"));
}

/** Checks what is on screen by axe's WCAG 2.2 AA rules and best practices; every violation fails. */
export async function expectAccessible(page: Page): Promise<void> {
  await settled(page);
  // Where a page happens to be scrolled to, a link may lie half under the bar that stands at its top.
  await page.evaluate(() => window.scrollTo(0, 0));
  await page.evaluate(axe);
  const violations = await page.evaluate(async () => {
    const { axe: engine } = window as unknown as {
      axe: { run(context: Document, options: object): Promise<{ violations: Violation[] }> };
    };
    const { violations: found } = await engine.run(document, {
      runOnly: ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa", "best-practice"],
    });
    return found.map(({ id, impact, nodes }) => ({
      id,
      impact,
      nodes: nodes.slice(0, 3).map((n) => n.html.slice(0, 200)),
    }));
  });
  expect(violations).toEqual([]);
}
