import type { AccountTree } from "../accounts/account-tree.ts";
import type { KnownEvent } from "../ahead/known-events.ts";
import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { CoverageMap } from "../cube/coverage.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import type { FormulaNames } from "../formula/compile.ts";
import type { FormulaProblem } from "../formula/expression.ts";
import { nearestName } from "../formula/nearest-name.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { MoneyUnit } from "../formats/number-words.ts";
import { QuestionRefused } from "./question-refused.ts";

/** What a review of its own starts from, where it is not the company's books. */
export interface PackStart {
  /** The dataset whose last month it shows. */
  readonly dataset: string;
  readonly basis: string;
  readonly unit: MoneyUnit;
  /** The span, where year to date would have nothing to be compared with. */
  readonly span?: string | undefined;
}

/** Everything figures are computed with besides the facts themselves. */
export interface Company {
  readonly calendar: FiscalCalendar;
  /** The currency it reports in, by its ISO 4217 code. */
  readonly currency: string;
  readonly accounts: AccountTree;
  readonly dimensions: readonly Dimension[];
  readonly coverage: CoverageMap;
  readonly kpis: ReadonlyMap<string, CompiledKpi>;
  /** KPIs whose formulas do not hold, such as after an account was removed; they have no figures. */
  readonly kpiProblems: ReadonlyMap<string, FormulaProblem>;
  /** By which dimensions each dataset may be kept. */
  readonly datasetDimensions: ReadonlyMap<string, readonly string[]>;
  /** Events of which an analyst said what they were. */
  readonly knownEvents: readonly KnownEvent[];
  /** What packs of their own start from. */
  readonly packStarts: ReadonlyMap<string, PackStart>;
}

/** The KPI of a key. Throws a `QuestionRefused` with the nearest name when there is none. */
export function requireKpi({ kpis, kpiProblems }: Company, key: string): CompiledKpi {
  const kpi = kpis.get(key);
  if (kpi) return kpi;
  const problem = kpiProblems.get(key);
  if (problem)
    throw new QuestionRefused(
      "unknown-kpi",
      `The formula of the KPI "${key}" does not hold: ${problem.message} Correct it in the KPI library.`,
    );
  const near = nearestName(key, [...kpis.keys()]);
  throw new QuestionRefused(
    "unknown-kpi",
    `There is no KPI "${key}".${near ? ` Is "${near}" meant?` : " Choose one of the library."}`,
  );
}

/** What a formula may name in a company. */
export function formulaNames({ accounts, dimensions, coverage, kpis }: Company): FormulaNames {
  return {
    accounts,
    dimensions,
    scenarios: [...coverage.scenarios.keys()],
    kpis: new Map([...kpis].map(([key, kpi]) => [key, kpi.definition.formula])),
  };
}
