import { buildAccountTree } from "../accounts/account-tree.ts";
import type { Account } from "../accounts/account.ts";
import { monthOf, type Month } from "../calendar/month.ts";
import { parseSpan } from "../calendar/span.ts";
import type { Basis, Frame } from "../compare/frame.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import type { Cell } from "../cube/cell-source.ts";
import { mapCoverage, type AccountCoverage, type MonthCoverage } from "../cube/coverage.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import type { Scope } from "../dimensions/scope.ts";
import { isPresent } from "../figures/figure.ts";
import { compileFormula } from "../formula/compile.ts";
import { compileLibrary, type CompiledKpi } from "../kpis/compile-kpi.ts";
import { withDescendants } from "../dimensions/member-tree.ts";
import type { Figure } from "../figures/schema.ts";
import type { KpiDefinition } from "../kpis/schema.ts";

/** A company small enough to calculate by hand: tests' own, not the sample company. */
const account = (key: string, parent: string | null, kind: Account["kind"], of?: string): Account => ({
  key,
  name: key,
  parent,
  kind,
  behaviour: kind === "asset" ? "balance" : "flow",
  unit: of ? { kind: "count", of } : { kind: "money" },
  decimals: of ? 0 : 2,
});

export const ACCOUNTS: readonly Account[] = [
  account("sales", null, "income"),
  account("bread", "sales", "income"),
  account("cake", "sales", "income"),
  account("cost", null, "expense"),
  account("flour", "cost", "expense"),
  account("rent", "cost", "expense"),
  account("till", null, "asset"),
  account("loaves", null, "statistic", "loaves"),
  account("good_loaves", null, "statistic", "loaves"),
];

export const TREE = buildAccountTree(ACCOUNTS);
export const CALENDAR = { startMonth: 4 };
export const SHOPS: Dimension = {
  key: "shop",
  name: "Shop",
  plural: "shops",
  levels: ["Town", "Shop"],
  members: [
    { key: "north", name: "North", parent: null },
    { key: "mill", name: "Mill", parent: "north" },
    { key: "gate", name: "Gate", parent: "north" },
    { key: "south", name: "South", parent: null },
    { key: "quay", name: "Quay", parent: "south" },
  ],
};

const base: Omit<KpiDefinition, "key" | "name" | "formula" | "unit"> = {
  decimals: 1,
  direction: "higher",
  tolerance: { kind: "percent", percent: 1 },
  owner: "",
  description: "",
  status: null,
  fallbackBasis: null,
};
const kpi = (key: string, formula: string, unit: KpiDefinition["unit"]): KpiDefinition => ({
  ...base,
  key,
  name: key,
  formula,
  unit,
});

/** What formulas of the small company may name. */
export const NAMES = {
  accounts: TREE,
  dimensions: [SHOPS],
  scenarios: ["actual", "budget", "forecast-6-6", "target"],
};

/** A KPI with a formula of its own, over the small company's library. */
export function kpiFrom(formula: string): CompiledKpi {
  const kpis = new Map([...LIBRARY.kpis.values()].map((k) => [k.definition.key, k.definition.formula]));
  const result = compileFormula(formula, { ...NAMES, kpis });
  if (!result.ok) throw new Error(`${formula}: ${result.problem.message}`);
  return { definition: kpi("tried", formula, { kind: "money" }), formula: result.value };
}

const LIBRARY = compileLibrary(
  [
    kpi("turnover", "sales", { kind: "money" }),
    kpi("profit", "sales - cost", { kind: "money" }),
    kpi("margin", "profit / turnover", { kind: "percent" }),
    kpi("cash", "till", { kind: "money" }),
    kpi("quality", "good_loaves / loaves", { kind: "percent" }),
    kpi("output", "loaves", { kind: "count", of: "loaves" }),
  ],
  NAMES,
);

/** A compiled KPI of the small company. */
export function kpiOf(key: string): CompiledKpi {
  const found = LIBRARY.kpis.get(key);
  if (!found) throw new Error(`no KPI ${key}: ${JSON.stringify(LIBRARY.problems)}`);
  return found;
}

