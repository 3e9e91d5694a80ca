import { expect, type Locator, type Page } from "@playwright/test";
import { signInAs } from "./sign-in.ts";

/** Makes an empty page of a pack of its own, and opens it to be arranged. */
export async function emptyPage(page: Page, pack: string): Promise<void> {
  await signInAs(page, "Maren Holt", "/packs");
  await page.getByLabel(/^Name of a new pack/).waitFor();
  // What an attempt that failed left behind.
  if ((await ownRegion(page, pack).count()) > 0) await retire(page, pack);
  await page.getByLabel(/^Name of a new pack/).fill(pack);
  await page.getByRole("button", { name: "Create pack" }).click();
  await anotherPage(page, pack);
}

/** Adds an empty page to a pack, and opens it to be arranged. */
export async function anotherPage(page: Page, pack: string): Promise<void> {
  const own = ownRegion(page, pack);
  await own.getByRole("button", { name: "Add a page" }).click();
  await expect(own.getByText("Saved")).toBeVisible();
  await own.getByRole("link", { name: "Arrange" }).last().click();
  await expect(page.getByText("This page is empty")).toBeVisible();
}

/** Other tests find the packs as they were. */
export async function retire(page: Page, pack: string): Promise<void> {
  await page.goto("/packs");
  await ownRegion(page, pack).getByRole("button", { name: "Retire" }).click();
  await expect(ownRegion(page, pack)).toHaveCount(0);
  await expect(page.getByRole("region", { name: "Retired packs" }).getByText(pack).first()).toBeVisible();
}

const ownRegion = (page: Page, pack: string) => page.getByRole("region", { name: `Pages of ${pack}`, exact: true });

/** Adds a panel of a kind from the rack. */
export const add = (page: Page, kind: string) =>
  page.getByRole("button", { name: new RegExp(`^Add ${kind}:`) }).click();
/** An option that is not among the first is added. */
export async function offer(drawer: Locator, name: string): Promise<void> {
  const options = drawer.getByRole("region", { name: "Options" });
  await expect(options.getByText(name, { exact: true })).toBeVisible();
  const rest = options.getByRole("button", { name, exact: true });
  if ((await rest.count()) > 0) await rest.click();
}
export const done = (page: Page) => page.getByRole("button", { name: "Done" }).click();
