import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sameNumber, sumTexts } from "../figures/exact-sum.ts";
import type { TidyTable } from "./row.ts";
import type { TidyStep } from "./steps/index.ts";
import { sayStep } from "./steps/index.ts";
import { columnsThrough, startTidy, stepProblem, tidyTable, watchedColumns } from "./tidy-run.ts";

const CONTEXT = { mark: ".", calendar: { startMonth: 4 } } as const;
const table = (columns: string[], ...rows: string[][]): TidyTable => ({
  columns,
  rows: rows.map((cells, i) => ({ line: i + 2, cells })),
});
const run = (steps: TidyStep[], input: TidyTable) => {
  const { table: out } = tidyTable(steps, input, CONTEXT);
  return [out.columns, ...out.rows.map((row) => row.cells)];
};
const LEDGER = table(
  ["Account", "Centre", "Amount"],
  [" Fuel ", "SALES", "(1,200.00)"],
  ["", "deck crew", "5"],
  ["Total", "", "-1,195.00"],
);

describe("steps by arithmetic", () => {
  const CENTRES = table(
    ["Centre", "Item", "Jan", "Feb"],
    ["North", "Rent", "10", "20"],
    ["North", "Wages", "30.5", "40"],
    ["North", "", "40.5", "60"],
    ["South", "Rent", "5", "5"],
    // As much as the two above, by chance: it has all its texts.
    ["South", "Wages", "5", "5"],
    ["South", "Energy", "10", "10"],
    ["South", "", "20", "20"],
    ["All", "", "60.5", "80"],
  );
  it("skip subtotals and their sums, and nothing that is a sum by chance", () => {
    const left = run([{ kind: "skip-sums", columns: ["Jan", "Feb"] }], CENTRES).slice(1);
    expect(left.map((row) => row[1])).toEqual(["Rent", "Wages", "Rent", "Wages", "Energy"]);
  });
  it("write durations as numbers, in their unit", () => {
    const calls = table(["Time"], ["1:30:00"], ["0:20:00"], ["90:30"], ["-0:00:30"], ["soon"], [""]);
    const as = (unit: "hours" | "minutes" | "seconds") =>
      run([{ kind: "duration", columns: ["Time"], in: unit }], calls)
        .slice(1)
        .map((row) => row[0]);
    expect(as("hours")).toEqual(["1.500000", "0.333333", "1.508333", "-0.008333", "soon", ""]);
    expect(as("minutes")).toEqual(["90", "20", "90.5000", "-0.5000", "soon", ""]);
    expect(as("seconds")).toEqual(["5400", "1200", "5430", "-30", "soon", ""]);
  });
  it("take the differences of what runs on, apart for each", () => {
    const bank = table(
      ["Bank", "Day", "Balance"],
      ["A", "1", "100.00"],
      ["B", "1", "7"],
      ["A", "2", "80.5"],
      ["A", "3", ""],
      ["A", "4", "90.25"],
      ["B", "2", "7"],
    );
    const step: TidyStep = { kind: "difference", column: "Balance", by: ["Bank"], into: "Change" };
    expect(run([step], bank)[0]).toEqual(["Bank", "Day", "Balance", "Change"]);
    expect(
      run([step], bank)
        .slice(1)
        .map((row) => row[3]),
    ).toEqual(["100.00", "7", "-19.50", "", "9.75", "0"]);
    expect(sayStep(step)).toBe("Change: the change in Balance from the row before, by Bank");
  });
});

