import type { Comparison } from "#core/compare/compare-kpi.ts";
import { nearestName } from "#core/formula/nearest-name.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import { coverageNotes } from "#core/words/coverage-words.ts";
import type { VarianceFacts } from "#core/words/variance-words.ts";
import type { KpiHead } from "#contract/panels.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import type { Workspace } from "./workspace.ts";

/** The KPI of a key. Throws a problem with the nearest name when there is none. */
export function requireKpi(workspace: Workspace, key: string): CompiledKpi {
  const kpi = workspace.structure.kpis.get(key);
  if (kpi) return kpi;
  const problem = workspace.structure.kpiProblems.get(key);
  if (problem)
    throw new ProblemError(
      "unknown-kpi",
      `The formula of the KPI "${key}" does not hold: ${problem.message} Mend it in the KPI library.`,
    );
  const near = nearestName(key, [...workspace.structure.kpis.keys()]);
  throw new ProblemError(
    "unknown-kpi",
    `There is no KPI "${key}".${near ? ` Is "${near}" meant?` : " Choose one of the scorecard's rows."}`,
  );
}

/** What a reader needs to know of a KPI. */
export function kpiHead({ definition }: CompiledKpi): KpiHead {
  const { key, name, unit, decimals, direction, description } = definition;
  return { key, name, unit, decimals, direction, description };
}

/** What a comparison leaves out, in a reader's words. */
export function notesOf(comparison: Comparison, workspace: Workspace, frameBasis: string): string[] {
  const { calendar, accounts } = workspace.structure;
  return coverageNotes(comparison, { calendar, accounts, fallbackFrom: comparison.isFallback ? frameBasis : null });
}

/** What the words of a variance are made from. */
export function varianceFacts(comparison: Comparison, kpi: CompiledKpi, resolved: ResolvedFrame): VarianceFacts {
  const { unit, decimals } = kpi.definition;
  const { side } = comparison.basis;
  return {
    unit,
    decimals,
    money: resolved.unit,
    basisName: side.scenario === "" ? resolved.wire.words.basis : side.name,
    ...comparison.variance,
  };
}
