import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { present, absent, isPresent } from "../figures/figure.ts";
import { NAMES } from "../testing/small-company.ts";
import { compileFormula } from "./compile.ts";
import { evaluateDifference, evaluateFormula } from "./evaluate.ts";
import type { Expression } from "./expression.ts";
import { MAX_FORMULA_DEPTH, parseFormula } from "./parse.ts";
import { printFormula } from "./print.ts";

const names = {
  ...NAMES,
  kpis: new Map([
    ["profit", "sales - cost"],
    ["margin", "profit / sales"],
    ["loop_a", "loop_b"],
    ["loop_b", "loop_a + sales"],
  ]),
};
const compile = (text: string) => compileFormula(text, names);
const evaluate = (text: string, amounts: Readonly<Record<string, number>>) => {
  const result = compile(text);
  if (!result.ok) throw new Error(result.problem.message);
  return evaluateFormula(
    result.value,
    result.value.inputs.map((input) => present(input.kind === "account" ? amounts[input.account]! : 0)),
  );
};

describe("reading and printing", () => {
  const leaf = fc.oneof(
    fc.constantFrom("sales", "cost", "profit").map((name): Expression => ({ kind: "name", name, from: 0, to: 0 })),
    fc.constantFrom("1", "0.25", "12").map((text): Expression => ({ kind: "number", text, from: 0, to: 0 })),
    fc.constantFrom("closing", "average").map((gathering): Expression => ({
      kind: "call",
      name: gathering,
      nameRange: { from: 0, to: 0 },
      arguments: [{ option: null, value: { kind: "name", name: "till", from: 0, to: 0 }, from: 0, to: 0 }],
      from: 0,
      to: 0,
    })),
  );
  const { tree } = fc.letrec<{ tree: Expression }>((tie) => ({
    tree: fc.oneof(
      { maxDepth: 5 },
      leaf,
      tie("tree").map((operand): Expression => ({ kind: "negation", operand, from: 0, to: 0 })),
      fc
        .tuple(fc.constantFrom("+" as const, "-" as const, "*" as const, "/" as const), tie("tree"), tie("tree"))
        .map(([operator, left, right]): Expression => ({ kind: "binary", operator, left, right, from: 0, to: 0 })),
    ),
  }));
  const shape = (e: Expression): unknown =>
    JSON.parse(
      JSON.stringify(e, (key, value: unknown) => (["from", "to", "nameRange"].includes(key) ? undefined : value)),
    );

  it("gives back the same tree from what it prints", () => {
    fc.assert(
      fc.property(tree, (expression) => {
        const read = parseFormula(printFormula(expression));
        expect(read.ok && shape(read.value)).toEqual(shape(expression));
      }),
      { numRuns: 500 },
    );
  });
  it("never throws, and always says where", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 60 }), (text) => {
        const read = parseFormula(text);
        if (read.ok) return;
        expect(read.problem.message).not.toBe("");
        expect(read.problem.from).toBeGreaterThanOrEqual(0);
        expect(read.problem.to).toBeLessThanOrEqual(Math.max(text.length, 0));
      }),
      { numRuns: 1000 },
    );
  });
  it("points at what is wrong", () => {
    const read = parseFormula("sales + * cost");
    expect(read).toMatchObject({ ok: false, problem: { from: 8 } });
    expect(parseFormula("sales -")).toMatchObject({
      ok: false,
      problem: { message: expect.stringContaining("breaks off") as string },
    });
  });
  it("refuses what looks at too many times and members", () => {
    const averaged = (months: number) => `moving_average(moving_average(sales, ${months}), ${months})`;
    expect(compile(averaged(12)).ok).toBe(true);
    const result = compile(`1 + ${averaged(36)}`);
    expect(result.ok || result.problem).toMatchObject({
      message:
        "The formula looks at more than 500 different times and members. Choose a higher level, or fewer months.",
      from: 19,
    });
  });
  it("refuses what is too long or too deep", () => {
    expect(parseFormula("x".repeat(1_000_000)).ok).toBe(false);
    const depth = MAX_FORMULA_DEPTH + 1;
    expect(parseFormula("(".repeat(depth) + "sales" + ")".repeat(depth)).ok).toBe(false);
  });
});

describe("meaning", () => {
  it("suggests the nearest name", () => {
    expect(compile("salse - cost")).toMatchObject({
      ok: false,
      problem: { from: 0, to: 5, message: 'There is no account or KPI "salse". Is "sales" meant?' },
    });
  });
  it("shows a cycle", () => {
    const result = compile("loop_a");
    expect(result.ok ? "" : result.problem.message).toContain("loop_a → loop_b → loop_a");
  });
  it("refuses to mix a balance and a flow without saying how, naming both", () => {
    for (const text of ["till + sales", "sales - till", "till / sales"]) {
      const result = compile(text);
      expect(result.ok ? "" : result.problem.message).toMatch(
        /"till" is a balance and "sales" a flow: say closing\(till\) or average\(till\)/,
      );
    }
    expect(compile("closing(till) + sales").ok).toBe(true);
    expect(compile("average(till) / sales").ok).toBe(true);
  });
  it("refuses to add money to loaves, and to gather a flow as a balance", () => {
    expect(compile("sales + loaves")).toMatchObject({
      ok: false,
      problem: { message: expect.stringContaining("cannot be added") as string },
    });
    expect(compile("closing(sales)").ok).toBe(false);
    expect(compile("median(till)")).toMatchObject({ ok: false, problem: { from: 0, to: 6 } });
  });
  it("infers units and behaviour", () => {
    const unit = (text: string) => {
      const r = compile(text);
      return r.ok ? [r.value.unit.kind, r.value.behaviour] : r.problem;
    };
    expect(unit("sales - cost")).toEqual(["money", "flow"]);
    expect(unit("sales / cost")).toEqual(["plain", "rate"]);
    expect(unit("sales / loaves")).toEqual(["per", "rate"]);
    expect(unit("sales * 0.2")).toEqual(["money", "flow"]);
    expect(unit("till")).toEqual(["money", "balance"]);
  });
  it("reads each input once, also through KPIs", () => {
    const result = compile("profit / sales + margin");
    expect(result.ok && result.value.inputs.map((i) => i.kind === "account" && i.account)).toEqual(["sales", "cost"]);
  });
});