describe("steps", () => {
  it("do what they say", () => {
    const of = (step: TidyStep) => run([step], LEDGER).slice(1);
    expect(of({ kind: "trim", columns: ["Account"] })[0]).toEqual(["Fuel", "SALES", "(1,200.00)"]);
    expect(of({ kind: "case", columns: ["Centre"], to: "title" }).map((r) => r[1])).toEqual(["Sales", "Deck Crew", ""]);
    expect(of({ kind: "fill-down", columns: ["Account"] })[1]![0]).toBe(" Fuel ");
    expect(of({ kind: "skip-totals", words: ["total"] })).toHaveLength(2);
    expect(of({ kind: "flip-sign", columns: ["Amount"], where: null }).map((r) => r[2])).toEqual([
      "1200.00",
      "-5",
      "1195.00",
    ]);
    expect(
      of({ kind: "flip-sign", columns: ["Amount"], where: { column: "Centre", values: ["sales"] } }).map((r) => r[2]),
    ).toEqual(["1200.00", "5", "-1,195.00"]);
    expect(of({ kind: "filter", keep: false, column: "Account", test: "is empty", values: [] })).toHaveLength(2);
    expect(of({ kind: "filter", keep: true, column: "Centre", test: "contains", values: ["CREW"] })).toHaveLength(1);
    expect(of({ kind: "replace", columns: ["Centre"], find: "SALES", with: "$& Sales", whole: true })[0]![1]).toBe(
      "$& Sales",
    );
    expect(of({ kind: "replace", columns: ["Account"], find: "", with: "?", whole: true })[1]![0]).toBe("?");
    expect(of({ kind: "to-whole", columns: ["Amount"] }).map((r) => r[2])).toEqual(["-1200", "5", "-1195"]);
  });
  it("split, join and turn columns", () => {
    const input = table(
      ["Year", "Month", "Code", "Apr", "May"],
      ["2026", "04", "A-1-x", "1", ""],
      ["2026", "05", "B", "2", "3"],
    );
    expect(run([{ kind: "split", column: "Code", at: "-", into: ["Letter", "Rest"] }], input)[1]).toEqual([
      "2026",
      "04",
      "A",
      "1-x",
      "1",
      "",
    ]);
    expect(run([{ kind: "join", columns: ["Year", "Month"], with: "-", into: "Period" }], input)).toEqual([
      ["Period", "Code", "Apr", "May"],
      ["2026-04", "A-1-x", "1", ""],
      ["2026-05", "B", "2", "3"],
    ]);
    expect(
      run([{ kind: "unpivot", columns: ["Apr", "May"], nameInto: "Month name", valueInto: "Amount" }], input).slice(1),
    ).toEqual([
      ["2026", "04", "A-1-x", "Apr", "1"],
      ["2026", "05", "B", "Apr", "2"],
      ["2026", "05", "B", "May", "3"],
    ]);
  });
  it("merge duplicates to the last digit", () => {
    const input = table(["A", "Amount"], ["x", "0.1"], ["y", "1"], ["x", "0.2"], ["x", "(0.3)"]);
    expect(run([{ kind: "merge-duplicates", sum: ["Amount"] }], input).slice(1)).toEqual([
      ["x", "0.0"],
      ["y", "1"],
    ]);
  });
  it("make dates and texts", () => {
    const input = table(["When", "Code"], ["3.11.2026", "12.0"], ["soon", " 7 "]);
    expect(run([{ kind: "to-date", columns: ["When"], format: "day-first" }], input).slice(1)).toEqual([
      ["2026-11-03", "12.0"],
      ["soon", " 7 "],
    ]);
    expect(run([{ kind: "to-text", columns: ["Code"] }], input).slice(1)).toEqual([
      ["3.11.2026", "12"],
      ["soon", "7"],
    ]);
  });
  it("are said in words, each kind", () => {
    expect(sayStep({ kind: "filter", keep: false, column: "Account", test: "is", values: ["a", "b"] })).toBe(
      "Drop rows where Account is “a” or “b”",
    );
    expect(sayStep({ kind: "unpivot", columns: ["a", "b", "c"], nameInto: "x", valueInto: "y" })).toBe(
      "Turn a, b and 1 more into rows of x and y",
    );
  });
});

