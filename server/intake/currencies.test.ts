import { afterAll, beforeAll, beforeEach, describe, expect, inject, it } from "vitest";
import type { Draft, Job } from "#contract/intake.ts";
import type { LoadDetail } from "#contract/loads.ts";
import type { EditableStructure } from "#contract/structure.ts";
import type { SourceLinesAnswer } from "#contract/provenance.ts";
import { convertAmount } from "#core/currency/rate.ts";
import { writeDecimal } from "#core/reading/write-decimal.ts";
import type { LibraryKpi } from "#contract/kpis.ts";
import { serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import {
  delimited,
  expectOutcome,
  objections,
  sayKind,
  workbookOf,
  type Outcome,
  type Rows,
} from "#testing/shape-files.ts";
import { startCompany } from "#testing/stranger.ts";
import { CONVERTED } from "#server/facts/currency-rates.ts";

/** Files in several currencies, brought by a stranger to an empty company that reports in euros. */
let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "currencies", { empty: true });
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

const SALES: Rows = [
  ["Month", "Country", "Currency", "Sales"],
  ["2026-01", "DE", "EUR", "1000.00"],
  ["2026-01", "US", "USD", "1000.00"],
  ["2026-01", "JP", "JPY", "500000"],
  ["2026-02", "DE", "EUR", "1100.00"],
  ["2026-02", "US", "USD", "1300.00"],
  ["2026-02", "JP", "JPY", "600000"],
];
/** January: 1,000 + 1,000 × 0.92 + 500,000 × 0.006; February: 1,100 + 1,300 × 0.9 + 600,000 × 0.0061. */
const IN_EUROS = 1000 + 920 + 3000 + (1100 + 1170 + 3660);
const RATES: Rows = [
  ["Month", "Currency", "Average rate", "Closing rate"],
  ["2026-01", "USD", "0.92", "0.93"],
  ["2026-01", "JPY", "0.006", "0.0062"],
  ["2026-02", "USD", "0.9", "0.91"],
  ["2026-02", "JPY", "0.0061", "0.0063"],
];
const SHOWN: Outcome = { totals: { "Sales Actual": IN_EUROS } };

async function post(draft: Draft): Promise<Job> {
  expect(objections(draft)).toEqual([]);
  const job = await client.post(draft);
  expect([job.state, job.message]).toEqual(["done", null]);
  return job;
}
const bring = async (name: string, rows: Rows) => post(await client.upload(name, delimited(rows, ",")));
const totalOf = async (job: Job) =>
  (await client.get<LoadDetail>(`/api/loads/${job.loadId}`)).totals.map(({ amount }) => Number(amount));
const undo = (job: Job) => api.send("POST", `/api/loads/${job.loadId}/undo`, {});

