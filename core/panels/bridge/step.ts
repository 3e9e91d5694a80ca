import type { BridgeStep } from "./schema.ts";
import type { Judgement } from "../../figures/schema.ts";
import type { Direction } from "../../kpis/schema.ts";

/** A step with what most have. */
export function stepOf(
  of: Pick<BridgeStep, "key" | "name" | "value"> & Partial<BridgeStep>,
  direction: Direction,
): BridgeStep {
  return {
    kind: "step",
    isForecast: false,
    member: null,
    opens: null,
    months: null,
    count: null,
    subtotal: null,
    judgement: effectOf(of.value, direction),
    ...of,
  };
}

/** Whether a step takes the KPI where it is wanted. A step has no tolerance: it is a part of a whole that has one. */
function effectOf(value: number, direction: Direction): Judgement | null {
  if (direction === "neutral" || direction === "closest") return "neutral";
  if (value === 0) return "on plan";
  return value > 0 === (direction === "higher") ? "favourable" : "unfavourable";
}

/** Steps by size of effect, the largest first, with those that gather or stand apart behind. */
export function bySize(steps: readonly BridgeStep[]): BridgeStep[] {
  return [
    ...steps.filter(({ kind }) => kind === "step").sort((a, b) => Math.abs(b.value) - Math.abs(a.value)),
    ...steps.filter(({ kind }) => kind !== "step"),
  ];
}

/** The steps that stand apart, and the smaller ones as one with their count: their sum, and never a plug. */
export function gathered(steps: readonly BridgeStep[], top: number | null, direction: Direction): BridgeStep[] {
  const own = steps.filter(({ kind }) => kind === "step");
  if (top === null || own.length <= top + 1) return [...steps];
  const kept = new Set(own.toSorted((a, b) => Math.abs(b.value) - Math.abs(a.value)).slice(0, top));
  const small = own.filter((step) => !kept.has(step));
  const others = stepOf(
    {
      key: "others",
      name: `The other ${small.length}`,
      kind: "others",
      value: small.reduce((sum, { value }) => sum + value, 0),
      count: small.length,
    },
    direction,
  );
  const after = steps.filter(({ kind }) => kind !== "step");
  return [...steps.filter((step) => kept.has(step)), others, ...after];
}
