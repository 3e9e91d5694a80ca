import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { BroughtTable, Definition, Draft } from "#contract/intake.ts";
import { serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { delimited, expectOutcome, objections, workbookOf, type Outcome, type Rows } from "#testing/shape-files.ts";
import { startCompany } from "#testing/stranger.ts";

/**
 * Files that are several at once: sheets one under the other, a sheet or a second file that says what numbers stand for,
 * deliveries after deliveries. Brought by a stranger to an empty company.
 */
let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "several", { empty: true });
  api = await serveApi(database.knex);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const start = async () => {
  await startCompany(api);
  client = intakeClient(api);
};
/** Brings a second file for a draft to look up in, and takes what is proposed: one decision. */
const lookUpIn = async (draft: Draft, name: string, content: string | Uint8Array<ArrayBuffer>): Promise<Draft> => {
  const { status, body } = await api.upload(name, content, `/api/drafts/${draft.id}/tables`);
  expect(status).toBe(200);
  const { proposed } = body as BroughtTable;
  const { rules } = draft.definition;
  // As the page does: the step comes last, and meanings are proposed for what it brings.
  return client.change(draft, { rules: { ...rules, steps: [...rules.steps, proposed!] } });
};
const withMapping = (draft: Draft, change: Partial<Definition["rules"]["mapping"]>) => {
  const { rules } = draft.definition;
  return client.change(draft, { rules: { ...rules, mapping: { ...rules.mapping, ...change } } });
};

const MONTHS = Array.from(
  { length: 24 },
  (_, i) => `${2024 + Math.floor(i / 12)}-${String((i % 12) + 1).padStart(2, "0")}`,
);
/** A ledger of two years: sales in cash, wages paid of it; opened with 500 in the bank, of equity. */
const entries = [
  ["2024-01-01", "1000", "Opening balance", "500.00", ""],
  ["2024-01-01", "3000", "Opening balance", "", "500.00"],
  ...MONTHS.flatMap((month, i) => [
    [`${month}-10`, "1000", "Takings", (900 + i).toFixed(2), ""],
    [`${month}-10`, "4000", "Takings", "", (600 + i).toFixed(2)],
    [`${month}-10`, "4100", "Takings", "", "300.00"],
    [`${month}-28`, "6000", "Payroll", "700.00", ""],
    [`${month}-28`, "1000", "Payroll", "", "700.00"],
  ]),
];
const LEDGER: Rows = [["Date", "Account", "Text", "Debit", "Credit"], ...entries];
const ACCOUNTS: Rows = [
  ["Account", "Account name", "Class", "Subclass"],
  ["1000", "Bank", "Assets", "Cash and bank"],
  ["1200", "Receivables", "Assets", "Receivables"],
  ["3000", "Capital", "Equity", "Capital"],
  ["4000", "Shop sales", "Revenue", "Sales"],
  ["4100", "Repairs", "Revenue", "Services"],
  ["6000", "Wages", "Operating expenses", "Personnel"],
];
const LEDGER_SHOWN: Outcome = {
  shown: { "Shop sales": 7410, Repairs: 3600, Wages: 8400, Bank: 500 + 24 * 200 + 276, Capital: 500 },
};

describe("7: a ledger of several years with its chart of accounts", () => {
  const accumulated = async (draft: Draft) => {
    expect(objections(draft).join(" ")).toMatch(/give movements of an account that keeps a balance/);
    return withMapping(draft, { movements: "accumulate" });
  };
  it("in a second sheet", async () => {
    await start();
    const draft = await client.upload("General ledger.xlsx", await workbookOf({ Entries: LEDGER, Accounts: ACCOUNTS }));
    await expectOutcome(client, await accumulated(draft), LEDGER_SHOWN);
  });
  it("in a second sheet that comes first", async () => {
    await start();
    const draft = await client.upload("General ledger.xlsx", await workbookOf({ Chart: ACCOUNTS, Journal: LEDGER }));
    await expectOutcome(client, await accumulated(draft), LEDGER_SHOWN);
  });
  it("in a file of its own", async () => {
    await start();
    const draft = await client.upload("General ledger.csv", delimited(LEDGER, ","));
    const named = await lookUpIn(draft, "Accounts.csv", delimited(ACCOUNTS, ";"));
    await expectOutcome(client, await accumulated(named), LEDGER_SHOWN);
  });
});

