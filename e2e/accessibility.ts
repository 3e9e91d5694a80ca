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

/** What was checked in this run, by what it is made of. */
const checked = new Set<string>();

/** What is on screen is made of: its kinds of elements with their roles and states, whatever they say. */
function madeOf(page: Page): Promise<string> {
  return page.evaluate(() => {
    const kindOf = (element: Element) =>
      [
        element.tagName,
        ...["role", "aria-roledescription", "aria-expanded", "type"].map((name) => element.getAttribute(name)),
      ].join(" ");
    const kinds = new Set([...document.querySelectorAll("body *")].map(kindOf));
    const { className, dataset } = document.documentElement;
    const look = [matchMedia("(prefers-color-scheme: dark)").matches, innerWidth, className, JSON.stringify(dataset)];
    return [...look, ...[...kinds].sort()].join("\n");
  });
}

/**
 * Checks what is on screen by axe's WCAG 2.2 AA rules and best practices; every violation fails. What is made of the same
 * elements as something that was checked in this run is not checked again.
 */
export async function expectAccessible(page: Page): Promise<void> {
  await settled(page);
  const made = await madeOf(page);
  if (checked.has(made)) return;
  checked.add(made);
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
