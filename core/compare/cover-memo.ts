import { formatSpan } from "../calendar/span.ts";
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
  const own = getOrCreate(kept.byFormula, measured.formula, () => new Map<string, SideCoverage>());
  const key = questionKey(measured, side, window, ground);
  const known = own.get(key);
  if (known) return known;
  const found = cover();
  if (kept.count >= MOST_KEPT) {
    kept.byFormula.clear();
    kept.count = 0;
  }
  kept.count += 1;
  getOrCreate(kept.byFormula, measured.formula, () => own).set(key, found);
  return found;
}

function questionKey(
  { definition }: Measured,
  side: Side,
  { span, asOf, from, to, throughDay }: Window,
  { scope, access, knownTo, scopeAbsence }: MeasureGround,
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
    knownTo,
    scopeAbsence?.detail,
    keyOfScope(scope),
    keyOfScope(access),
  ].join("\n");
}
