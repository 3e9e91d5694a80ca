import { expect, type Locator, type Page } from "@playwright/test";

/** Turns the page into its editor. */
export async function arrangePage(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Arrange", exact: true }).click();
  await expect(page.getByRole("toolbar", { name: "Arrange the page" })).toBeVisible();
}

/** Opens the settings of a panel of a page that is arranged, by what the panel is called. */
export async function openSettings(page: Page, panel: string): Promise<Locator> {
  const own = page.getByRole("group", { name: new RegExp(`^Panel ${panel}[.,]`) });
  await own.hover();
  await own.getByRole("button", { name: `Settings of ${panel}` }).click();
  const drawer = page.getByRole("complementary", { name: /^Arrange / });
  await expect(drawer).toBeVisible();
  return drawer;
}

/** The button of the editor's bar. */
export function barButton(page: Page, name: string | RegExp): Locator {
  return page.getByRole("toolbar", { name: "Arrange the page" }).getByRole("button", { name });
}
