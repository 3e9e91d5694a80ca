import { describe, expect, it } from "vitest";
import type { Account } from "../accounts/account.ts";
import { monthOf } from "../calendar/month.ts";
import { checkLoad, mayPost } from "../checks/check-load.ts";
import { overlapping } from "../checks/already-posted.ts";
import { factHashes } from "../reading/fact-hash.ts";
import { startLoad, type LoadRules } from "../checks/load-run.ts";
import { NumberSet } from "../reading/number-set.ts";
import { statedControl, totalRowControl } from "../checks/control-total.ts";
import { profileColumns } from "../reading/column-profile.ts";
import { mappingProblems, signOf } from "./map-rows.ts";
import type { Mapping } from "./mapping.ts";
import type { MappingView } from "./mapping-view.ts";
import { indexNames, newKey, plainName, proposeNames } from "../reading/names.ts";
import { markOf } from "./table-mark.ts";
import { proposeMapping } from "./propose.ts";
import { proposeSteps } from "./propose-steps.ts";
import { understandTable } from "./understand-table.ts";
import type { CheckContext, PostedSlice } from "../checks/check-context.ts";

const account = (key: string, name: string, kind: Account["kind"], more: Partial<Account> = {}): Account => ({
  key,
  name,
  parent: null,
  kind,
  behaviour: "flow",
  unit: { kind: "money" },
  decimals: 2,
  ...more,
});
const ACCOUNTS = [
  account("sales", "Sales", "income"),
  account("costs", "Costs", "expense"),
  account("fuel", "Fuel", "expense", { parent: "costs", aliases: ["Bunker oil"] }),
  account("crew", "Crew", "expense", { parent: "costs" }),
  account("guests", "Guests", "statistic", { unit: { kind: "count", of: "guests" }, decimals: 0 }),
];
const VIEW: MappingView = {
  currency: "EUR",
  rates: new Map(),
  calendar: { startMonth: 4 },
  accounts: ACCOUNTS,
  dimensions: [
    {
      key: "shop",
      name: "Shop",
      plural: "shops",
      levels: ["Shop"],
      members: [
        { key: "harbour", name: "Harbour", parent: null },
        { key: "market", name: "Market", parent: null, isRetired: true },
      ],
    },
  ],
  scenarios: [
    { key: "actual", name: "Actual", kind: "actual", madeAfter: null },
    { key: "budget", name: "Budget", kind: "budget", madeAfter: null },
  ],
  datasets: [
    {
      key: "books",
      name: "Books",
      grain: "month",
      dimensions: ["shop"],
      accounts: new Set(["sales", "fuel", "crew", "guests"]),
      keeps: new Map(),
    },
  ],
};
const MAPPING: Mapping = {
  dataset: "books",
  columns: {
    Period: { as: "period" },
    Account: { as: "account" },
    Shop: { as: "dimension", dimension: "shop" },
    Amount: { as: "amount", account: null, scenario: null },
    Units: { as: "quantity", account: null, scenario: null },
    Doc: { as: "reference" },
  },
  dateFormat: "iso",
  fixed: { scenario: "actual", account: null, month: null },
  sign: "result",
  fractions: "stop",
  accounts: {},
  scenarios: {},
  members: {},
  creates: { dataset: null, dimensions: [], accounts: [] },
};
const RULES: LoadRules = { steps: [], mapping: MAPPING, rejectedLines: [], rejectedRules: [] };
const COLUMNS = ["Period", "Account", "Shop", "Amount", "Units", "Doc"];
const load = (rows: string[][], rules: Partial<LoadRules> = {}, mapping: Partial<Mapping> = {}) => {
  const facts: unknown[] = [];
  const run = startLoad({ ...RULES, ...rules, mapping: { ...MAPPING, ...mapping } }, COLUMNS, {
    view: VIEW,
    mark: ".",
    onFact: ({ fact, line }) => void facts.push([line, fact.account, fact.amount, fact.members["shop"] ?? null]),
  });
  rows.forEach((cells, i) => run.take({ line: i + 2, cells }));
  return { facts, result: run.end() };
};
const context = (more: Partial<CheckContext> = {}): CheckContext => ({
  view: VIEW,
  rules: RULES,
  answers: { control: null, acceptsDifference: false, posting: "new" },
  control: null,
  posted: [],
  history: [],
  ...more,
});
const NOVEMBER = monthOf(2026, 11);

