import { compileFormula, type FormulaNames } from "../formula/compile.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { isBare, unitName, type ResultUnit } from "../formula/unit.ts";
import type { FormulaProblem } from "../formula/expression.ts";
import type { KpiDefinition } from "./schema.ts";
import type { KpiUnit } from "../figures/schema.ts";

/** A KPI with its formula ready to evaluate. */
export interface CompiledKpi {
  readonly definition: KpiDefinition;
  readonly formula: CompiledFormula;
}

/** A KPI whose formula was refused. */
export interface KpiProblem {
  readonly kpi: string;
  readonly problem: FormulaProblem;
}

/** Compiles a whole library; what is refused comes back beside what is ready. */
export function compileLibrary(
  definitions: readonly KpiDefinition[],
  names: Omit<FormulaNames, "kpis" | "self">,
): {
  readonly kpis: ReadonlyMap<string, CompiledKpi>;
  readonly problems: readonly KpiProblem[];
} {
  const formulas = new Map(definitions.map((d) => [d.key, d.formula]));
  const kpis = new Map<string, CompiledKpi>();
  const problems: KpiProblem[] = [];
  for (const definition of definitions) {
    const result = compileFormula(definition.formula, { ...names, kpis: formulas, self: definition.key });
    if (!result.ok) {
      problems.push({ kpi: definition.key, problem: result.problem });
    } else if (!unitFits(definition.unit, result.value.unit)) {
      const range = { from: 0, to: definition.formula.length };
      problems.push({
        kpi: definition.key,
        problem: {
          ...range,
          message: `"${definition.name}" is declared as ${definition.unit.kind}, but its formula gives ${unitName(result.value.unit)}.${wayOut(result.value.unit)}`,
        },
      });
    } else {
      kpis.set(definition.key, { definition, formula: result.value });
    }
  }
  return { kpis, problems };
}

/** What is multiplied by a count gives money where it is an amount for each of them. */
function wayOut(found: ResultUnit): string {
  const { money, ...others } = found.kind === "product" ? found.powers : {};
  const [first, ...rest] = Object.entries(others);
  return money === 1 && first?.[1] === 1 && rest.length === 0
    ? ` A fixed amount for each is written money(2.50, per: "${first[0]}").`
    : "";
}

function unitFits(declared: KpiUnit, found: ResultUnit): boolean {
  switch (declared.kind) {
    case "money":
      return found.kind === "money";
    case "money-per":
      // An amount for a month is an amount: months have no unit of their own.
      return (found.kind === "per" && found.over === "money") || (found.kind === "money" && declared.per === "month");
    case "count":
      return found.kind === "count" || found.kind === "rank" || isBare(found);
    case "percent":
      return found.kind === "plain";
    case "ratio":
      return found.kind === "plain" || found.kind === "per" || found.kind === "product" || found.kind === "rank";
    case "days":
      return found.kind === "days";
  }
}
