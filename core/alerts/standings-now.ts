import { periodName } from "../calendar/fiscal-calendar.ts";
import { compareKpi } from "../compare/compare-kpi.ts";
import type { Basis, Frame } from "../compare/frame.ts";
import { kpiStatus } from "../compare/kpi-status.ts";
import { ALERT_SPANS, standingOf, type Standing } from "./standing.ts";
import type { CellBook } from "../cube/cell-book.ts";
import { lastClosedMonth } from "../cube/coverage.ts";
import { EVERYTHING } from "../dimensions/scope.ts";
import type { Company } from "../frame/company.ts";

/** Where all KPIs stand in the last closed month and for the year to it, against budget (or the prior year where there is none). */
export function standingsNow(company: Company, cells: CellBook): { month: string; standings: Standing[] } {
  const { coverage, calendar, kpis } = company;
  const asOf = lastClosedMonth(coverage);
  if (asOf === undefined) return { month: "", standings: [] };
  const hasBudget = coverage.homes.has("budget");
  const basis: Basis = hasBudget ? { kind: "scenario", scenario: "budget" } : { kind: "prior-year" };
  const context = { ...company, cells, scope: EVERYTHING, access: EVERYTHING, knownTo: asOf };
  return {
    month: periodName(calendar, asOf),
    standings: ALERT_SPANS.flatMap((kind) => {
      const frame: Frame = { asOf, span: { kind }, basis, scope: EVERYTHING };
      return [...kpis.values()].flatMap((kpi) => {
        const comparison = compareKpi(kpi, frame, context);
        return standingOf(kpi, kind, comparison, kpiStatus(kpi, comparison, frame, context, kpis)) ?? [];
      });
    }),
  };
}