describe("names", () => {
  it("are the same whatever their case, spaces, dashes and Unicode form", () => {
    expect(plainName("  FLEET\u00a0 operations ")).toBe(plainName("Fleet operations"));
    expect(plainName("Tarn Point–Osk")).toBe(plainName("tarn point - osk"));
    expect(plainName("Cafe\u0301")).toBe(plainName("Café"));
  });
  it("find things by name, alias and key, and nothing when several are meant", () => {
    const index = indexNames([...ACCOUNTS, account("x1", "Twin", "income"), account("x2", "TWIN", "income")]);
    expect([
      index.get("bunker oil"),
      index.get("fuel"),
      index.get("guests"),
      index.get("twin"),
      index.get("x1"),
    ]).toEqual(["fuel", "fuel", "guests", undefined, "x1"]);
  });
  it("are proposed by likeness, the likest first", () => {
    expect(proposeNames("Fule", ACCOUNTS)[0]?.key).toBe("fuel");
    expect(proposeNames("Crew overtime", ACCOUNTS)[0]?.key).toBe("crew");
    expect(proposeNames("Zzyzx", ACCOUNTS)).toEqual([]);
  });
  it("make keys that are free and plain in any script", () => {
    expect(newKey("Café Noir!", new Set(["cafe-noir"]), "-")).toBe("cafe-noir-2");
    expect(newKey("海运", new Set(), "_")).toMatch(/^x[a-z0-9]+$/);
    expect(newKey("2026 plan", new Set(), "_")).toBe("x_2026_plan");
  });
});

describe("rows", () => {
  it("become facts in their account's own direction, amounts and quantities told apart", () => {
    const { facts, result } = load([
      ["2026-11", "SALES", "harbour", "1,000.50", "", "a"],
      ["2026-11", "bunker oil", "", "(20.25)", "", "b"],
      ["2026-11", "Guests", "Market", "", "12", "c"],
    ]);
    expect(facts).toEqual([
      [2, "sales", 100050, "harbour"],
      [3, "fuel", 2025, null],
      [4, "guests", 12, "market"],
    ]);
    expect(result).toMatchObject({ facts: 3, amountInFile: "980.25", amountInFacts: "980.25", quantityInFacts: "12" });
    expect([...result.usedMembers.get("shop")!]).toEqual(["harbour", "market"]);
  });
  it("say why they do not, each with its column and value", () => {
    const { result } = load([
      ["2026-11", "Harbour levy", "", "1", "", ""],
      ["2026-11", "Costs", "", "1", "", ""],
      ["2026-11", "Fuel", "Pier", "1", "", ""],
      ["", "Fuel", "", "1", "", ""],
      ["soon", "Fuel", "", "1", "", ""],
      ["2026-11", "Fuel", "", "", "", ""],
      ["2026-11", "Fuel", "", "=A1", "", ""],
      ["2026-11", "Guests", "", "", "2.5", ""],
      ["2026-11", "Fuel", "", "999999999999999", "", ""],
    ]);
    expect(result.faults.map((f) => [f.rule, f.lines[0]?.line, f.lines[0]?.column, f.lines[0]?.value])).toEqual([
      ["unknown-account", 2, "Account", "Harbour levy"],
      ["parent-account", 3, "Account", "Costs"],
      ["unknown-member", 4, "Shop", "Pier"],
      ["no-period", 5, "Period", ""],
      ["unreadable-period", 6, "Period", "soon"],
      ["no-amount", 7, "Amount", ""],
      ["unreadable-amount", 8, "Amount", "=A1"],
      ["fraction", 9, "Units", "2.5"],
      ["too-large", 10, "Amount", "999999999999999"],
    ]);
  });
  it("follow a person's decisions about names, lines and fractions", () => {
    const rows = [
      ["2026-11", "Harbour levy", "Pier", "(5)", "", ""],
      ["2026-11", "Gifts", "", "7", "", ""],
      ["2026-11", "Guests", "", "", "2.5", ""],
      ["2026-11", "Fuel", "", "(1)", "", ""],
    ];
    const { facts, result } = load(
      rows,
      { rejectedLines: [5] },
      {
        fractions: "round",
        accounts: { "HARBOUR  levy": { create: { name: "Harbour levy", parent: "costs" } }, Gifts: { reject: true } },
        members: { shop: { Pier: { create: { name: "Pier", parent: null } } } },
      },
    );
    expect(facts).toEqual([
      [2, "harbour_levy", 500, "pier"],
      [4, "guests", 3, null],
    ]);
    expect(result.newAccounts).toMatchObject([{ key: "harbour_levy", parent: "costs", kind: "expense" }]);
    expect(result.newMembers).toEqual([{ dimension: "shop", key: "pier", name: "Pier", parent: null }]);
    expect(result.faults.map((f) => f.rule)).toEqual(["rejected-name", "rejected-line"]);
    expect(result.roundedLines).toBe(1);
  });
  it("sign by rule and kind", () => {
    const signs = (rule: Mapping["sign"]) =>
      (["income", "expense", "asset", "liability", "equity", "statistic"] as const).map((kind) =>
        signOf(rule, { kind }),
      );
    expect(signs("own")).toEqual([1, 1, 1, 1, 1, 1]);
    expect(signs("result")).toEqual([1, -1, 1, -1, -1, 1]);
    expect(signs("debit")).toEqual([-1, 1, 1, -1, -1, 1]);
    expect(signs("flipped")).toEqual([-1, -1, -1, -1, -1, -1]);
  });
  it("take scenarios and accounts from their columns where they are laid out so", () => {
    const mapping: Mapping = {
      ...MAPPING,
      sign: "own",
      fixed: { scenario: null, account: "sales", month: "2026-11" },
      columns: {
        Plan: { as: "amount", account: null, scenario: "budget" },
        Real: { as: "amount", account: null, scenario: "actual" },
      },
    };
    const seen: unknown[] = [];
    const run = startLoad({ ...RULES, mapping }, ["Plan", "Real"], {
      view: VIEW,
      mark: ".",
      onFact: ({ fact }) => void seen.push([fact.scenario, fact.month, fact.amount]),
    });
    run.take({ line: 2, cells: ["10", "9"] });
    run.take({ line: 3, cells: ["", "1"] });
    run.end();
    expect(seen).toEqual([
      ["budget", NOVEMBER, 1000],
      ["actual", NOVEMBER, 900],
      ["actual", NOVEMBER, 100],
    ]);
  });
  it("cannot be mapped while something is missing, and say what", () => {
    expect(mappingProblems(MAPPING, COLUMNS, VIEW)).toEqual([]);
    const bare = { ...MAPPING, columns: {}, fixed: { scenario: null, account: null, month: null } };
    expect(mappingProblems(bare, COLUMNS, VIEW).join(" ")).toMatch(/period.*amount/s);
    expect(mappingProblems({ ...MAPPING, dataset: "gone" }, COLUMNS, VIEW)[0]).toContain("No dataset is chosen");
  });
});

