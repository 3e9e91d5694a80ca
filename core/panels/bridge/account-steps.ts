import { isPresent } from "../../figures/figure.ts";
import type { Account } from "../../accounts/account.ts";
import type { AccountTree } from "../../accounts/account-tree.ts";
import type { SidesCompared } from "../../compare/compare-kpi.ts";
import { amountOf } from "../../compare/measure.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import type { Measurement } from "../../compare/measurement.ts";
import { present } from "../../figures/figure.ts";
import { evaluateDifference } from "../../formula/evaluate.ts";
import { isLinear } from "../../formula/is-linear.ts";
import { QuestionRefused } from "../../frame/question-refused.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { stepOf } from "./step.ts";
import type { BridgeStep } from "./schema.ts";

/**
 * What each account brings to Δ, signed by its effect on the KPI: the accounts right below those that the formula
 * names; the one that was opened, and those above it, give way to those below them. `null` where the KPI is no sum of
 * accounts.
 */
export function accountSteps(
  kpi: CompiledKpi,
  compared: SidesCompared,
  context: MeasureContext,
  opened: string | null,
): BridgeStep[] | null {
  if (!isLinear(kpi.formula)) return null;
  const { accounts } = context;
  const inputs = kpi.formula.inputs.flatMap((input, i) =>
    input.kind === "account" ? [{ i, key: input.account }] : [],
  );
  if (opened !== null && !inputs.some(({ key }) => isWithin(accounts, opened, key)))
    throw new QuestionRefused(
      "unknown-scope",
      `${kpi.definition.name} has no account "${opened}". Go back to the whole bridge.`,
    );
  // An account that the formula names twice is one step.
  const named = [...new Set(inputs.map(({ key }) => key))];
  return named.flatMap((key) => {
    const account = accounts.accounts.get(key)!;
    const places = inputs.filter((input) => input.key === key).map(({ i }) => i);
    const stepsOf = (of: Account): BridgeStep[] =>
      opened !== null && isWithin(accounts, opened, of.key)
        ? childrenOf(accounts, of.key).flatMap(stepsOf)
        : [stepFor(kpi, compared, context, places, of)];
    const children = childrenOf(accounts, key);
    if (children.length === 0) return [stepFor(kpi, compared, context, places, account)];
    const all = children.flatMap(stepsOf);
    // What brings nothing is no step; where nothing does, that is what is shown.
    const steps = all.some(({ value }) => value !== 0) ? all.filter(({ value }) => value !== 0) : [];
    // With one sum only, it is the end itself.
    const subtotal = named.length > 1 ? account.name : null;
    return steps.map((step, i) => (i === steps.length - 1 ? { ...step, subtotal } : step));
  });
}

/** The path from an account that the formula names down to the one that was opened. */
export function accountPath(
  kpi: CompiledKpi,
  accounts: AccountTree,
  opened: string | null,
): { key: string; name: string }[] {
  const named = new Set(kpi.formula.inputs.flatMap((input) => (input.kind === "account" ? [input.account] : [])));
  const path: { key: string; name: string }[] = [];
  for (let at = opened; at !== null && !named.has(at); at = accounts.accounts.get(at)?.parent ?? null)
    path.unshift({ key: at, name: accounts.accounts.get(at)!.name });
  return path;
}

function stepFor(
  kpi: CompiledKpi,
  { actualInCommon, basis }: SidesCompared,
  context: MeasureContext,
  places: readonly number[],
  account: Account,
): BridgeStep {
  const leaves = new Set(context.accounts.leaves.get(account.key));
  // All other inputs are nothing on both sides: what is left of the difference is what this account brings.
  const inputsOf = (measured: Measurement) =>
    kpi.formula.inputs.map((input, i) => {
      if (!places.includes(i)) return present(0);
      const own = context.accounts.leaves.get((input as { account: string }).account)!.filter((l) => leaves.has(l));
      const amount = amountOf(kpi, measured, i, covered(measured, i, own, kpi), context);
      return isPresent(amount) ? amount : present(0);
    });
  const difference = evaluateDifference(kpi.formula, inputsOf(actualInCommon), inputsOf(basis));
  return stepOf(
    {
      key: account.key,
      name: account.name,
      value: isPresent(difference) ? difference.value : 0,
      opens: childrenOf(context.accounts, account.key).length > 0 ? account.key : null,
    },
    kpi.definition.direction,
  );
}

/** Of the leaves, those that the side keeps: the others were not read for the KPI either. */
function covered(measured: Measurement, input: number, leaves: readonly string[], kpi: CompiledKpi): string[] {
  const kept = new Set(answerLeaves(measured, input, kpi));
  return leaves.filter((leaf) => kept.has(leaf));
}

function answerLeaves({ coverage }: Measurement, input: number, { formula }: CompiledKpi): readonly string[] {
  const asked = formula.inputs[input]!;
  return coverage.views[asked.view]!.answers.flatMap(({ leaves }) => leaves);
}

function childrenOf({ accounts }: AccountTree, key: string): Account[] {
  return [...accounts.values()].filter(({ parent }) => parent === key);
}

function isWithin({ accounts }: AccountTree, key: string, above: string): boolean {
  for (let at: string | null = key; at !== null; at = accounts.get(at)?.parent ?? null) if (at === above) return true;
  return false;
}
