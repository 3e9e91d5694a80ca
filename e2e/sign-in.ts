import type { Page } from "@playwright/test";
import { PEOPLE } from "../demo/company/people.ts";

/**
 * Signs in as a person of the sample company, by name, and opens an address, or the cover with all it needs. The journey
 * signs in as people do.
 */
export async function signInAs(page: Page, name: string, address?: string): Promise<void> {
  const person = PEOPLE.find((p) => p.name === name);
  if (!person) throw new Error(`There is nobody called ${name} in the sample company.`);
  await page.request.post("/api/session/sample", { data: { email: person.email } });
  await page.goto(address ?? "/packs/monthly-review/cover");
  if (address !== undefined) return;
  await page.getByRole("region", { name: "Scorecard" }).getByRole("table").waitFor();
  await page.getByRole("group", { name: "Frame" }).waitFor();
}