const monthOf = (month: string): Rows => [
  ["Branch", "Sales", "Wages"],
  ["North", String(100 + Number(month)), "50"],
  ["South", String(200 + Number(month)), "60"],
];
const NAMES = ["January", "February", "March", "April"];

describe("14: sheets with the same columns", () => {
  const byMonth = Object.fromEntries(NAMES.map((name, i) => [name, monthOf(String(i + 1))]));
  const totals = { "Sales Actual": 1200 + 2 * (1 + 2 + 3 + 4), "Wages Actual": 440 };
  it("one for each month, the year in the file's name", async () => {
    await start();
    const draft = await client.upload("Branches 2026.xlsx", await workbookOf(byMonth));
    await expectOutcome(client, draft, { totals, shown: { Sales: 308 } });
  });
  it("one for each month, with a title above and the columns in another order", async () => {
    await start();
    const turned = (rows: Rows) => rows.map(([a, b, c]) => [c!, a!, b!]);
    const sheets = Object.fromEntries(
      Object.entries(byMonth).map(([name, rows], i) => [
        `${name} 2026`,
        i === 2 ? [["Our branches"], [""], ...turned(rows)] : rows,
      ]),
    );
    const draft = await client.upload("Branches.xlsx", await workbookOf(sheets));
    await expectOutcome(client, draft, { totals, shown: { Sales: 308 } });
  });
  it("one for each region, beside a cover and a hidden sheet", async () => {
    await start();
    const rows = (base: number): Rows => [
      ["Month", "Revenue"],
      ...["2026-01", "2026-02", "2026-03"].map((month, i) => [month, String(base + i)]),
    ];
    const sheets = { Cover: [["Report"]], North: rows(10), South: rows(20), Old: rows(9000) };
    const draft = await client.upload("Regions.xlsx", await workbookOf(sheets, ["Old"]));
    await expectOutcome(client, draft, { totals: { "Revenue Actual": 33 + 63 }, shown: { Revenue: 34 } });
  });
});

const ORDERS: Rows = [
  ["Date", "Article no", "Quantity", "Unit price"],
  ...Array.from({ length: 30 }, (_, i) => [
    `2026-0${1 + (i % 3)}-${String(1 + (i % 28)).padStart(2, "0")}`,
    `00${10 + (i % 4)}`,
    String(1 + (i % 5)),
    (2.5 + (i % 4)).toFixed(2),
  ]),
];
const ARTICLES: Rows = [
  ["Article no", "Article", "Group"],
  ["0010", "Mug", "Tableware"],
  ["0011", "Plate", "Tableware"],
  ["0012", "Vase", "Decoration"],
  ["0013", "Lamp", "Decoration"],
];
const value = ORDERS.slice(1).reduce((sum, row) => sum + Number(row[2]) * Number(row[3]), 0);
const pieces = ORDERS.slice(1).reduce((sum, row) => sum + Number(row[2]), 0);
const ORDERS_POSTED: Outcome = { totals: { "Quantity Actual": pieces, "Sales Actual": value } };

describe("15: prices and quantities without an amount", () => {
  it("with names in a second sheet", async () => {
    await start();
    const draft = await client.upload("Orders.xlsx", await workbookOf({ Orders: ORDERS, Articles: ARTICLES }));
    expect(draft.definition.rules.mapping.columns).toMatchObject({
      Article: { as: "dimension" },
      Group: { as: "dimension" },
    });
    await expectOutcome(client, draft, ORDERS_POSTED);
  });
  it("with names in a file of their own", async () => {
    await start();
    const draft = await client.upload("Orders.csv", delimited(ORDERS, ","));
    const named = await lookUpIn(draft, "Articles.csv", delimited(ARTICLES, ","));
    expect(named.definition.rules.mapping.columns).toMatchObject({ Article: { as: "dimension" } });
    await expectOutcome(client, named, ORDERS_POSTED);
  });
  it("where a program took the zeros off the numbers, and one article is not known", async () => {
    await start();
    const bare = ARTICLES.slice(0, 4).map(([no, ...rest]) => [no!.replace(/^0+/, ""), ...rest]);
    const draft = await client.upload("Orders.csv", delimited(ORDERS, "\t"));
    const named = await lookUpIn(draft, "Articles.xlsx", await workbookOf({ List: bare }));
    expect(named.report!.findings.find(({ rule }) => rule === "not-found")?.message).toMatch(
      /^7 lines have a text in Article no that Articles does not know: “0013”/,
    );
    await expectOutcome(client, named, ORDERS_POSTED);
  });
});

