import { describe, expect, it } from "vitest";
import { proposeLookUp } from "../mapping/propose-look-ups.ts";
import type { LookupTable } from "./lookup-table.ts";
import { tidyTable, stepProblem } from "./tidy-run.ts";

const TABLE: LookupTable = {
  key: "t",
  name: "Accounts",
  columns: ["No", "Name", "Class"],
  rows: [
    ["0042", "Rent", "Costs"],
    ["4000", "Sales", "Revenue"],
    ["DK-1", "Deck", "Costs"],
  ],
};
const CONTEXT = { mark: ".", calendar: { startMonth: 1 }, tables: new Map([["t", TABLE]]) } as const;
const STEP = {
  kind: "look-up",
  table: "t",
  named: "Accounts",
  column: "Account",
  by: "No",
  take: [{ column: "Name", into: "Account name" }],
} as const;
const rows = (...accounts: string[]) => ({
  columns: ["Account", "Amount"],
  rows: accounts.map((account, i) => ({ line: i + 2, cells: [account, "1"] })),
});

describe("a look-up", () => {
  it("finds whatever the case, spaces, or zeros that a program took off, and says what it did not find", () => {
    const { table, effects } = tidyTable([STEP], rows("4000", "42", "0042 ", "dk-1", "4001", "", "4001"), CONTEXT);
    expect(table.columns).toEqual(["Account", "Amount", "Account name"]);
    expect(table.rows.map(({ cells }) => cells[2])).toEqual(["Sales", "Rent", "Rent", "Deck", "", "", ""]);
    expect(effects[0]!.missed).toEqual({ lines: 2, texts: ["4001"] });
  });
  it("says why it cannot run", () => {
    const at = (change: object) => stepProblem({ ...STEP, ...change }, ["Account", "Amount"], CONTEXT);
    expect(at({})).toBeNull();
    expect(at({ table: "gone" })).toMatch(/“Accounts” is no longer there/);
    expect(at({ by: "Number" })).toMatch(/“Accounts” has no column “Number”/);
    expect(at({ take: [] })).toMatch(/Choose at least one/);
    expect(at({ take: [{ column: "Name", into: "Amount" }] })).toMatch(/a column “Amount” already/);
    const twice = { ...TABLE, key: "u", rows: [...TABLE.rows, ["4000", "Turnover", "Revenue"]] };
    const context = { ...CONTEXT, tables: new Map([["u", twice]]) };
    expect(stepProblem({ ...STEP, table: "u" }, ["Account"], context)).toMatch(/several rows for “4000”/);
    // Rows that say the same of what is taken do no harm.
    const take = [{ column: "Class", into: "Class" }];
    expect(stepProblem({ ...STEP, table: "u", take }, ["Account"], context)).toBeNull();
  });
  it("is proposed where a table names nearly all that a column says, and not by chance", () => {
    const sample = (...accounts: string[]) => ({ columns: ["Account", "Name"], rows: accounts.map((a) => [a, "x"]) });
    expect(proposeLookUp(sample("4000", "42", "DK-1"), TABLE)).toMatchObject({
      column: "Account",
      by: "No",
      take: [
        { column: "Name", into: "Name 2" },
        { column: "Class", into: "Class" },
      ],
    });
    expect(proposeLookUp(sample("4000", "4000"), TABLE)).toBeUndefined();
    expect(proposeLookUp(sample("4000", "42", "7", "8", "9"), TABLE)).toBeUndefined();
  });
});