describe("checks", () => {
  const rows = [["2026-11", "Sales", "harbour", "100", "", "d1"]];
  const rules = (more: Partial<CheckContext>, given = rows) =>
    checkLoad(load(given).result, context(more)).map((f) => [f.rule, f.severity, f.answer]);
  const slice = (more: Partial<PostedSlice> = {}): PostedSlice => ({
    loadId: 1,
    fileName: "first.csv",
    scenario: "actual",
    month: NOVEMBER,
    days: null,
    accounts: new Set(["sales"]),
    ...more,
  });

  it("agree with the control figure, stop at a difference, and let a person accept it", () => {
    expect(rules({ control: "100.00" })).toEqual([["control-total", "note", null]]);
    expect(rules({ control: "100.01" })).toEqual([["control-total", "stop", null]]);
    const answers = { control: "100.01", acceptsDifference: true, posting: "new" as const };
    const found = checkLoad(load(rows).result, context({ control: "100.01", answers }));
    expect(mayPost(found)).toBe(true);
    expect(found[0]?.message).toContain("a difference of −0.01");
  });
  it("find what is posted already by scenario, month, day and account", () => {
    const result = load(rows).result;
    expect(overlapping(result, [slice()])).toHaveLength(1);
    expect(
      overlapping(result, [
        slice({ scenario: "budget" }),
        slice({ month: NOVEMBER - 1 }),
        slice({ accounts: new Set(["fuel"]) }),
      ]),
    ).toEqual([]);
    const daily = { ...result, months: [{ scenario: "actual", month: NOVEMBER, days: 0b1100 }] };
    expect(overlapping(daily, [slice({ days: 0b0011 })])).toEqual([]);
    expect(overlapping(daily, [slice({ days: 0b0111 })])).toHaveLength(1);
    expect(rules({ posted: [slice()] })[0]).toEqual(["already-posted", "stop", null]);
  });
  it("miss periods, accounts and retired members, and notice what is far from usual", () => {
    const history = Array.from({ length: 12 }, (_, i) => [
      { account: "sales", month: NOVEMBER - 12 + i, amount: 100_00 + i },
      { account: "crew", month: NOVEMBER - 12 + i, amount: 5_00 },
    ]).flat();
    const found = (given: string[][], posted: PostedSlice[] = []) =>
      checkLoad(load(given).result, context({ history, posted })).map((f) => f.rule);
    expect(
      found([
        ["2026-11", "Sales", "", "100", "", ""],
        ["2026-11", "Crew", "", "(5)", "", ""],
      ]),
    ).toEqual(["control-total"]);
    expect(found([["2026-11", "Sales", "Market", "9000", "", ""]])).toEqual([
      "silent-account",
      "outlier",
      "retired",
      "control-total",
    ]);
    expect(
      found(
        [
          ["2026-11", "Sales", "", "100", "", ""],
          ["2026-11", "Crew", "", "(5)", "", ""],
        ],
        [slice({ month: NOVEMBER - 2 })],
      ),
    ).toContain("missing-period");
  });
  it("refuse an account that another dataset keeps", () => {
    const other = {
      key: "other",
      name: "Other",
      grain: "month" as const,
      dimensions: [],
      accounts: new Set(["sales"]),
      keeps: new Map([["actual", new Set(["sales"])]]),
    };
    expect(rules({ view: { ...VIEW, datasets: [...VIEW.datasets, other] } })[0]).toEqual([
      "kept-elsewhere",
      "stop",
      null,
    ]);
  });
  it("find lines that stand twice, and doubles of what was posted in another month", () => {
    const twice = [rows[0]!, rows[0]!, ["2026-11", "Sales", "harbour", "100", "", "d2"]];
    expect(rules({}, twice)[0]).toEqual(["repeated-line", "warn", null]);
    const fact = {
      scenario: "actual",
      account: "sales",
      month: NOVEMBER - 1,
      day: null,
      members: { shop: "harbour" },
      amount: 100_00,
      reference: "d1",
    };
    const run = startLoad(RULES, COLUMNS, {
      view: VIEW,
      mark: ".",
      posted: new Map([[factHashes(fact).content, NOVEMBER - 1]]),
    });
    run.take({ line: 2, cells: rows[0]! });
    expect(run.end().doubles).toMatchObject([{ line: 2, value: "d1", month: NOVEMBER - 1 }]);
  });
  it("read the control figure of a preamble or of the one total row", () => {
    expect(statedControl([["Ledger"], ["Control total: (1,234.50)"]], ".")).toBe("-1234.50");
    expect(statedControl([["Sum", "", "12,5"]], ",")).toBe("12.5");
    expect(statedControl([["October ledger 2026"]], ".")).toBeNull();
    const steps = [{ kind: "skip-totals" as const, words: ["total"] }];
    const { result } = load([...rows, ["Total", "", "", "100.00", "", ""]], { steps });
    const where = { columns: [COLUMNS], amountColumns: [["Amount"]], mark: "." as const };
    expect(totalRowControl(steps, result.effects, where)).toBe("100.00");
  });
});