describe("13: several currencies in a column", () => {
  it("stops without rates, says which are missing, and adds up no currencies", async () => {
    const draft = await client.upload("Country sales.csv", delimited(SALES, ","));
    expect(objections(draft).join(" ")).toMatch(
      /4 lines are in another currency .* no rate for the month: “USD in January 2026”, “JPY in January 2026”, “USD in February 2026” and 1 more/,
    );
    const control = draft.report!.findings.find(({ rule }) => rule === "control-total")!;
    expect(control.message).toBe(
      "The file's amounts are in several currencies, which are not added up: EUR 2,100.00, USD 2,300.00, JPY 1,100,000.",
    );
  });

  it("converts with rates that came as a file", async () => {
    await bring("Exchange rates 2026.csv", RATES);
    const draft = await client.upload("Country sales.csv", delimited(SALES, ","));
    await expectOutcome(client, draft, SHOWN);
    expect(draft.report!.findings.find(({ rule }) => rule === "converted")!.message).toBe(
      "Converted at the month's average rate, balances at its closing rate: USD became EUR 2,090.00, JPY became EUR 6,660.00. Each amount keeps what it was.",
    );
  });

  it("is checked anew when its rates came meanwhile", async () => {
    const draft = await client.upload("Country sales.csv", delimited(SALES, ","));
    expect(objections(draft)).not.toEqual([]);
    await bring("Exchange rates 2026.csv", RATES);
    await expectOutcome(client, await client.checked(draft.id), SHOWN);
  });

  it("converts with rates whose months are columns, in a workbook, priced the other way round", async () => {
    const rates: Rows = [
      ["Exchange rates, 1 EUR ="],
      [],
      ["Currency", "Jan 2026", "Feb 2026"],
      ["USD", "1.25", "1.6"],
      ["JPY", "125", "160"],
    ];
    await post(await client.upload("Rates.xlsx", await workbookOf({ Rates: rates })));
    const draft = await client.upload("Country sales.xlsx", await workbookOf({ Sales: SALES }));
    await expectOutcome(client, draft, {
      totals: { "Sales Actual": 1000 + 800 + 4000 + (1100 + 812.5 + 3750) },
    });
  });

  it("converts with rates whose currencies are columns, written with a comma", async () => {
    const rates: Rows = [
      ["Monat", "USD", "JPY"],
      ["01.01.2026", "1,250", "125,000"],
      ["01.02.2026", "1,600", "160,000"],
    ];
    await post(await client.upload("Devisenkurse.csv", delimited(rates, ";")));
    const draft = await client.upload("Country sales.csv", delimited(SALES, ";"));
    await expectOutcome(client, draft, { totals: { "Sales Actual": 1000 + 800 + 4000 + (1100 + 812.5 + 3750) } });
  });

  it("asks which way round the rates are where nothing tells, and posts nothing before", async () => {
    const draft = await client.upload(
      "Exchange rates.csv",
      delimited(
        [
          ["Month", "Currency", "Rate"],
          ["2026-01", "USD", "1.08"],
          ["2026-02", "USD", "1.09"],
        ],
        ",",
      ),
    );
    expect(objections(draft)).toEqual([
      "Nothing says which way round the rates are. Choose whether they say what one unit of a currency costs in EUR, or what one EUR costs in it.",
    ]);
  });

  it("takes a currency that is written with the amount, and one that a column's head says", async () => {
    await bring("Exchange rates 2026.csv", RATES);
    const draft = await client.upload(
      "Shops.csv",
      delimited(
        [
          ["Month", "Shop", "Sales", "Rent (USD)"],
          ["2026-01", "A", "$1,000.00", "100.00"],
          ["2026-01", "B", "€2,000.00", "200.00"],
          ["2026-02", "A", "$1,300.00", "100.00"],
          ["2026-02", "B", "€2,100.00", "200.00"],
        ],
        ",",
      ),
    );
    await expectOutcome(client, draft, {
      totals: { "Sales Actual": 920 + 2000 + 1170 + 2100, "Rent Actual": 276 + 270 },
    });
  });
});

