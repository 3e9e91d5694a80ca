/** Teeth beyond this many are counted instead of drawn. */
export const MOST_TEETH = 6;
const GAP = 3.5;
const MARGIN = 2;
/** The widest a comb gets, so that all rows share one zero thread. */
export const COMB_WIDTH = 2 * (MOST_TEETH * GAP + MARGIN);
const LARGEST_COUNT = 999;

/** Where the parts of a comb stand; lengths in pixels from its left edge. */
export interface CombLayout {
  readonly zero: number;
  /** One for each tolerance, outwards from the zero thread. */
  readonly teeth: readonly number[];
  /** The dot of a variance inside the tolerance. */
  readonly hasDot: boolean;
  /** How many tolerances there are where they are more than teeth can show, on the free side of the thread. */
  readonly count: { readonly text: string; readonly x: number; readonly anchor: "start" | "end" } | null;
}

/**
 * Lays a percent variance out as a comb: a tooth for each whole tolerance, right of the zero thread when above the
 * basis, left when below; a dot inside the tolerance.
 */
export function layoutComb(tolerances: number): CombLayout {
  const zero = COMB_WIDTH / 2;
  const many = Math.abs(tolerances);
  const side = Math.sign(tolerances);
  return {
    zero,
    teeth: Array.from({ length: Math.min(many, MOST_TEETH) }, (_, i) => zero + side * (i + 1) * GAP),
    hasDot: tolerances === 0,
    count:
      many > MOST_TEETH
        ? {
            text: many > LARGEST_COUNT ? `>${LARGEST_COUNT}` : `×${many}`,
            x: zero - side * GAP,
            anchor: side > 0 ? "end" : "start",
          }
        : null,
  };
}