describe("hashes", () => {
  it("tell facts apart by everything in them, and places by date and scenario too", () => {
    const fact = {
      scenario: "actual",
      account: "sales",
      month: NOVEMBER,
      day: 3,
      members: { shop: "harbour" },
      amount: 5,
      reference: "a",
    };
    const others = [
      { amount: 6 },
      { amount: 5 + 2 ** 32 },
      { account: "sale" },
      { reference: "sa" },
      { members: { shop: "market" } },
      { members: {} },
    ];
    const contents = [fact, ...others.map((o) => ({ ...fact, ...o }))].map((f) => factHashes(f).content);
    expect(new Set(contents).size).toBe(contents.length);
    const places = [{}, { month: NOVEMBER + 1 }, { day: 4 }, { scenario: "budget" }].map((o) =>
      factHashes({ ...fact, ...o }),
    );
    expect(new Set(places.map((p) => p.content)).size).toBe(1);
    expect(new Set(places.map((p) => p.place)).size).toBe(4);
  });
  it("are kept in a set that agrees with a plain one", () => {
    const [own, plain] = [new NumberSet(), new Set<number>()];
    for (let i = 0; i < 20_000; i += 1) {
      const value = ((i * 7919) % 9_001) * 2 ** 39 + 1;
      expect(own.add(value)).toBe(!plain.has(value));
      plain.add(value);
    }
    expect([own.size, own.has(2), own.has([...plain][0]!)]).toEqual([plain.size, false, true]);
  });
});