describe("effects", () => {
  it("are counted before and after each step, with the totals of what the amounts are made of", () => {
    const steps: TidyStep[] = [
      { kind: "skip-totals", words: ["total"] },
      { kind: "to-whole", columns: ["Amount"] },
    ];
    const input = table(["Account", "Amount"], ["a", "1.4"], ["b", "2.5"], ["Total", "3.9"]);
    const { before, effects } = tidyTable(steps, input, CONTEXT, ["Amount"]);
    expect(before).toMatchObject({ rows: 3, totals: { Amount: "7.8" } });
    expect(effects[0]).toMatchObject({ changed: 1, after: { rows: 2, totals: { Amount: "3.9" } } });
    expect(effects[0]!.examples).toEqual([{ line: 4, before: ["Total", "3.9"], after: [] }]);
    // Rounding moves the total, and the step says so.
    expect(effects[1]).toMatchObject({ changed: 2, after: { totals: { Amount: "4" } } });
  });
  it("follow the amounts back through columns that were turned, split and joined", () => {
    const steps: TidyStep[] = [
      { kind: "split", column: "Both", at: " ", into: ["Apr", "May"] },
      { kind: "unpivot", columns: ["Apr", "May"], nameInto: "Period", valueInto: "Amount" },
    ];
    expect(watchedColumns(steps, ["Amount"])).toEqual([["Both"], ["Apr", "May"], ["Amount"]]);
  });
  it("are the same whether the rows come at once or one by one, and totals never change unseen", () => {
    const cell = fc.oneof(
      fc.constantFrom("", "Total", " x", "X", "(1.50)", "2,000.25", "-3", "abc"),
      fc.string({ maxLength: 4 }),
    );
    const step: fc.Arbitrary<TidyStep> = fc.oneof(
      fc.record({ kind: fc.constant("trim" as const), columns: fc.subarray(["a", "b", "n"]) }),
      fc.record({
        kind: fc.constant("case" as const),
        columns: fc.subarray(["a", "b"]),
        to: fc.constantFrom("upper" as const, "lower" as const, "title" as const),
      }),
      fc.record({ kind: fc.constant("fill-down" as const), columns: fc.subarray(["a", "b"]) }),
      fc.record({ kind: fc.constant("merge-duplicates" as const), sum: fc.constant(["n"]) }),
      fc.constant<TidyStep>({ kind: "flip-sign", columns: ["n"], where: null }),
      fc.constant<TidyStep>({ kind: "flip-sign", columns: ["n"], where: null }),
    );
    fc.assert(
      fc.property(
        fc.array(fc.tuple(cell, cell, cell), { maxLength: 30 }),
        fc.array(step, { maxLength: 5 }),
        (rows, steps) => {
          const usable = steps.filter((s) => !("columns" in s) || s.columns.length > 0);
          const input = table(["a", "b", "n"], ...rows);
          const { effects, before } = tidyTable(usable, input, CONTEXT, ["n"]);
          const flips = usable.filter((s) => s.kind === "flip-sign").length;
          const total = sumTexts(Object.values((effects.at(-1)?.after ?? before).totals));
          const expected = sumTexts(Object.values(before.totals));
          expect(sameNumber(total, flips % 2 === 0 ? expected : negate(expected))).toBe(true);
          const out: string[][] = [];
          const alone = startTidy(usable, input.columns, {
            context: CONTEXT,
            valueColumns: ["n"],
            sink: (row) => void out.push([...row.cells]),
          });
          for (const row of input.rows) alone.take(row);
          alone.end();
          expect(out).toEqual(tidyTable(usable, input, CONTEXT).table.rows.map((row) => row.cells));
        },
      ),
    );
  });
});

function negate(text: string): string {
  return text.startsWith("-") ? text.slice(1) : `-${text}`;
}

