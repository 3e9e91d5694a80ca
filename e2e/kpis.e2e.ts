import { type Page } from "@playwright/test";
import { expectAccessible } from "./accessibility.ts";
import { arrangePage, barButton, openSettings } from "./arrange.ts";
import { signInAs } from "./sign-in.ts";
import { expect, test } from "./test.ts";

const editor = (page: Page) => page.getByRole("textbox", { name: "Formula" });

test("a KPI is typed with completion, corrected under the exact word, tried, graded, added, changed and taken back", async ({
  page,
}) => {
  await signInAs(page, "Maren Holt", "/kpis");
  await expectAccessible(page);
  await page.getByRole("link", { name: "New KPI" }).click();
  await editor(page).click();
  await page.keyboard.type("ticket_re");
  await expect(page.getByRole("option", { name: /ticket_revenue/ })).toBeVisible();
  // The list takes no key in its first moment, so that one meant for the text is not caught.
  await page.waitForTimeout(200);
  await page.keyboard.press("Enter");
  await expect(editor(page)).toHaveText("ticket_revenue");
  await page.keyboard.type(" / pasengers");
  await page.keyboard.press("Escape");
  await expect(page.getByText('There is no account or KPI "pasengers". Is "passengers" meant?')).toBeVisible();
  await expect(page.locator(".cm-lintRange-error")).toHaveText("pasengers");
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("ticket_revenue / passengers");
  await page.keyboard.press("Escape");
  await expect(page.getByText("It gives money per passengers")).toBeVisible();
  await expect(page.getByRole("region", { name: "Result" })).toContainText("October FY27");
  await page.getByLabel("Name", { exact: true }).fill("Ticket yield");
  await page.getByRole("button", { name: "Use status bands instead" }).click();
  await page.getByLabel("To, band 1").fill("90");
  await expect(page.getByText(/Values between 90 and 95 have no band/)).toBeVisible();
  await page.getByLabel("From, band 2").fill("90");
  await expect(page.getByText(/have no band/)).toBeHidden();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Add the KPI" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Ticket yield" })).toBeVisible();
  await expect(page.getByRole("region", { name: "Dependencies" })).toContainText("Ticket revenue");

  await page.getByLabel("Description").fill("What a passenger brings.");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Changed description of Ticket yield").first()).toBeVisible();
  await page.getByRole("button", { name: "Take back" }).first().click();
  await expect(page.getByText("Taken back: Changed description of Ticket yield").first()).toBeVisible();

  // It goes on the page, and off again by undo.
  await page.goto("/packs/monthly-review/revenue");
  await arrangePage(page);
  await openSettings(page, "scorecard");
  await page.getByLabel("Add a KPI to Volume and price").selectOption("Ticket yield");
  const scorecard = page.getByRole("region", { name: "Scorecard" });
  await expect(scorecard.getByRole("button", { name: "Ticket yield €/passenger", exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Full-year outlook" }).click();
  await expect(scorecard.getByRole("columnheader", { name: /Outlook/ })).toBeVisible();
  await expectAccessible(page);
  await barButton(page, /^Undo/).click();
  await barButton(page, /^Undo/).click();
  await expect(scorecard.getByRole("button", { name: "Ticket yield €/passenger", exact: true })).toBeHidden();
  await page.goto("/kpis/ticket_yield");
  await page.getByRole("button", { name: "Remove", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1, name: "KPIs" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Ticket yield" })).toBeHidden();
});

test("a scorecard is sorted, collapsed and opened by area and route; its numbers are copied", async ({
  page,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signInAs(page, "Maren Holt");
  const scorecard = page.getByRole("region", { name: "Scorecard" });
  await scorecard.getByRole("button", { name: "Open Revenue by route" }).click();
  await scorecard.getByRole("button", { name: "Open Skerry Sound" }).click();
  await expect(scorecard.getByRole("rowheader", { name: /Tarn Point–Osk/ })).toBeVisible();
  const names = () =>
    scorecard.locator("tr[data-kpi]").evaluateAll((rows) => rows.map((r) => r.getAttribute("data-kpi")));
  await scorecard.getByTitle("Sort by Δ%").click();
  expect((await names()).slice(3, 6)).toEqual(["freight", "onboard_spend", "tickets"]);
  await scorecard.getByTitle("Sort by Δ%").click();
  expect((await names()).slice(3, 6)).toEqual(["tickets", "onboard_spend", "freight"]);
  await scorecard.getByRole("button", { name: "Service", exact: true }).click();
  await expect(scorecard.getByText("Load factor")).toBeHidden();
  await expectAccessible(page);
  await scorecard.getByRole("button", { name: "Copy the numbers" }).click();
  await expect(scorecard.getByText("Copied. Paste it into a spreadsheet.")).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split("\n")[1]).toMatch(/^Result\tRevenue\t€\t/);
  await page.goto("/kpis/language");
  await page.getByRole("heading", { name: "Growth and pace" }).waitFor();
  await expectAccessible(page);
  await page.getByRole("link", { name: "Try it" }).first().click();
  await expect(page.getByText(/^It gives/)).toBeVisible();
  await page.goto("/home");
  await expect(
    page.getByText(/status it changed are listed here|got worse|got better|changed no KPI/).first(),
  ).toBeVisible();
  await expect(page.getByRole("region", { name: "The last load" })).toHaveAttribute("aria-busy", "false");
  await expectAccessible(page);
});
