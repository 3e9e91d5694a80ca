import type { CompiledFormula, FormulaInput } from "../formula/node.ts";
import { timeDegree } from "../formula/time-degree.ts";
import { isPlain, PLAIN_VIEW, type View } from "../formula/view.ts";

/** What follows from a formula alone, whatever the frame. */
export interface FormulaShape {
  /** The views of its inputs; one that reads no facts looks at the frame as it is. */
  readonly views: readonly View[];
  /** The view whose months speak for the whole: the plain one, or the first that reads facts. */
  readonly lead: number;
  /** Where each account input's answer stands among those of its view; −1 for other inputs. */
  readonly places: readonly number[];
  /** For each view, whether a rate kept by quarter may stand in each of its months. */
  readonly mayHold: readonly boolean[];
  /** For each view, whether nothing is read there but how far the year has come. */
  readonly isClock: readonly boolean[];
  /** Whether it, or a formula in it, narrows or widens the scope that it is read in. */
  readonly namesMembers: boolean;
}

const shapes = new WeakMap<CompiledFormula, FormulaShape>();

/** The shape of a formula, found once. */
export function shapeOf(formula: CompiledFormula): FormulaShape {
  let shape = shapes.get(formula);
  if (!shape) shapes.set(formula, (shape = findShape(formula)));
  return shape;
}

function findShape(formula: CompiledFormula): FormulaShape {
  const views = formula.views.length > 0 ? formula.views : [PLAIN_VIEW];
  const readsFacts = (v: number) =>
    formula.inputs.some((i) => i.view === v && (i.kind === "account" || i.kind === "monthly" || i.kind === "outlook"));
  const plain = views.findIndex((view, v) => isPlain(view) && readsFacts(v));
  const first = views.findIndex((_, v) => readsFacts(v));
  const seen = new Map<number, number>();
  return {
    views,
    lead: Math.max(0, plain >= 0 ? plain : first),
    places: formula.inputs.map((input) => {
      if (input.kind !== "account") return -1;
      const place = seen.get(input.view) ?? 0;
      seen.set(input.view, place + 1);
      return place;
    }),
    mayHold: views.map((_, v) => timeDegree(formula, v) === 0),
    isClock: views.map((_, v) => {
      const inputs = formula.inputs.filter((input) => input.view === v);
      return inputs.length > 0 && inputs.every(isYearClock);
    }),
    namesMembers:
      views.some(({ scope }) => scope.length > 0) ||
      formula.inputs.some(
        (input) => (input.kind === "monthly" || input.kind === "outlook") && shapeOf(input.formula).namesMembers,
      ),
  };
}

function isYearClock(input: FormulaInput): boolean {
  return input.kind === "clock" && (input.count === "year-elapsed" || input.count === "year-left");
}

/** Whether a formula reads the frame as it is: one with a time or scenario of its own is no sum of months that could be joined. */
export function readsPlainly({ formula }: { readonly formula: CompiledFormula }): boolean {
  return (
    shapeOf(formula).views.every(isPlain) && formula.inputs.every((i) => i.kind === "account" || i.kind === "clock")
  );
}
