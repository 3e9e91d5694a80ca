import type { Page } from "@playwright/test";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

const PAGES = [
  "cover",
  "at-a-glance",
  "routes",
  "revenue",
  "costs-and-fuel",
  "operations",
  "outlook",
  "areas",
  "northreach",
  "appendix",
];
const SIZES = [
  { width: 1280, height: 800 },
  { width: 1680, height: 1000 },
];
/** A panel has at most this part of its height without anything; a line or two of words have room around them. */
const MOST_EMPTY = 0.2;
const WORDS = 120;

test("panels fill their place on every page, on a small and on a large screen", async ({ page }) => {
  for (const name of PAGES) {
    await page.setViewportSize(SIZES[0]!);
    await signInAs(page, "Maren Holt", `/packs/monthly-review/${name}`);
    for (const size of SIZES) {
      await page.setViewportSize(size);
      // What is farther down is drawn when it is scrolled to.
      for (const panel of await page.locator("[data-panel]").all()) await panel.scrollIntoViewIfNeeded();
      await expect(page.locator(".waiting")).toHaveCount(0);
      await expect
        .poll(() => emptyPanels(page), { message: `${name} at ${size.width} px`, timeout: 10_000 })
        .toEqual([]);
    }
  }
});

/** Panels of which a stretch from side to side has nothing in it, with how much of their height it is. */
async function emptyPanels(page: Page): Promise<string[]> {
  return page.evaluate(
    ({ most, words }) =>
      [...document.querySelectorAll("[data-panel]")].flatMap((place) => {
        const { top, height } = place.getBoundingClientRect();
        if (height < words) return [];
        const texts = document.createTreeWalker(place, NodeFilter.SHOW_TEXT);
        const range = document.createRange();
        const drawn: DOMRect[] = [];
        while (texts.nextNode()) {
          range.selectNodeContents(texts.currentNode);
          drawn.push(...range.getClientRects());
        }
        for (const mark of place.querySelectorAll("rect, path, line, circle, span[style]"))
          if (mark.getAttribute("fill") !== "transparent") drawn.push(mark.getBoundingClientRect());
        let at = top;
        let gap = 0;
        for (const box of drawn.filter((own) => own.height > 0 || own.width > 0).sort((a, b) => a.top - b.top)) {
          gap = Math.max(gap, box.top - at);
          at = Math.max(at, box.bottom);
        }
        gap = Math.max(gap, top + height - at);
        const part = gap / height;
        return part > most ? [`${place.getAttribute("data-panel")}: ${Math.round(part * 100)}%`] : [];
      }),
    { most: MOST_EMPTY, words: WORDS },
  );
}
