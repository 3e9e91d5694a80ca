import type { AccountTree } from "../accounts/account-tree.ts";
import type { Month } from "../calendar/month.ts";
import type { CoverageMap, Scenario } from "../cube/coverage.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { hasInputs, viewHasInputs } from "./has-inputs.ts";
import type { MeasureGround } from "./measure-ground.ts";
import { forecastsBy } from "./side.ts";
import type { Measured } from "./measured.ts";

/**
 * What "forecast" means for a figure: the latest one made by the end of a month that has all that a formula reads there,
 * or that one of its views does. Where none has it, the latest of all, which then is what does not have it; `undefined`
 * before the first.
 */
export function forecastWith(
  kpi: Measured,
  asOf: Month,
  ground: Pick<MeasureGround, "accounts" | "coverage">,
  view?: number,
): Scenario | undefined {
  const byTree = getOrCreate(found, ground.coverage, () => new WeakMap<AccountTree, Found>());
  const byFormula = getOrCreate(byTree, ground.accounts, (): Found => new WeakMap());
  const known = getOrCreate(byFormula, kpi.formula, () => new Map<string, Scenario | null>());
  return getOrCreate(known, `${asOf} ${view}`, () => findForecast(kpi, asOf, ground, view) ?? null) ?? undefined;
}

/** Found once for a state of the data: charts ask for it in each of their periods. */
const found = new WeakMap<CoverageMap, WeakMap<AccountTree, Found>>();
type Found = WeakMap<CompiledFormula, Map<string, Scenario | null>>;

function findForecast(
  kpi: Measured,
  asOf: Month,
  ground: Pick<MeasureGround, "accounts" | "coverage">,
  view?: number,
): Scenario | undefined {
  const made = forecastsBy(ground.coverage, asOf);
  const has = ({ key }: Scenario) =>
    view === undefined ? hasInputs(kpi, key, ground) : viewHasInputs(kpi, view, key, ground);
  return made.find(has) ?? made[0];
}
