import { sessionOf } from "#testing/session.ts";
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { EditableStructure } from "#contract/structure.ts";
import { Refusal, renderPage, type Answers } from "#testing/render-page.tsx";
import { AccountsPage } from "./accounts-page.tsx";

type Account = EditableStructure["accounts"][number];
const account = (key: string, name: string, change: Partial<Account> = {}): Account => ({
  key,
  name,
  parent: null,
  kind: "expense",
  behaviour: "flow",
  unit: { kind: "money" },
  decimals: 2,
  aliases: [],
  isRetired: false,
  version: 1,
  isUsed: true,
  ...change,
});
const structure = (accounts: readonly Account[]): EditableStructure => ({
  company: { name: "Mill", startMonth: 4 },
  lastClosed: { month: "2026-10", name: "October FY27" },
  accounts: [...accounts],
  dimensions: [],
  datasets: [],
  scenarios: [],
  changes: [],
});
const FUEL = account("fuel", "Fuel");
const show = (answers: Answers) =>
  renderPage(<AccountsPage />, {
    at: "/structure/accounts",
    answers: {
      session: sessionOf(),
      structure: structure([FUEL, account("crew", "Crew")]),
      ...answers,
    },
  });
const choose = async (page: ReturnType<typeof show>, name: string) => {
  await page.user.click(await screen.findByRole("treeitem", { name: new RegExp(name) }));
  return within(screen.getByRole("complementary", { name: "Account" }));
};
type Form = Awaited<ReturnType<typeof choose>>;
const rename = async (page: ReturnType<typeof show>, form: Form, name: string) => {
  const [field] = form.getAllByLabelText("Name");
  await page.user.clear(field!);
  await page.user.type(field!, name);
};

describe("the chart of accounts", () => {
  it("saves what was changed on the version it was made from", async () => {
    const page = show({ changeAccounts: structure([account("fuel", "Bunkers", { version: 2 })]) });
    const form = await choose(page, "Fuel");
    expect(form.getByRole<HTMLButtonElement>("button", { name: "Save" }).disabled).toBe(true);
    await rename(page, form, "Bunkers");
    await page.user.click(form.getByRole("button", { name: "Save" }));
    expect(page.asked.at(-1)?.body ?? page.asked.at(-2)?.body).toMatchObject({
      do: "change",
      key: "fuel",
      version: 1,
      item: { name: "Bunkers" },
    });
    expect(await screen.findByRole("treeitem", { name: /Bunkers/ })).toBeTruthy();
  });

  it("shows both versions where somebody else was first, and takes theirs", async () => {
    const theirs = account("fuel", "Marine fuel", { version: 2 });
    let isMeanwhile = false;
    const page = show({
      structure: () => structure([isMeanwhile ? theirs : FUEL]),
      changeAccounts: () => {
        isMeanwhile = true;
        return conflict(theirs, "Bunkers");
      },
    });
    const form = await choose(page, "Fuel");
    await rename(page, form, "Bunkers");
    await page.user.click(form.getByRole("button", { name: "Save" }));
    const both = within(await screen.findByRole("alert"));
    expect(both.getByText("Somebody changed Marine fuel while you edited it.")).toBeTruthy();
    expect(["Marine fuel", "Bunkers"].map((name) => both.getByText(name).tagName)).toEqual(["DD", "DD"]);
    // What was typed is still there while it is decided.
    expect(form.getAllByLabelText<HTMLInputElement>("Name")[0]!.value).toBe("Bunkers");
    await page.user.click(both.getByRole("button", { name: "Keep their version" }));
    expect(screen.queryByRole("alert")).toBeNull();
    expect(form.getAllByLabelText<HTMLInputElement>("Name")[0]!.value).toBe("Marine fuel");
  });

  it("puts one's own on top of theirs when asked", async () => {
    const theirs = account("fuel", "Marine fuel", { version: 7 });
    const page = show({
      changeAccounts: ({ body }) =>
        (body as { version: number }).version === 7
          ? structure([account("fuel", "Bunkers", { version: 8 })])
          : conflict(theirs, "Bunkers"),
    });
    const form = await choose(page, "Fuel");
    await rename(page, form, "Bunkers");
    await page.user.click(form.getByRole("button", { name: "Save" }));
    await page.user.click(await screen.findByRole("button", { name: "Apply my version on top" }));
    const sent = page.asked.filter(({ id }) => id === "changeAccounts").map(({ body }) => body);
    expect(sent).toMatchObject([
      { version: 1, item: { name: "Bunkers" } },
      { version: 7, item: { name: "Bunkers" } },
    ]);
    expect(screen.queryByRole("alert")).toBeNull();
  });
});

function conflict(theirs: Account, name: string): Refusal {
  return new Refusal({
    code: "changed-meanwhile",
    detail: `Somebody changed ${theirs.name} while you edited it.`,
    both: { current: theirs, yours: { ...FUEL, name } },
  });
}
