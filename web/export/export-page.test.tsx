import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { exportQuerySchema } from "#contract/exports.ts";
import { Refusal, renderPage, type Answers } from "#testing/render-page.tsx";
import { ExportPage } from "./export-page.tsx";

const EXPORTABLE = {
  datasets: [
    { key: "ledger", name: "Monthly ledger" },
    { key: "ops/daily", name: "Daily operations" },
  ],
  scenarios: [{ key: "actual", name: "Actual" }],
  dimensions: [{ key: "route", name: "Route", members: [{ key: "osk", name: "Tarn Point–Osk" }] }],
};
const show = (answers: Answers = {}) =>
  renderPage(<ExportPage />, { answers: { exportable: EXPORTABLE, tokens: [], ...answers } });
const addressOf = (name: string) => new URL(screen.getByRole("link", { name }).getAttribute("href")!, "http://test");

describe("export", () => {
  it("gives addresses that the contract reads, with what was chosen and nothing else", async () => {
    const page = show();
    await page.user.selectOptions(await screen.findByLabelText("Dataset"), "Daily operations");
    expect(Object.fromEntries(addressOf("As CSV").searchParams)).toEqual({ format: "csv" });
    await page.user.selectOptions(screen.getByLabelText("Scenario"), "Actual");
    await page.user.type(screen.getByLabelText("From month"), "2026-04");
    await page.user.selectOptions(screen.getByLabelText("Only"), "Tarn Point–Osk");
    const address = addressOf("As Parquet");
    // A key may hold what an address keeps for itself.
    expect(address.pathname).toContain(encodeURIComponent("ops/daily"));
    expect(exportQuerySchema.parse(Object.fromEntries(address.searchParams))).toEqual({
      format: "parquet",
      scenario: "actual",
      from: "2026-04",
      scope: "route:osk",
    });
  });

  it("says what to do first where there is nothing to export", async () => {
    show({ exportable: { datasets: [], scenarios: [], dimensions: [] } });
    expect(await screen.findByText("There is no dataset yet. Load a file first.")).toBeTruthy();
    expect(screen.queryByRole("link", { name: "As CSV" })).toBeNull();
  });
});

describe("personal tokens", () => {
  it("are told once when they are made, and revoked by name", async () => {
    const token = { id: 3, name: "Nightly", createdAt: "2026-11-05T08:00:00Z", lastUsedAt: null };
    let list = [token].slice(1);
    const page = show({
      tokens: () => list,
      createToken: () => {
        list = [token];
        return { token: "hk_secret" };
      },
      revokeToken: () => {
        list = [];
      },
    });
    const make = await screen.findByRole<HTMLButtonElement>("button", { name: "Create token" });
    expect(make.disabled).toBe(true);
    await page.user.type(screen.getByLabelText("Purpose"), "Nightly");
    await page.user.click(screen.getByRole("button", { name: "Create token" }));
    expect((await screen.findByText("hk_secret")).parentElement!.textContent).toBe(
      "Copy it now; it is not shown again: hk_secret",
    );
    expect((await screen.findByRole("rowheader", { name: "Nightly" })).closest("tr")!.textContent).toContain("never");
    await page.user.click(screen.getByRole("button", { name: "Revoke" }));
    expect(page.asked.find(({ id }) => id === "revokeToken")!.params).toEqual({ token: "3" });
  });

  it("that cannot be made leave the name as it was typed", async () => {
    const page = show({
      createToken: () => new Refusal({ code: "changed-meanwhile", detail: "You have 20 tokens; revoke one." }),
    });
    await page.user.type(await screen.findByLabelText("Purpose"), "One more");
    await page.user.click(screen.getByRole("button", { name: "Create token" }));
    expect((await screen.findByRole("alert")).textContent).toBe("You have 20 tokens; revoke one.");
    expect(screen.getByLabelText<HTMLInputElement>("Purpose").value).toBe("One more");
  });
});