describe("evaluation", () => {
  it("calculates by hand-checked examples, in major units", () => {
    expect(evaluate("sales - cost", { sales: 100_000, cost: 64_999 })).toEqual({ value: 350.01 });
    expect(evaluate("sales / loaves", { sales: 100_000, loaves: 400 })).toEqual({ value: 2.5 });
    expect(evaluate("-(sales - cost) * 0.5", { sales: 300, cost: 100 })).toEqual({ value: -1 });
    expect(evaluate("good_loaves / loaves * 10000", { good_loaves: 1, loaves: 4 })).toEqual({ value: 2500 });
  });
  it("makes division by zero an absence", () => {
    expect(evaluate("sales / loaves", { sales: 1, loaves: 0 })).toMatchObject({ absent: "division by zero" });
  });
  it("lets an absent input make the result absent", () => {
    const result = compile("sales - cost");
    const none = absent("not covered", "no cost");
    expect(result.ok && evaluateFormula(result.value, [present(1), none])).toBe(none);
  });
  it("keeps sums exact where floating point in major units would not", () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e14, max: 1e14 }), fc.integer({ min: -1e14, max: 1e14 }), (a, b) => {
        expect(evaluate("sales - cost", { sales: a, cost: b })).toEqual({
          value: (a - b) / 100 === 0 ? 0 : (a - b) / 100,
        });
      }),
    );
    expect(evaluate("sales - cost", { sales: 30, cost: 20 })).toEqual({ value: 0.1 });
  });
  it("takes differences exactly", () => {
    const result = compile("sales - cost");
    if (!result.ok) throw new Error(result.problem.message);
    const delta = evaluateDifference(result.value, [present(30), present(0)], [present(20), present(0)]);
    expect(isPresent(delta) && delta.value).toBe(0.1);
  });
});

describe("malformed and hostile formulas", () => {
  const WORDS = ["sales", "cost", "till", "profit", "loaves", "growth", "only", "if", "trailing", "shop", "budget"];
  const SIGNS = [
    "(",
    ")",
    "+",
    "-",
    "*",
    "/",
    "@",
    ":",
    ",",
    "<",
    "<>",
    "=",
    "and",
    "or",
    "not",
    "[",
    "]",
    "%",
    '"',
    "1",
    "0.5",
    "é",
    "\u0000",
    "\n",
    "#",
  ];
  const soup = fc
    .array(fc.oneof(fc.constantFrom(...WORDS), fc.constantFrom(...SIGNS)), { maxLength: 24 })
    .map((parts) => parts.join(" "));

  it("give a message with its place and never an exception, a thousand times over", () => {
    let refused = 0;
    fc.assert(
      fc.property(fc.oneof(soup, fc.string({ unit: "grapheme", maxLength: 60 })), (text) => {
        const result = compile(text);
        if (result.ok) {
          const printed = parseFormula(text);
          expect(printed.ok && parseFormula(printFormula(printed.value)).ok).toBe(true);
          return;
        }
        refused += 1;
        const { from, to, message } = result.problem;
        expect(message.length).toBeGreaterThan(10);
        expect(from).toBeGreaterThanOrEqual(0);
        expect(to).toBeGreaterThanOrEqual(from);
        expect(to).toBeLessThanOrEqual(Math.max(text.length, 1));
      }),
      { numRuns: 2500 },
    );
    expect(refused).toBeGreaterThan(1000);
  });

  const chain = new Map(Array.from({ length: 60 }, (_, i) => [`k${i}`, i === 59 ? "sales" : `k${i + 1} + k${i + 1}`]));
  it.each([
    ["deep brackets", `${"(".repeat(500)}sales${")".repeat(500)}`, names.kpis],
    ["signs without end", `${"-".repeat(3990)}sales`, names.kpis],
    ["denials without end", `${"not ".repeat(990)}sales > 0`, names.kpis],
    ["a megabyte of text", "sales + ".repeat(131_072), names.kpis],
    ["a very long number", "9".repeat(3000), names.kpis],
    ["KPIs that double sixty times over", "k0", chain],
    [
      "averages of averages of averages",
      "moving_average(moving_average(moving_average(sales, 36), 36), 36)",
      names.kpis,
    ],
  ])("are refused or read at once: %s", (_, text, kpis) => {
    const started = performance.now();
    const result = compileFormula(text, { ...names, kpis });
    // What doubles with every step would take years; a busy machine takes a second where 50 ms are meant.
    expect(performance.now() - started).toBeLessThan(20_000);
    // What is read all the same is short to compute.
    if (!/^(-|not)/.test(text)) expect(result.ok).toBe(false);
  });
});
