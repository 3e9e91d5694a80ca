/** Why a figure is not there. Never shown as 0, never as NaN. */
export type AbsenceReason = "no data" | "no base" | "not covered" | "division by zero" | "not closed yet" | "no access";

/** A figure that is not there, with a sentence for the reader. */
export interface Absence {
  readonly absent: AbsenceReason;
  readonly detail: string;
}

/** A value in the unit its context names, or an absence with its reason. */
export type Figure = { readonly value: number } | Absence;

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
