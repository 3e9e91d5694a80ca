import { describe, expect, it } from "vitest";
import { tidyTable } from "../tidy/tidy-run.ts";
import { columnNames } from "../reading/header.ts";
import { understandTable } from "./understand-table.ts";

const CALENDAR = { startMonth: 1 };
/** What a table becomes: its rows after the steps that it asks for. */
function rowsOf(text: string, { calendar = CALENDAR, name = "figures.csv" } = {}) {
  const lines = text
    .trim()
    .split("\n")
    .map((line) => line.split("|").map((cell) => cell.trim()));
  const grid = lines.map((cells, i) => ({ line: i + 1, cells })).filter(({ cells }) => cells.some((cell) => cell));
  const understood = understandTable(grid, { calendar, mark: ".", names: [name] })!;
  const at = grid.findIndex(({ line }) => line === understood.headerLine);
  const header = grid.slice(at, at + understood.headerRows).map(({ cells }) => cells);
  const columns = columnNames(header, Math.max(...lines.map((cells) => cells.length)));
  const { table } = tidyTable(
    [...understood.firstSteps, ...understood.steps],
    { columns, rows: grid.slice(at + understood.headerRows) },
    { mark: ".", calendar },
  );
  const hinted = table.columns.filter((column) => understood.hints[column]?.as !== "apart");
  const cells = table.rows.map((row) => hinted.map((column) => row.cells[table.columns.indexOf(column)] ?? ""));
  return { understood, columns: hinted, rows: cells };
}

describe("a table is understood", () => {
  it("with months over scenarios, and the differences left out", () => {
    const { columns, rows, understood } = rowsOf(`
      Sales by region, in EUR
      |Jan 2025|||Feb 2025||
      Region|Actual|Budget|Var|Actual|Budget|Var
      North|10|8|2|11|9|2
      South|20|21|-1|22|20|2`);
    expect(columns).toEqual(["Region", "Period", "Scenario", "Amount"]);
    expect(rows[0]).toEqual(["North", "2025-01", "Actual", "10"]);
    expect(rows).toHaveLength(8);
    expect(understood.hints["Jan 2025 Var"]).toEqual({
      as: "apart",
      why: "is a difference by its name: it follows from other columns",
    });
    expect(understood.title.measure).toContain("Sales");
  });
  it("with quarters over months, the year in the title and totals that add up", () => {
    const { rows, understood } = rowsOf(`
      Rent 2025
      |Q1|||Q2|||
      Site|Jan|Feb|Mar|Apr|May|Jun|Total
      Leeds|1|2|3|4|5|6|21
      York|2|2|2|2|2|2|12`);
    expect(rows[0]).toEqual(["Leeds", "2025-01", "1"]);
    expect(understood.hints["Q2 Total"] ?? understood.hints["Total"]).toMatchObject({ as: "apart" });
  });
  it("with fiscal years as columns and months as rows", () => {
    const { rows, columns } = rowsOf(
      `
      Month|FY24|FY25
      Jul|10|11
      Aug|12|13`,
      { calendar: { startMonth: 7 } },
    );
    expect(columns).toEqual(["Amount", "Period"]);
    expect(rows).toEqual([
      ["10", "2023-07"],
      ["11", "2024-07"],
      ["12", "2023-08"],
      ["13", "2024-08"],
    ]);
  });
  it("with a year and a period in columns of their own", () => {
    const { rows } = rowsOf(
      `
      Fiscal year|Period|Account|Amount
      2025|1|Rent|10
      2025|7|Rent|11`,
      { calendar: { startMonth: 7 } },
    );
    expect(rows.map((row) => row.at(-1))).toEqual(["2024-07", "2025-01"]);
  });
  it("with texts that are not repeated, and headings that stand alone", () => {
    expect(
      rowsOf(`
      Region|Month|Sales
      North|Jan 2025|1
      |Feb 2025|2
      South|Jan 2025|3
      |Feb 2025|4`).rows.map(([region]) => region),
    ).toEqual(["North", "North", "South", "South"]);
    const { rows, columns } = rowsOf(`
      Month|Sales
      North|
      Jan 2025|1
      Feb 2025|2
      South|
      Jan 2025|3`);
    expect(columns).toEqual(["Month", "Sales", "Group"]);
    expect(rows.map((row) => row.at(-1))).toEqual(["North", "North", "South"]);
  });
  it("and asked about where the year of the title may be the calendar's or the fiscal one", () => {
    const text = `
      Rent 2025
      Site|Aug|Sep
      Leeds|1|2`;
    expect(rowsOf(text).understood.otherYear).toBeNull();
    const { understood } = rowsOf(text, { calendar: { startMonth: 7 } });
    expect(understood.otherYear).toMatchObject({ year: 2025 });
    expect(JSON.stringify(understood.steps)).toContain("2025-08");
    expect(JSON.stringify(understood.otherYear!.steps)).toContain("2024-08");
  });
  it("and asked about where headings do not tell columns apart", () => {
    const { understood } = rowsOf(`
      Region|Sales|Sales
      North|1|2`);
    expect(understood.alike).toEqual(["Sales", "Sales (2)"]);
  });
  it("with amounts around 2,000 taken for amounts, and codes above columns for codes", () => {
    const { understood } = rowsOf(`
      |4711|4712
      Month|Sales|Sales
      Jan 2025|2019|2021
      Feb 2025|2025|1999
      Mar 2025|1874|2210`);
    expect(understood.headerRows).toBe(2);
    expect(understood.body.figures).toEqual([1, 2]);
    expect(understood.alike).toEqual([]);
  });
  it("with an amount that looks like a year below a month, which is an amount", () => {
    const { rows } = rowsOf(`
      Account|Jan 2025|Feb 2025|Mar 2025
      Rent|1500|1973|1600`);
    expect(rows.map((row) => row.slice(1))).toEqual([
      ["2025-01", "1500"],
      ["2025-02", "1973"],
      ["2025-03", "1600"],
    ]);
  });
});