describe("the decimal mark of a file", () => {
  const mark = (...columns: string[][]) =>
    markOf(
      profileColumns(
        columns.map((_, i) => `Column ${i}`),
        columns[0]!.map((_, row) => columns.map((column) => column[row]!)),
        VIEW.calendar,
      ),
    );
  it("is told by the columns that have decimals, whatever others hold", () => {
    expect(mark(["100,50", "7,25"], ["1", "2"], ["3", "4"])).toBe(",");
    expect(mark(["100.50", "7.25"], ["1", "2"])).toBe(".");
  });
  it("is the point where nothing tells", () => {
    expect(mark(["1,234", "5,678"], ["1", "2"])).toBe(".");
  });
});

describe("proposals", () => {
  const propose = (columns: string[], rows: string[][], fileName: string) => {
    const sample = { columns, rows };
    return proposeMapping(profileColumns(columns, rows, VIEW.calendar), sample, { view: VIEW, fileName });
  };
  const meanings = (mapping: Mapping) =>
    Object.fromEntries(Object.entries(mapping.columns).map(([name, m]) => [name, m.as]));

  it("know a ledger by its accounts, and its signs by its expenses", () => {
    const rows = [
      ["2026-11", "Sales", "Harbour", "100", "J1"],
      ["2026-11", "Fuel", "Market", "(20)", "J2"],
      ["2026-11", "Crew", "Harbour", "-5", "J3"],
    ];
    const mapping = propose(["Month", "What", "Where", "EUR", "Journal no"], rows, "ledger.csv");
    expect(meanings(mapping)).toEqual({
      Month: "period",
      What: "account",
      Where: "dimension",
      EUR: "amount",
      "Journal no": "reference",
    });
    expect(mapping).toMatchObject({ dataset: "books", sign: "result", fixed: { scenario: "actual" } });
  });
  it("make a dataset of a plain table with budget and actual side by side", () => {
    const rows = [
      ["2026-04", "Kitchen", "100", "90"],
      ["2026-05", "Kitchen", "100", "95"],
      ["2026-05", "Garden", "50", "40"],
    ];
    const mapping = propose(["Month", "Department", "Budget", "Actual"], rows, "department-spending.csv");
    expect(mapping.creates).toMatchObject({
      dataset: { name: "Department spending", grain: "month" },
      dimensions: [{ name: "Department" }],
      accounts: [{ kind: "expense" }],
    });
    expect(mapping.columns["Budget"]).toMatchObject({ as: "amount", scenario: "budget" });
    expect(mapping.fixed.account).toBe(mapping.creates.accounts[0]?.key);
  });
  it("make accounts of the measures of a sales list", () => {
    const rows = Array.from({ length: 40 }, (_, i) => [
      `2026-04-${String((i % 28) + 1).padStart(2, "0")}`,
      `O-${i}`,
      i % 2 ? "Bread" : "Cake",
      String(i + 1),
      `${i + 0.5}`,
      "2.5",
    ]);
    const mapping = propose(["Date", "Order id", "Product", "Qty", "Revenue", "Unit price"], rows, "orders 2026.csv");
    expect(meanings(mapping)).toEqual({
      Date: "period",
      "Order id": "reference",
      Product: "dimension",
      Qty: "quantity",
      Revenue: "amount",
      "Unit price": "ignore",
    });
    expect(mapping.creates.accounts.map((a) => [a.name, a.kind])).toEqual([
      ["Qty", "statistic"],
      ["Revenue", "income"],
    ]);
  });
  it("turn months laid out as columns, and skip totals", () => {
    const columns = ["Account", "Apr 2026", "May 2026"];
    const rows = [
      ["Fuel", "1", "2"],
      ["Total", "1", "2"],
    ];
    const grid = [columns, ...rows].map((cells, i) => ({ line: i + 1, cells }));
    const understood = understandTable(grid, { calendar: VIEW.calendar, mark: ".", names: [] });
    const steps = proposeSteps({ columns, rows }, VIEW, { title: "", understood });
    expect(steps.map((s) => s.kind)).toEqual(["skip-totals", "skip-notes", "unpivot"]);
  });
});
