import type { Month } from "../calendar/month.ts";
import type { KpiForecast } from "./forecast-history.ts";
import type { PlannedInput, VersionPlan } from "./version-plan.ts";
import type { AheadSettings } from "./schema.ts";

/** An amount of a version: closed months as they were, the others as forecast. */
export interface VersionFact {
  readonly account: string;
  readonly members: Readonly<Record<string, string>>;
  readonly month: Month;
  /** Whole minor units. */
  readonly amount: number;
}

/** The forecasts of an input and of its leaves, in their order. */
export interface ForecastInput {
  readonly input: KpiForecast;
  readonly leaves: readonly KpiForecast[];
}

/** The series of a plan in the order in which they are forecast: each input, then its leaves. */
export function plannedSeries({
  inputs,
}: VersionPlan): readonly { readonly name: string; readonly history: PlannedInput["history"] }[] {
  return inputs.flatMap(({ name, history, leaves }) => [
    { name, history },
    ...leaves.map((leaf) => ({ name: leaf.account, history: leaf.history })),
  ]);
}

/** The forecasts in the order of `plannedSeries` by input. */
export function byInput({ inputs }: VersionPlan, forecasts: readonly KpiForecast[]): ForecastInput[] {
  let next = 0;
  return inputs.map(({ leaves }) => ({
    input: forecasts[next++]!,
    leaves: leaves.map(() => forecasts[next++]!),
  }));
}

/**
 * The amounts of a version: each leaf's forecast, brought to what the model of its input says, so that the KPI of the
 * version is the forecast that was seen. Amounts are whole minor units and add up to the input's, rounded. An input
 * that could not be fitted is refused by name.
 */
export function versionFacts(
  plan: VersionPlan,
  forecasts: readonly KpiForecast[],
  { without = 0 }: Pick<AheadSettings, "without">,
): { readonly facts: readonly VersionFact[] } | { readonly refused: string } {
  const facts: VersionFact[] = [];
  for (const [i, own] of byInput(plan, forecasts).entries()) {
    const { name, members, scale, history, leaves } = plan.inputs[i]!;
    if ("notFitted" in own.input) return { refused: `${name} cannot be forecast: ${own.input.notFitted}` };
    const first = history.first.month + history.values.length;
    for (const leaf of leaves)
      for (const { month, amount } of leaf.actual) facts.push({ account: leaf.account, members, month, amount });
    own.input.points.forEach((point, step) => {
      // Of periods that were left out to see the forecast beside them, the actual is kept.
      const month = first - without + step;
      if (month < first) return;
      const target = Math.round(point * scale);
      const amounts = spread(
        target,
        own.leaves.map((leaf) => ("points" in leaf ? (leaf.points[step] ?? 0) : 0)),
      );
      leaves.forEach(({ account }, l) => facts.push({ account, members, month, amount: amounts[l]! }));
    });
  }
  return { facts };
}

/**
 * Whole numbers near the weights that add up to a total: what is missing is shared in proportion to the weights' sizes,
 * alike where all are zero; what rounding leaves goes to the largest.
 */
export function spread(total: number, weights: readonly number[]): number[] {
  const sum = weights.reduce((all, weight) => all + weight, 0);
  const size = weights.reduce((all, weight) => all + Math.abs(weight), 0);
  // Sizes too small to divide by are none.
  const shareOf = (weight: number) => (size > 1e-9 ? Math.abs(weight) / size : 1 / weights.length);
  const raw = weights.map((weight) => weight + (total - sum) * shareOf(weight));
  const whole = raw.map(Math.round);
  const left = total - whole.reduce((all, amount) => all + amount, 0);
  const largest = raw.reduce((at, amount, i) => (Math.abs(amount) > Math.abs(raw[at]!) ? i : at), 0);
  return whole.map((amount, i) => (i === largest ? amount + left : amount) + 0);
}
