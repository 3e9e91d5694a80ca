import { fiscalYearOf, fiscalYearStart } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import { MEASURING, measureOver } from "../compare/measure.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import { readsPlainly } from "../compare/formula-shape.ts";
import { ACTUAL } from "../compare/side.ts";
import { monthWindow } from "../compare/window.ts";
import { isPresent } from "../figures/figure.ts";
import { powerOfTen } from "../figures/amount.ts";
import type { CompiledFormula, FormulaInput } from "../formula/node.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { historyOf } from "./history.ts";
import type { KpiHistory } from "./kpi-history.ts";

/** A part of what is posted: its members, and the scope that they are. */
export interface VersionPart {
  readonly members: Readonly<Record<string, string>>;
  readonly context: MeasureContext;
}

/** A leaf account of a part, ready to be forecast, and its actual months of the fiscal year. */
export interface PlannedLeaf {
  readonly account: string;
  readonly history: KpiHistory;
  readonly actual: readonly { readonly month: Month; readonly amount: number }[];
}

/** What a part's leaves are to add up to: an input of the KPI, or the KPI where it is one account's amount. */
export interface PlannedInput {
  readonly name: string;
  readonly members: Readonly<Record<string, string>>;
  readonly history: KpiHistory;
  /** Minor units in one of the history's. */
  readonly scale: number;
  readonly leaves: readonly PlannedLeaf[];
}

/** A version that can be forecast and posted. */
export interface VersionPlan {
  /** The last month with actuals, after which it forecasts. */
  readonly madeAfter: Month;
  readonly inputs: readonly PlannedInput[];
}

/** What a version is planned from, or why it cannot be. */
export type Planned = VersionPlan | { readonly refused: string };

/**
 * What has to be forecast so that a KPI's forecast can be kept as a scenario: amounts by leaf account and part. Each
 * leaf is forecast by a model of its own, and the leaves of an input are then brought to what the input's model says.
 */
export function planVersion(kpi: CompiledKpi, parts: readonly VersionPart[]): Planned {
  const { definition, formula } = kpi;
  if (!readsPlainly(kpi))
    return {
      refused: `The formula of ${definition.name} sets its own time, scenario or scope: post forecasts of the KPIs it reads instead.`,
    };
  const { key } = definition;
  const seen = new Set<string>();
  const inputs: PlannedInput[] = [];
  let madeAfter: Month | null = null;
  for (const { members, context } of parts)
    for (const input of formula.inputs) {
      if (input.kind !== "account") continue;
      const isAlone = formula.root.kind === "input";
      const measured = isAlone ? kpi : formulaOf(input, formula, { key, name: nameOf(input.account, context) });
      const placed = historyOf(measured, "month", context, MEASURING);
      if (!placed) continue;
      madeAfter = Math.max(madeAfter ?? -Infinity, placed.periods.at(-1)!.to);
      const leaves = (context.accounts.leaves.get(input.account) ?? []).flatMap((account): PlannedLeaf[] => {
        const place = JSON.stringify([account, members]);
        if (seen.has(place)) return [];
        seen.add(place);
        const leaf = formulaOf({ ...input, account }, formula, { key, name: nameOf(account, context) });
        const own = historyOf(leaf, "month", context, MEASURING);
        if (!own || own.history.values.every((value) => value === null || value === 0)) return [];
        return [{ account, history: own.history, actual: actualOf(leaf, own.periods.at(-1)!.to, context) }];
      });
      if (leaves.length === 0) continue;
      const scale = powerOfTen(isAlone ? formula.root.decimals : measured.formula.root.decimals);
      inputs.push({ name: measured.definition.name, members, history: placed.history, scale, leaves });
    }
  return madeAfter === null || inputs.length === 0
    ? { refused: `${definition.name} has no actuals here to forecast from.` }
    : { madeAfter, inputs };
}

function nameOf(account: string, { accounts }: MeasureContext): string {
  return accounts.accounts.get(account)?.name ?? account;
}

/** The formula of one account alone, in whole minor units, which knows of the events of a KPI. */
function formulaOf(
  input: Extract<FormulaInput, { kind: "account" }>,
  { views }: CompiledFormula,
  { key, name }: { readonly key: string; readonly name: string },
): { readonly definition: { readonly key: string; readonly name: string }; readonly formula: CompiledFormula } {
  return {
    definition: { key, name },
    formula: {
      root: { kind: "input", input: 0, decimals: 0 },
      inputs: [input],
      views,
      unit: { kind: "plain" },
      behaviour: input.gathering === "sum" ? "flow" : "balance",
      gathering: input.gathering === "sum" ? null : input.gathering,
      names: [input.account],
    },
  };
}

/** The months of the fiscal year that are closed, as a version of the whole year holds them. */
function actualOf(leaf: ReturnType<typeof formulaOf>, last: Month, context: MeasureContext): PlannedLeaf["actual"] {
  const start = fiscalYearStart(context.calendar, fiscalYearOf(context.calendar, last));
  return monthsBetween(start, last).flatMap((month) => {
    const { figure } = measureOver(leaf, ACTUAL, monthWindow(month), context);
    return isPresent(figure) ? [{ month, amount: Math.round(figure.value) }] : [];
  });
}
