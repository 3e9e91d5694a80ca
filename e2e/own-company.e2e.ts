import { bringFile, removeOwn, startOwn } from "./stranger.ts";
import { expect, test } from "./test.ts";

/** A stranger comes with her own files: from an empty installation's door to a right first page. */
const months = ["2026-01", "2026-02", "2026-03", "2026-04"];
const WIDE = `Month,Department,Budget,Actual\n${months
  .flatMap((month, i) =>
    ["Kilns", "Glazing"].map((name, k) => `${month},${name},${1000 + 100 * k},${1010 + 10 * i + 90 * k}`),
  )
  .join("\n")}\n`;
const SALES = `Datum;Kunde;Menge;Einzelpreis;Netto\n${Array.from({ length: 60 }, (_, i) => {
  const [count, price] = [1 + ((i * 7) % 23), [12.5, 19.9, 34, 7.25][i % 4]!];
  const day = new Date(Date.UTC(2026, 0, 1 + i * 2));
  const write = (value: number) => value.toFixed(2).replace(".", ",");
  return `${String(day.getUTCDate()).padStart(2, "0")}.${String(day.getUTCMonth() + 1).padStart(2, "0")}.2026;${["Müller", "Weiß"][i % 2]};${count};${write(price)};${write(count * price)}`;
}).join("\n")}\n`;

test("a company of one's own: started empty, fed with its own files, left, come back to, removed", async ({ page }) => {
  const name = `Brightwater ${Date.now() % 100_000}`;
  await startOwn(page, { name, currency: "USD" });
  await page.getByRole("link", { name: "Load your first file" }).click();
  await bringFile(page, { name: "Department spending.csv", text: WIDE });
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Department spending is");
  // 8 rows: 1,010 to 1,040 and 1,100 to 1,130, against 1,000 and 1,100.
  await expect(page.getByText("$ 8,560", { exact: true }).first()).toBeVisible();
  await expect(page.getByRole("group", { name: "Frame" })).toContainText("against Budget");

  await bringFile(page, { name: "Verkäufe.csv", text: SALES });
  await expect(page.getByText("Einzelpreis", { exact: true }).first()).toBeVisible();
  await expect(page.getByText("Netto", { exact: true }).first()).toBeVisible();

  await page.getByRole("link", { name, exact: true }).click();
  await page.getByRole("button", { name: "Quillhaven Ferries" }).click();
  await expect(page.getByRole("heading", { name: "Continue as" })).toBeVisible();
  await page.getByRole("button", { name }).click();
  await expect(page.getByRole("link", { name: "Loads" })).toBeVisible();
  await removeOwn(page, name);
  await expect(page.getByRole("heading", { name: "Continue as" })).toBeVisible();
  await expect(page.getByRole("button", { name })).toHaveCount(0);
});