describe("Rates", () => {
  it("convert anew what they are the rates of, and do not go while something needs them", async () => {
    const first = await bring("Exchange rates 2026.csv", RATES);
    const sales = await bring("Country sales.csv", SALES);
    expect(await totalOf(sales)).toEqual([IN_EUROS]);
    // Balances, and months that nothing was converted for, are left alone.
    const corrected = await bring("Exchange rates corrected.csv", [RATES[0]!, ["2026-02", "USD", "0.95", "0.91"]]);
    expect(await totalOf(sales)).toEqual([IN_EUROS - 1300 * 0.9 + 1300 * 0.95]);
    expect((await undo(corrected)).status).toBe(200);
    expect(await totalOf(sales)).toEqual([IN_EUROS]);

    const refused = await undo(first);
    expect(refused.status).toBe(409);
    expect((refused.body as { detail: string }).detail).toBe(
      "Country sales.csv has amounts in JPY for January 2026, which would be left without a rate. Post other rates for that month first, or undo Country sales.csv.",
    );
    expect(await totalOf(sales)).toEqual([IN_EUROS]);
    expect((await undo(sales)).status).toBe(200);
    expect((await undo(first)).status).toBe(200);
    const redone = await api.send("POST", `/api/loads/${sales.loadId}/redo`, {});
    expect((redone.body as { detail: string }).detail).toMatch(/would be left without a rate/);
  });

  it("stay with the amounts, which say what they were", async () => {
    await bring("Exchange rates 2026.csv", RATES);
    await bring("Country sales.csv", SALES);
    const library = await client.get<LibraryKpi[]>("/api/kpis");
    const kpi = library.find(({ definition }) => definition.name === "Sales")!.definition.key;
    const lines = await client.get<SourceLinesAnswer>(
      `/api/provenance/lines?kpi=${kpi}&side=actual&period=2026-02&span=month`,
    );
    expect(lines.lines.map(({ amount, original }) => [amount, original])).toEqual([
      [3660, { amount: "600000", currency: "JPY" }],
      [1170, { amount: "1300.00", currency: "USD" }],
      [1100, null],
    ]);
  });

  it("convert balances at the month's end", async () => {
    await bring("Exchange rates 2026.csv", RATES);
    const draft = await client.upload(
      "Cash.csv",
      delimited(
        [
          ["Month", "Bank", "Currency", "Opening balance", "Movement", "Closing balance"],
          ["2026-01", "A", "USD", "0.00", "1000.00", "1000.00"],
          ["2026-02", "A", "USD", "1000.00", "500.00", "1500.00"],
          ["2026-01", "B", "EUR", "0.00", "10.00", "10.00"],
          ["2026-02", "B", "EUR", "10.00", "20.00", "30.00"],
        ],
        ",",
      ),
    );
    const job = await post(await client.change(draft, sayKind(draft.definition, "income")));
    const load = await client.get<LoadDetail>(`/api/loads/${job.loadId}`);
    expect(load.totals.find(({ account }) => account === "Closing balance")).toMatchObject({
      amount: String((1000 * 0.93 + 1500 * 0.91 + 40).toFixed(2)),
    });
  });

  it("are taken otherwise when an account turns out to keep a balance", async () => {
    await bring("Exchange rates 2026.csv", RATES);
    const sales = await bring("Country sales.csv", SALES);
    const { accounts } = await client.get<EditableStructure>("/api/structure");
    const { version, isUsed: _, ...item } = accounts[0]!;
    const changed = { do: "change", key: item.key, version, item: { ...item, kind: "asset", behaviour: "balance" } };
    const { status } = await api.send("POST", "/api/structure/accounts", changed);
    expect(status).toBe(200);
    // 1,000 × 0.93 + 500,000 × 0.0062, 1,300 × 0.91 + 600,000 × 0.0063
    expect(await totalOf(sales)).toEqual([1000 + 930 + 3100 + (1100 + 1183 + 3780)]);
  });

  it("are told when a month has two, or one that is no rate", async () => {
    const draft = await client.upload(
      "Exchange rates in EUR.csv",
      delimited(
        [
          ["Date", "Currency", "Rate"],
          ["2026-01-10", "USD", "0.92"],
          ["2026-01-11", "USD", "0.93"],
          ["2026-02-10", "USD", "0"],
        ],
        ",",
      ),
    );
    expect(objections(draft).join(" ")).toMatch(
      /1 line gives a second rate for the same currency and month: “USD in January 2026”/,
    );
    expect(objections(draft).join(" ")).toMatch(/1 line has a rate that is not above 0: “0”/);
  });

  it("leave no trace among accounts, datasets and KPIs", async () => {
    await bring("Exchange rates 2026.csv", RATES);
    const structure = await client.get<{ accounts: unknown[]; datasets: unknown[]; dimensions: unknown[] }>(
      "/api/structure",
    );
    expect([structure.accounts, structure.datasets, structure.dimensions]).toEqual([[], [], []]);
  });
});

describe("Converting in the database", () => {
  it("gives what converting on the way in gives, to the last unit", async () => {
    const own = await openOwnDatabase(inject("clusterUrl"), "conversions", { empty: true });
    try {
      const random = seeded(7);
      const cases = Array.from({ length: 400 }, (_, i) => ({
        units: Math.round((random() - 0.5) * 2 * 10 ** (3 + (i % 10))),
        decimals: i % 5,
        rate: { units: 1 + Math.floor(random() * 10 ** (5 + (i % 8))), priced: i % 2 ? "own" : "foreign" } as const,
        kept: i % 3,
      }));
      const { rows } = await own.knex.raw<{ rows: { amount: string }[] }>(
        `select ${CONVERTED} as amount
         from jsonb_to_recordset(?::jsonb) as own (i int, original_amount numeric, units bigint, priced text, kept int)
           cross join lateral (select own.kept as decimals) as account
           cross join lateral (select own.units as units, own.priced as priced) as rate
         order by i`,
        [
          JSON.stringify(
            cases.map(({ units, decimals, rate, kept }, i) => ({
              i,
              original_amount: writeDecimal({ units, decimals }, "."),
              ...rate,
              kept,
            })),
          ),
        ],
      );
      expect(rows.map(({ amount }) => Number(amount))).toEqual(
        cases.map(({ units, decimals, rate, kept }) => convertAmount({ units, decimals }, rate, kept)),
      );
    } finally {
      await own.drop();
    }
  });
});

/** Numbers from 0 to 1 that are the same in every run. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
    return state / 2 ** 31;
  };
}
