import { expect, type Page } from "@playwright/test";

/** What a person waits for: nothing, or as long as somebody takes who reads and thinks. */
export interface Pace {
  readonly pauseMs: number;
  readonly keyMs: number;
}
export const AT_ONCE: Pace = { pauseMs: 0, keyMs: 0 };

/** Starts a company of one's own on the sign-in page. */
export async function startOwn(
  page: Page,
  { name, currency }: { name: string; currency: string },
  { pauseMs, keyMs }: Pace = AT_ONCE,
): Promise<void> {
  await page.goto("/sign-in");
  await page.getByRole("link", { name: "start your own company", exact: true }).click();
  const type = async (label: string | RegExp, text: string) => {
    await page.waitForTimeout(pauseMs);
    const field = page.getByLabel(label);
    await field.clear();
    await field.pressSequentially(text, { delay: keyMs });
  };
  await type("Company name", name);
  await type(/^Currency/, currency);
  await type("Your name", "Ida Moor");
  await type("E-mail address", "ida@brightwater.example");
  await type(/^Password/, "a long password");
  await page.getByRole("button", { name: "Start company" }).click();
  await expect(page.getByRole("heading", { name: `Set up ${name}` })).toBeVisible();
}

/** Brings a file, posts it, and goes to the page that it makes. */
export async function bringFile(
  page: Page,
  file: { readonly name: string; readonly text: string },
  { pauseMs }: Pace = AT_ONCE,
): Promise<void> {
  await page.getByRole("link", { name: "Loads" }).click();
  await page.waitForTimeout(pauseMs);
  await page
    .locator("input[type=file]")
    .setInputFiles({ name: file.name, mimeType: "text/csv", buffer: Buffer.from(file.text) });
  const post = page.getByRole("button", { name: /^Post \d/ });
  await expect(post).toBeVisible();
  await page.waitForTimeout(pauseMs);
  await post.click();
  const see = page.getByRole("link", { name: /^See/ });
  await expect(see).toBeVisible();
  await page.waitForTimeout(pauseMs);
  await see.click();
}

/** Removes a company with all that is in it. */
export async function removeOwn(page: Page, name: string): Promise<void> {
  await page.goto("/company");
  await page.getByLabel("Type the company name").fill(name);
  await page.getByRole("button", { name: "Delete company" }).click();
  await expect(page.getByRole("link", { name: "start your own company", exact: true })).toBeVisible();
}
