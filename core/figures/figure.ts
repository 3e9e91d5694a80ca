import type { AbsenceReason, Absence, Figure } from "./schema.ts";

/** A figure that is there. */
export function present(value: number): Figure {
  return { value };
}

/** A figure that is not there; `detail` names the thing, the value and the way out. */
export function absent(reason: AbsenceReason, detail: string): Absence {
  return { absent: reason, detail };
}

/** Whether the figure has a value. */
export function isPresent(figure: Figure): figure is { readonly value: number } {
  return "value" in figure;
}

/** Applies `operation` when both sides have values; otherwise the first absence travels on. */
export function combine(a: Figure, b: Figure, operation: (a: number, b: number) => Figure): Figure {
  if (!isPresent(a)) return a;
  if (!isPresent(b)) return b;
  return operation(a.value, b.value);
}

/** Applies `operation` to a present figure; an absence travels on. */
export function map(figure: Figure, operation: (value: number) => number): Figure {
  return isPresent(figure) ? present(operation(figure.value)) : figure;
}
