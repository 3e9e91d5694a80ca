import ExcelJS from "exceljs";
import { afterAll, beforeAll, beforeEach, describe, expect, inject, it } from "vitest";
import type { EditableStructure } from "#contract/structure.ts";
import { serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { delimited, objections, type Rows } from "#testing/shape-files.ts";
import { startCompany } from "#testing/stranger.ts";

/** Accounts that become a tree in one step: by indentation, by numbers that begin others, by ranges of numbers. */
let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "trees", { empty: true });
  api = await serveApi(database.knex);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});
beforeEach(async () => {
  await startCompany(api);
  client = intakeClient(api);
});

/** Posts a file without a decision. Returns the tree, "Revenue > Shop: income", and what each account came to. */
async function treeOf(name: string, content: string | Uint8Array<ArrayBuffer>) {
  const draft = await client.upload(name, content);
  expect(objections(draft)).toEqual([]);
  const job = await client.post(draft);
  expect(job).toMatchObject({ state: "done" });
  const { accounts } = await client.get<EditableStructure>("/api/structure");
  const nameOf = (key: string | null): string => {
    const own = accounts.find((account) => account.key === key);
    return own ? [nameOf(own.parent), own.name].filter((part) => part !== "").join(" > ") : "";
  };
  const { totals } = await client.get<{ totals: { account: string; amount: string }[] }>(`/api/loads/${job.loadId}`);
  return {
    tree: accounts.map((account) => `${nameOf(account.key)}: ${account.kind}`),
    totals: Object.fromEntries(totals.map(({ account, amount }) => [account, Number(amount)])),
  };
}

const INDENTED: Rows = [
  ["Position", "Jan 2026", "Feb 2026", "Mar 2026"],
  ["Revenue", "", "", ""],
  ["  Shop", "100.00", "110.00", "120.00"],
  ["  Repairs", "50.00", "40.00", "30.00"],
  ["Costs", "90.00", "90.00", "90.00"],
  ["  People", "60.00", "60.00", "60.00"],
  ["    Wages", "50.00", "50.00", "50.00"],
  ["    Training", "10.00", "10.00", "10.00"],
  ["  Rent", "30.00", "30.00", "30.00"],
];
const DRAWN = {
  tree: [
    "Revenue: income",
    "Revenue > Shop: income",
    "Revenue > Repairs: income",
    "Costs: expense",
    "Costs > People: expense",
    "Costs > People > Wages: expense",
    "Costs > People > Training: expense",
    "Costs > Rent: expense",
  ],
  totals: { Shop: 330, Repairs: 120, Wages: 150, Training: 30, Rent: 90 },
};

describe("by indentation", () => {
  it("of texts, with headings and with sums above what they sum", async () => {
    expect(await treeOf("Plan 2026.csv", delimited(INDENTED, ","))).toEqual(DRAWN);
  });

  it("of cells in a workbook", async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet("Plan");
    for (const [text, ...amounts] of INDENTED) {
      const row = sheet.addRow([
        text!.trim(),
        ...amounts.map((cell) => (/^\d/.test(cell) ? Number(cell) : cell || null)),
      ]);
      const indent = (text!.length - text!.trimStart().length) / 2;
      if (indent > 0) row.getCell(1).alignment = { indent };
    }
    expect(await treeOf("Plan 2026.xlsx", new Uint8Array(await book.xlsx.writeBuffer()))).toEqual(DRAWN);
  });
});

describe("subtotals that do not call themselves so", () => {
  it("are told by their arithmetic and left out", async () => {
    const rows: Rows = [
      ["Shop", "Article", "2026-01", "2026-02"],
      ["North", "Tea", "10", "20"],
      ["North", "Cups", "30.5", "40"],
      ["North", "", "40.5", "60"],
      ["South", "Tea", "5", "5"],
      ["South", "Cups", "7", "8"],
      ["South", "", "12", "13"],
      ["All shops", "", "52.5", "73"],
    ];
    const { totals } = await treeOf("Sales.csv", delimited(rows, ","));
    expect(totals).toEqual({ Sales: 10 + 20 + 30.5 + 40 + 5 + 5 + 7 + 8 });
  });
});

describe("by numbers", () => {
  it("that begin others", async () => {
    const rows: Rows = [
      ["Account", "Name", "Month", "Amount"],
      ...["2026-01", "2026-02"].flatMap((month) => [
        ["4", "Revenue", month, "150"],
        ["40", "Sales", month, "150"],
        ["4000", "Shop", month, "100"],
        ["4010", "Online", month, "50"],
        ["6", "Costs", month, "70"],
        ["6000", "Wages", month, "40"],
        ["6100", "Other", month, "30"],
      ]),
    ];
    expect(await treeOf("Ledger.csv", delimited(rows, ","))).toEqual({
      tree: [
        "Revenue: income",
        "Revenue > Sales: income",
        "Revenue > Sales > Shop: income",
        "Revenue > Sales > Online: income",
        "Costs: expense",
        "Costs > Wages: expense",
        "Costs > Other: expense",
      ],
      totals: { Shop: 200, Online: 100, Wages: 80, Other: 60 },
    });
  });

  it("in ranges, whose accounts are of one kind where their names do not say it", async () => {
    const rows: Rows = [
      ["Account", "Name", "Month", "Amount"],
      ...["2026-01", "2026-02"].flatMap((month) => [
        ["4000", "Sales at home", month, "100"],
        ["4100", "Sales abroad", month, "50"],
        ["4200", "Sundry", month, "5"],
        ["6000", "Wages", month, "40"],
        ["6100", "Rent", month, "30"],
        ["6200", "Alpha", month, "3"],
      ]),
    ];
    const { tree } = await treeOf("Ledger.csv", delimited(rows, ","));
    expect(tree).toEqual([
      "4000–4999: income",
      "4000–4999 > Sales at home: income",
      "4000–4999 > Sales abroad: income",
      "4000–4999 > Sundry: income",
      "6000–6999: expense",
      "6000–6999 > Wages: expense",
      "6000–6999 > Rent: expense",
      "6000–6999 > Alpha: expense",
    ]);
  });
});