describe("steps that cannot run", () => {
  it("say what is missing and what there is", () => {
    expect(stepProblem({ kind: "trim", columns: ["Gone"] }, ["A", "B"], CONTEXT)).toBe(
      "There is no column “Gone” here. Choose one of A, B.",
    );
    expect(stepProblem({ kind: "split", column: "A", at: "-", into: ["B", "C"] }, ["A", "B"], CONTEXT)).toContain(
      "There is a column “B” already",
    );
    expect(
      stepProblem({ kind: "unpivot", columns: ["A"], nameInto: "A", valueInto: "V" }, ["A", "B"], CONTEXT),
    ).toBeNull();
    expect(stepProblem({ kind: "trim", columns: [] }, ["A"], CONTEXT)).toContain("No column is chosen");
  });
  it("leave the steps before them running", () => {
    const steps: TidyStep[] = [
      { kind: "join", columns: ["A", "B"], with: " ", into: "AB" },
      { kind: "trim", columns: ["A"] },
    ];
    expect(columnsThrough(steps, ["A", "B"], CONTEXT)).toMatchObject({ columns: [["AB"]], problem: { step: 1 } });
  });
});

describe("steps that a file's headings ask for", () => {
  const table = (columns: string[], rows: string[][]) => ({
    columns,
    rows: rows.map((cells, i) => ({ line: i + 2, cells })),
  });
  const run = (steps: TidyStep[], columns: string[], rows: string[][]) => {
    const { table: made } = tidyTable(steps, table(columns, rows), CONTEXT);
    return [made.columns, ...made.rows.map((row) => row.cells)];
  };
  it("turn columns into rows by all that their headings say", () => {
    const step: TidyStep = {
      kind: "turn",
      turned: [
        { name: "Jan Act", texts: ["2025-01", "Actual"] },
        { name: "Jan Bud", texts: ["2025-01", "Budget"] },
      ],
      into: ["Period", "Scenario"],
      valueInto: "Amount",
    };
    expect(
      run(
        [step],
        ["Region", "Jan Act", "Jan Bud"],
        [
          ["North", "1", ""],
          ["South", "2", "3"],
        ],
      ),
    ).toEqual([
      ["Region", "Period", "Scenario", "Amount"],
      ["North", "2025-01", "Actual", "1"],
      ["South", "2025-01", "Actual", "2"],
      ["South", "2025-01", "Budget", "3"],
    ]);
  });
  it("make months of years and months, and leave what says none to be seen", () => {
    const step: TidyStep = {
      kind: "make-period",
      parts: [
        { column: "Year", is: "year" },
        { column: "Month", is: "month" },
      ],
      into: "Period",
      year: null,
      isFiscal: false,
    };
    expect(
      run(
        [step],
        ["Year", "Month", "A"],
        [
          ["2025", "7", "1"],
          ["2025", "Aug", "2"],
          ["2025", "?", "3"],
        ],
      ),
    ).toEqual([
      ["A", "Period"],
      ["1", "2025-07"],
      ["2", "2025-08"],
      ["3", "2025 ?"],
    ]);
  });
  it("take headings that stand alone to the rows below them, and to no total", () => {
    expect(
      run(
        [{ kind: "sections", into: "Group" }],
        ["Site", "A"],
        [
          ["North", ""],
          ["x", "1"],
          ["Total", "1"],
          ["South", ""],
          ["y", "2"],
        ],
      ),
    ).toEqual([
      ["Site", "A", "Group"],
      ["x", "1", "North"],
      ["Total", "1", ""],
      ["y", "2", "South"],
    ]);
  });
  it("write amounts in full, but not what is counted", () => {
    const step: TidyStep = {
      kind: "scale",
      columns: ["A"],
      by: 1000,
      except: { column: "Account", values: ["Headcount"] },
    };
    expect(
      run(
        [step],
        ["Account", "A"],
        [
          ["Sales", "1.5"],
          ["headcount", "12"],
        ],
      ),
    ).toEqual([
      ["Account", "A"],
      ["Sales", "1500"],
      ["headcount", "12"],
    ]);
  });
});