/** A fact of the small company. */
export interface SmallFact extends Cell {
  readonly dataset?: "ledger" | "daily" | "targets";
  readonly day?: number;
  /** The shop, where it is kept by shop. */
  readonly shop?: string;
}

/** A context whose coverage follows from the facts, as posting would have it. */
export function contextOf(
  facts: readonly SmallFact[],
  {
    scope = {},
    access = {},
    depth = () => 2,
  }: { scope?: Scope; access?: Scope; depth?: (fact: SmallFact) => number } = {},
): MeasureContext {
  const accounts = new Map<string, AccountCoverage>();
  const months = new Map<string, MonthCoverage>();
  for (const fact of facts) {
    const dataset = fact.dataset ?? "ledger";
    accounts.set(`${fact.scenario}/${fact.account}`, {
      dataset,
      scenario: fact.scenario,
      account: fact.account,
      depths: { shop: depth(fact) },
    });
    for (const offset of dataset === "targets" ? [0, 1, 2] : [0]) {
      const place = `${dataset}/${fact.scenario}/${fact.month + offset}`;
      const bit = fact.day === undefined ? null : (months.get(place)?.dayMask ?? 0) | (1 << (fact.day - 1));
      months.set(place, { dataset, scenario: fact.scenario, month: fact.month + offset, dayMask: bit });
    }
  }
  return {
    accounts: TREE,
    calendar: CALENDAR,
    dimensions: [SHOPS],
    coverage: mapCoverage({
      datasets: [
        { key: "ledger", name: "Ledger", grain: "month" },
        { key: "daily", name: "Daily", grain: "day" },
        { key: "targets", name: "Targets", grain: "quarter" },
      ],
      scenarios: [
        { key: "actual", name: "Actual", kind: "actual", madeAfter: null },
        { key: "budget", name: "Budget", kind: "budget", madeAfter: null },
        { key: "forecast-6-6", name: "Forecast 6+6", kind: "forecast", madeAfter: monthOf(2026, 9) },
        { key: "target", name: "Target", kind: "target", madeAfter: null },
      ],
      accounts: [...accounts.values()],
      months: [...months.values()],
    }),
    cells: {
      sum: ({ scope: within, days = { from: 1, to: 31 }, scenario, accounts: leaves, months: asked }) =>
        facts
          .filter(
            (f) =>
              f.scenario === scenario &&
              leaves.includes(f.account) &&
              asked.includes(f.month) &&
              (f.day ?? 1) >= days.from &&
              (f.day ?? 1) <= days.to &&
              isInside(f, within),
          )
          .reduce((sum, f) => sum + f.amount, 0),
    },
    scope,
    access,
  };
}

/** Facts without a shop count in every scope, so that tests that do not care need not say. */
function isInside({ shop }: SmallFact, scope: Scope): boolean {
  const chosen = scope[SHOPS.key];
  return shop === undefined || chosen === undefined || withDescendants(SHOPS, chosen).includes(shop);
}

/** Facts of one account over consecutive months, in whole minor units. */
export function run(
  scenario: string,
  accountKey: string,
  from: Month,
  amounts: readonly number[],
  dataset?: SmallFact["dataset"],
): SmallFact[] {
  return amounts.map((amount, i) => ({
    scenario,
    account: accountKey,
    month: from + i,
    amount,
    ...(dataset ? { dataset } : {}),
  }));
}

/** The small company's current month. */
export const OCTOBER = monthOf(2026, 10);
export const BUDGET: Basis = { kind: "scenario", scenario: "budget" };

/** A frame by its span's text, against the budget and as of October unless said otherwise. */
export function frameOf(span: string, basis: Basis = BUDGET, asOf: Month = OCTOBER): Frame {
  return { asOf, span: parseSpan(span)!, basis, scope: {} };
}

/** A figure's value, or the name of its absence. */
export function valueOf(figure: Figure): number | string {
  return isPresent(figure) ? figure.value : figure.absent;
}
