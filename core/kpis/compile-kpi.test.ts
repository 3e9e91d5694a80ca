import { describe, expect, it } from "vitest";
import { NAMES } from "../testing/small-company.ts";
import { compileLibrary } from "./compile-kpi.ts";
import type { KpiDefinition } from "./schema.ts";

const define = (key: string, formula: string, unit: KpiDefinition["unit"] = { kind: "money" }): KpiDefinition => ({
  key,
  name: key,
  formula,
  unit,
  decimals: 0,
  direction: "higher",
  tolerance: { kind: "percent", percent: 1 },
  owner: "",
  description: "",
  status: null,
  fallbackBasis: null,
});
const problems = (...definitions: KpiDefinition[]) =>
  compileLibrary(definitions, NAMES).problems.map((p) => `${p.kpi}: ${p.problem.message}`);

describe("a KPI library", () => {
  it("follows KPIs into KPIs", () => {
    const { kpis } = compileLibrary(
      [define("gross", "sales - flour"), define("share", "gross / sales", { kind: "percent" })],
      NAMES,
    );
    expect(kpis.get("share")!.formula.inputs.map((i) => i.kind === "account" && i.account)).toEqual(["sales", "flour"]);
  });
  it("shows a cycle whole, also one of a KPI with itself", () => {
    expect(problems(define("self", "self + sales"))).toEqual(["self: The KPI refers to itself: self → self."]);
    expect(problems(define("a", "b"), define("b", "a"))).toEqual([
      "a: The KPI refers to itself: a → b → a.",
      "b: The KPI refers to itself: b → a → b.",
    ]);
  });
  it("lets an account of the same name come first", () => {
    expect(problems(define("sales", "sales"))).toEqual([]);
  });
  it("refuses a unit that the formula does not give", () => {
    expect(problems(define("share", "sales / cost"))).toEqual([
      'share: "share" is declared as money, but its formula gives plain numbers.',
    ]);
    expect(problems(define("price", "sales / loaves", { kind: "money-per", per: "loaf" }))).toEqual([]);
    expect(problems(define("price", "sales / loaves", { kind: "percent" }))).toHaveLength(1);
  });
  it("keeps what is sound when something else is not", () => {
    const { kpis, problems: found } = compileLibrary([define("good", "sales"), define("bad", "sales +")], NAMES);
    expect([...kpis.keys()]).toEqual(["good"]);
    expect(found.map((p) => p.kpi)).toEqual(["bad"]);
  });
});