const delivered = (corrected: boolean): string[][] =>
  Array.from({ length: 36 }, (_, i) => [
    `2026-0${1 + (i % 3)}-${String(1 + (i % 28)).padStart(2, "0")}`,
    `S${100 + i}`,
    ["Bakery", "Café"][i % 2]!,
    (20 + i + (corrected && i === 7 ? 0.5 : 0)).toFixed(2),
  ]);
const sumOf = (rows: Rows) => rows.reduce((sum, row) => sum + Number(row.at(-1)), 0);

describe("11: a delivery after a delivery, with corrected and doubled lines", () => {
  const HEAD = ["Date", "Receipt no", "Shop", "Takings"];
  const twice = [...delivered(true), delivered(true)[3]!, delivered(true)[20]!];
  const bare = (rows: Rows) => rows.map(([date, , shop, takings]) => [date!, shop!, takings!]);
  const answer = (draft: Draft, change: Partial<Definition>) => client.change(draft, change);
  const said = (draft: Draft, rule: string) => draft.report!.findings.find((found) => found.rule === rule);
  /** Posts the first delivery, and brings the second one. */
  const again = async (first: readonly [string, string | Uint8Array<ArrayBuffer>], second: typeof first) => {
    await start();
    expect(await client.post(await client.upload(...first))).toMatchObject({ state: "done" });
    const draft = await client.upload(...second);
    expect(said(draft, "already-posted")).toMatchObject({ severity: "stop", answer: null, likely: "restate" });
    expect(said(draft, "already-posted")!.message).toMatch(
      /posted already, from Takings.*Takings is 1,350\.00 there and 1,413\.50 here, together 2,763\.50\. It looks like a corrected version of the same data\./,
    );
    expect(said(draft, "repeated-line")).toMatchObject({ count: 2 });
    return answer(draft, { answers: { ...draft.definition.answers, posting: "restate" } });
  };
  it("told by their receipts", async () => {
    const draft = await again(
      ["Takings.csv", delimited([HEAD, ...delivered(false)], ",")],
      ["Takings again.csv", delimited([HEAD, ...twice], ",")],
    );
    const { rules } = draft.definition;
    const rejectedLines = said(draft, "repeated-line")!.lines.map(({ line }) => line);
    expect(rejectedLines).toEqual([38, 39]);
    const right = await answer(draft, { rules: { ...rules, rejectedLines } });
    await expectOutcome(client, right, { totals: { "Takings Actual": sumOf(delivered(true)) } });
  });
  it.each(["csv", "xlsx"])("told by all their columns, as %s", async (kind) => {
    const file = async (name: string, rows: Rows) =>
      kind === "csv"
        ? ([`${name}.csv`, delimited(rows, ";")] as const)
        : ([`${name}.xlsx`, await workbookOf({ Sheet1: rows })] as const);
    const head = [HEAD[0]!, HEAD[2]!, HEAD[3]!];
    const draft = await again(
      await file("Takings", [head, ...bare(delivered(false))]),
      await file("Takings again", [head, ...bare(twice)]),
    );
    const { rules } = draft.definition;
    const right = await answer(draft, { rules: { ...rules, steps: [...rules.steps, { kind: "drop-doubles" }] } });
    await expectOutcome(client, right, { totals: { "Takings Actual": sumOf(delivered(true)) } });
  });
  it("of another part of the same months stands beside the first", async () => {
    await start();
    const part = (shop: string) => [HEAD, ...delivered(false).filter((row) => row[2] === shop)];
    expect(await client.post(await client.upload("Bakery.csv", delimited(part("Bakery"), ",")))).toMatchObject({
      state: "done",
    });
    const draft = await client.upload("Café.csv", delimited(part("Café"), ","));
    expect(said(draft, "already-posted")).toMatchObject({ likely: "beside" });
    expect(said(draft, "already-posted")!.message).toMatch(/It has Café in Shop, which the posted figures do not/);
  });
});
