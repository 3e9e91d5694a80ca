import { formatSpan } from "../calendar/span.ts";
import type { Month } from "../calendar/month.ts";
import type { CoverageMap } from "../cube/coverage.ts";
import { keyOfScope } from "../dimensions/step-scope.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { getOrCreate } from "../keyed.ts";
import type { Measured } from "./cover-view.ts";
import type { MeasureGround } from "./measure-ground.ts";
import type { SideCoverage } from "./measurement.ts";
import type { Side } from "./side.ts";
import type { Window } from "./window.ts";

/** So many answers are kept for one state of the data; then all are let go, which costs one slower look. */
const MOST_KEPT = 20_000;

interface Kept {
  readonly byFormula: Map<CompiledFormula, Map<string, SideCoverage>>;
  count: number;
}

const memos = new WeakMap<CoverageMap, Kept>();

/**
 * What a side covers, found once for each state of the data: it follows from structure and coverage, which never
 * change once they are read, and from none of the cells. The rows of a page ask for it over and over.
 */
export function rememberCover(
  measured: Measured,
  side: Side,
  window: Window,
  ground: MeasureGround,
  cover: () => SideCoverage,
): SideCoverage {
  const kept = getOrCreate(memos, ground.coverage, (): Kept => ({ byFormula: new Map(), count: 0 }));
  const own = kept.byFormula.get(measured.formula);
  const anytime = questionKey(measured, side, window, ground);
  const asOfThen = `${anytime}\n${ground.knownTo}`;
  const shared = own?.get(anytime);
  if (shared && isWhollyKnown(measured, shared, ground.knownTo)) return shared;
  const known = own?.get(asOfThen);
  if (known) return known;
  const found = cover();
  if (kept.count >= MOST_KEPT) {
    kept.byFormula.clear();
    kept.count = 0;
  }
  kept.count += 1;
  getOrCreate(kept.byFormula, measured.formula, () => new Map<string, SideCoverage>()).set(
    isWhollyKnown(measured, found, ground.knownTo) ? anytime : asOfThen,
    found,
  );
  return found;
}

/**
 * Whether all that was looked at lies before the as-of month, and is there: then any later as-of month finds the same,
 * and the months of a trend are found once for all reviews. Reasons for an absence may name the as-of month; formulas
 * within a formula and quarters around a month may look beyond the window.
 */
function isWhollyKnown({ formula }: Measured, { views }: SideCoverage, knownTo: Month = Infinity): boolean {
  return (
    formula.inputs.every(({ kind }) => kind !== "monthly" && kind !== "outlook") &&
    views.every(
      ({ absence, window, side, holdsByQuarter }) =>
        !absence && !holdsByQuarter && window.asOf <= knownTo && window.to - side.shift <= knownTo,
    )
  );
}

/** All that the answer follows from, save the as-of month. */
function questionKey(
  { definition }: Measured,
  side: Side,
  { span, asOf, from, to, throughDay }: Window,
  { scope, access, scopeAbsence }: MeasureGround,
): string {
  return [
    definition.name,
    side.scenario,
    side.shift,
    side.name,
    formatSpan(span),
    asOf,
    from,
    to,
    throughDay,
    scopeAbsence?.detail,
    keyOfScope(scope),
    keyOfScope(access),
  ].join("\n");
}
