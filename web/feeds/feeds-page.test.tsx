import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Feed } from "#contract/feeds.ts";
import type { IntakeHead } from "#contract/intake.ts";
import { Refusal, renderPage, type Answers } from "#testing/render-page.tsx";
import { FeedsPage } from "./feeds-page.tsx";

type Pull = Feed["pulls"][number];
const pull = (id: number, state: Pull["state"], change: Partial<Pull> = {}): Pull => ({
  id,
  startedAt: "2026-11-05T06:30:00Z",
  seconds: 1.25,
  startedBy: "the schedule",
  state,
  message: "",
  draftId: null,
  loadId: null,
  ...change,
});
const feed = (change: Partial<Feed> = {}): Feed => ({
  key: "ledger",
  name: "Ledger",
  url: "http://127.0.0.1:1/ledger",
  dataset: "Monthly ledger",
  schedule: "never",
  mode: "normal",
  next: "November FY27",
  pulls: [],
  ...change,
});
const INTAKE: IntakeHead = {
  id: 4,
  name: "Ledger extract",
  dataset: "Monthly ledger",
  columns: ["Period", "Account", "Amount"],
  steps: ["Skip total rows"],
  updatedOn: "5 November 2026",
  updatedBy: "Maren Holt",
  loads: 1,
};
const show = (answers: Answers = {}) =>
  renderPage(<FeedsPage />, { at: "/feeds", answers: { feeds: [feed()], intakes: [], ...answers } });
const ledger = async () => within(await screen.findByRole("region", { name: "Ledger" }));

describe("the feeds", () => {
  it("are pulled on request, and their log says what became of it", async () => {
    const page = show({
      pullFeed: [
        feed({ next: "December FY27", pulls: [pull(1, "running", { seconds: null, startedBy: "Maren Holt" })] }),
      ],
    });
    const section = await ledger();
    expect(section.getByText("Not pulled yet.")).toBeTruthy();
    await page.user.click(section.getByRole("button", { name: "Pull November FY27" }));
    expect(page.asked.find(({ id }) => id === "pullFeed")!.params).toEqual({ feed: "ledger" });
    expect((await section.findByRole("row")).textContent).toMatch(/… running Maren Holt$/);
    expect(section.getByRole<HTMLButtonElement>("button", { name: "Pull December FY27" }).disabled).toBe(true);
  });

  it("lead to the file that waits for a person, and to what a posted one changed", async () => {
    show({
      feeds: [
        feed({
          pulls: [
            pull(3, "waiting", { draftId: 30, message: "One account is unknown." }),
            pull(2, "posted", { loadId: 20, message: "1,200 rows." }),
            pull(1, "failed", { message: "The connection broke off." }),
          ],
        }),
      ],
    });
    const rows = (await ledger()).getAllByRole("row");
    expect(rows.map((row) => row.textContent)).toEqual([
      expect.stringContaining("◆ waits for you"),
      expect.stringContaining("✓ posted"),
      expect.stringMatching(/✕ failedThe connection broke off\. the schedule, 1\.3 s|✕ failed/),
    ]);
    expect(within(rows[0]!).getByRole("link").getAttribute("href")).toBe("/loads/files/30");
    expect(within(rows[1]!).getByRole("link").getAttribute("href")).toBe("/loads/20");
    expect(within(rows[2]!).queryByRole("link")).toBeNull();
  });

  it("are set by the words of their sentence, and an error leaves them as they are", async () => {
    let isBroken = false;
    const page = show({
      changeFeed: () =>
        isBroken
          ? new Refusal({ code: "database-unavailable", detail: "The database does not answer." })
          : [feed({ schedule: "hourly" })],
    });
    const section = await ledger();
    await page.user.click(section.getByRole("button", { name: "Schedule: only when asked" }));
    await page.user.click(await screen.findByRole("menuitemradio", { name: /every hour/ }));
    expect(page.asked.find(({ id }) => id === "changeFeed")!.body).toEqual({ schedule: "hourly" });
    expect(await section.findByRole("button", { name: "Schedule: every hour" })).toBeTruthy();
    isBroken = true;
    await page.user.click(section.getByRole("button", { name: "Schedule: every hour" }));
    await page.user.click(await screen.findByRole("menuitemradio", { name: /every morning/ }));
    expect((await screen.findByRole("alert")).textContent).toBe("The database does not answer.");
    expect(section.getByRole("button", { name: "Schedule: every hour" })).toBeTruthy();
  });

  it("say how they come to be where there is none", async () => {
    show({ feeds: [] });
    expect(await screen.findByText(/^No source is connected\./)).toBeTruthy();
  });
});

describe("remembered kinds of files", () => {
  it("say what they are made of, and are forgotten one by one", async () => {
    let isForgotten = false;
    const page = show({
      intakes: () => (isForgotten ? [] : [INTAKE]),
      forgetIntake: () => {
        isForgotten = true;
      },
    });
    const section = within(await screen.findByRole("region", { name: "Intakes" }));
    expect(section.getByRole("listitem").textContent).toBe(
      "Ledger extractto Monthly ledger; Period, Account, Amount; skip total rows1 load, last 5 November 2026 by Maren HoltForget",
    );
    await page.user.click(section.getByRole("button", { name: "Forget" }));
    expect(await section.findByText(/^No intakes yet\./)).toBeTruthy();
    expect(page.asked.find(({ id }) => id === "forgetIntake")!.params).toEqual({ intake: "4" });
  });
});
