import fc from "fast-check";
import type { Company } from "../frame/company.ts";
import type { FrameQuery } from "../frame/schema.ts";
import { resolveFrame } from "../frame/resolve-frame.ts";
import type { PanelQuestion } from "../panels/panel-question.ts";
import { CALENDAR, contextOf, kpiOf, OCTOBER, SHOPS, TREE, type SmallFact } from "./small-company.ts";

const KPIS = ["turnover", "profit", "margin", "cash", "quality", "output"];

/** A panel's question to the small company, over facts of one's own. */
export function questionOf(facts: readonly SmallFact[], frame: FrameQuery = {}): PanelQuestion {
  const { coverage, cells } = contextOf(facts);
  const company: Company = {
    calendar: CALENDAR,
    accounts: TREE,
    dimensions: [SHOPS],
    coverage,
    kpis: new Map(KPIS.map((key) => [key, kpiOf(key)])),
    kpiProblems: new Map(),
    datasetDimensions: new Map(),
    knownEvents: [],
    currency: "EUR",
    packStarts: new Map(),
  };
  const asked = resolveFrame({ asOf: "2026-10", span: "year-to-date", basis: "budget", ...frame }, company, {});
  return { company, access: {}, asked, cells };
}

const LEAVES = ["mill", "gate", "quay"] as const;
/** April to October: the year to date. */
export const YEAR_TO_DATE = [6, 5, 4, 3, 2, 1, 0].map((back) => OCTOBER - back);

/** Books of the small company, actual and budget: each shop's bread and flour, month by month, in whole cents. */
export const someBooks = fc
  .array(fc.integer({ min: 0, max: 90_000 }), { minLength: 84, maxLength: 84 })
  .map((amounts): SmallFact[] =>
    amounts.map((amount, i) => ({
      scenario: i % 2 === 0 ? "actual" : "budget",
      account: Math.floor(i / 2) % 2 === 0 ? "bread" : "flour",
      shop: LEAVES[Math.floor(i / 4) % 3]!,
      month: YEAR_TO_DATE[Math.floor(i / 12)]!,
      amount,
    })),
  );

/** What facts add up to, in whole money: the slow, obvious way. */
export function sumOf(facts: readonly SmallFact[], ...wanted: readonly ((fact: SmallFact) => boolean)[]): number {
  return facts.filter((fact) => wanted.every((is) => is(fact))).reduce((sum, fact) => sum + fact.amount, 0) / 100;
}
