import type { Page } from "@playwright/test";

/** Signs in with one click, as a reader would. */
export async function signInAs(page: Page, name: string): Promise<void> {
  await page.goto("/");
  await page.getByRole("button", { name: new RegExp(name) }).click();
  await page.getByRole("heading", { level: 1, name: /is open/ }).waitFor();
  await page.goto("/packs/monthly-review");
  await page.getByRole("region", { name: "Scorecard" }).getByRole("table").waitFor();
  await page.getByRole("group", { name: "Frame" }).waitFor();
}
