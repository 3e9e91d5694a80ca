import { expectAccessible } from "./accessibility.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

const LEDGER = `Ledger extract
Control total: "(1,200.50)"
Period,Account,Route,Cost centre,Amount,Document
November 2026,Repairs,Tarn Point–Osk,WORKSHOP,(700.50),T1
November 2026,Quay watch,Tarn Point–Osk,workshop,(500.00),T2
November 2026,Repairs,Tarn Point–Osk,Workshop,,T3
Total,,,,(1200.50),
`;

test("a dirty file is dropped, understood, answered, posted, seen in what it moved, and undone", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/loads");
  await expectAccessible(page);
  await page.setInputFiles("input[type=file]", { name: "quay.csv", mimeType: "text/csv", buffer: Buffer.from(LEDGER) });
  await expect(page.getByRole("heading", { name: "quay.csv" })).toBeVisible();
  await expect(page.getByText("3 stops are open.")).toBeVisible();
  await expectAccessible(page);
  // So few amounts do not tell how the file signs costs.
  await page.getByRole("button", { name: "Costs have a minus" }).click();
  await expect(page.getByText("2 stops are open.")).toBeVisible();

  // The step that skipped the total row shows what it dropped.
  await page.getByRole("button", { name: "Skip total rows" }).click();
  await expect(page.getByRole("region", { name: /Changed by/ })).toContainText("Total");

  // A choice that is open when the next check comes back stays open.
  const draftAddress = /\/api\/drafts\/\d+$/;
  await page.route(draftAddress, async (route) => {
    if (route.request().method() === "PUT") await page.waitForTimeout(1500);
    await route.continue();
  });
  const checked = page.waitForResponse((r) => draftAddress.test(r.url()) && r.request().method() === "PUT");
  await page.getByRole("button", { name: "Leave out the line" }).last().click();
  await page.getByRole("button", { name: /^What Quay watch is/ }).click();
  await checked;
  await expect(page.getByText("One stop is open.")).toBeVisible();
  await page.unroute(draftAddress);
  await page.getByRole("menuitemradio", { name: /^Port dues/ }).click();
  await expect(page.getByText("2 amounts of November FY27 to Management accounts, 1 line left out.")).toBeVisible();
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(page.getByText("One stop is open.")).toBeVisible();
  await page.getByRole("button", { name: "Redo (Ctrl Shift Z)" }).click();
  await page.getByRole("button", { name: "Post 2 amounts" }).click();

  await expect(page.getByRole("heading", { name: "What changed" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "November review" })).toBeVisible();
  await expect(page.getByRole("row", { name: /^Maintenance not closed yet/ })).toContainText("€ 701");
  await expectAccessible(page);
  await page.getByRole("button", { name: "Undo this load" }).click();
  await expect(page.getByText("nothing of it counts")).toBeVisible();
  await expect(page.getByRole("heading", { name: "October review" })).toBeVisible();
});

test("the chart of accounts is rearranged by keyboard and taken back", async ({ page }) => {
  await signInAs(page, "Maren Holt", "/structure/accounts");
  await expectAccessible(page);
  const row = page.getByRole("treeitem", { name: /^Lubricants/ });
  await row.click();
  await row.press("Alt+ArrowUp");
  await expect(page.getByText("Moved Lubricants within Fuel")).toBeVisible();
  await page.getByRole("button", { name: "Take back" }).first().click();
  await expect(page.getByText("Taken back: Moved Lubricants within Fuel")).toBeVisible();
  await page.goto("/structure/calendar");
  await page.getByRole("heading", { name: "Scenarios" }).waitFor();
  await expectAccessible(page);
  await page.goto("/feeds");
  await page.getByRole("heading", { name: "Intakes" }).waitFor();
  await expectAccessible(page);
  await page.goto("/export");
  await page.getByRole("link", { name: "As CSV" }).waitFor();
  await expectAccessible(page);
});
