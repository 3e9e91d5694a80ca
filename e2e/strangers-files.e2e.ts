import { delimited } from "#testing/shape-files.ts";
import { SHAPES } from "#testing/shapes.ts";
import { bringFile, removeOwn, startOwn, type Pace } from "./stranger.ts";
import { expect, test } from "./test.ts";

/** Somebody who reads what there is before going on, and types as people do. */
const HUMAN: Pace = { pauseMs: 1500, keyMs: 50 };
const MOST_SECONDS = 120;

/** From an empty company to a right scorecard, with files that were never seen before, in less than two minutes each. */
for (const [shape, shown] of [
  ["1:", "Department spending"],
  ["2:", "Netto"],
  ["6:", "Revenue per visit"],
  ["8:", "Sales"],
] as const) {
  const { name, fileName, rows, isComma } = SHAPES.find((own) => own.name.startsWith(shape))!;
  test(`a stranger's file reaches its scorecard in two minutes: ${name}`, async ({ page }) => {
    const company = `Tilewright ${Date.now() % 100_000}`;
    const from = Date.now();
    await startOwn(page, { name: company, currency: "USD" }, HUMAN);
    await bringFile(page, { name: fileName, text: delimited(rows, isComma ? ";" : ",") }, HUMAN);
    await expect(page.getByText(shown, { exact: true }).first()).toBeVisible();
    await expect(page.getByRole("region", { name: "Scorecard" }).first()).toBeVisible();
    expect((Date.now() - from) / 1000).toBeLessThan(MOST_SECONDS);
    await removeOwn(page, company);
  });
}
