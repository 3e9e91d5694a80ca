import { formatSpan } from "../calendar/span.ts";
import type { Month } from "../calendar/month.ts";
import type { CoverageMap } from "../cube/coverage.ts";
import { keyOfScope } from "../dimensions/step-scope.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { getOrCreate } from "../keyed.ts";
import { RecentMap } from "../recent-map.ts";
import type { Measured } from "./cover-view.ts";
import type { MeasureGround } from "./measure-ground.ts";
import type { SideCoverage } from "./measurement.ts";
import type { Side } from "./side.ts";
import type { Window } from "./window.ts";

/** So many that hold whatever the as-of month, and so many that hold as of one, are kept for a state of the data. */
const ENOUGH = { shared: 6000, ofOneMonth: 1500 };

/** What a side was found to cover, and from which as-of month on the same is found. */
interface KnownCover {
  readonly cover: SideCoverage;
  readonly from: Month;
}

interface Kept {
  readonly shared: RecentMap<string, KnownCover>;
  readonly ofOneMonth: RecentMap<string, KnownCover>;
  /** Formulas, each measured in some scope and access, numbered as they come. */
  readonly numbers: Map<CompiledFormula, Map<string, number>>;
  numbered: number;
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
  const kept = getOrCreate(memos, ground.coverage, newMemo);
  const { knownTo = Infinity } = ground;
  const asked = keyOfQuestion(numberOf(measured, ground, kept), measured, side, window);
  const shared = kept.shared.get(asked);
  if (shared && shared.from <= knownTo) return shared.cover;
  const askedThen = `${asked}|${knownTo}`;
  const ofThen = kept.ofOneMonth.get(askedThen);
  if (ofThen) return ofThen.cover;
  const found = cover();
  const from = knownFrom(measured, found);
  if (from <= knownTo) kept.shared.set(asked, { cover: found, from });
  else kept.ofOneMonth.set(askedThen, { cover: found, from });
  return found;
}

function newMemo(): Kept {
  return {
    shared: new RecentMap(ENOUGH.shared),
    ofOneMonth: new RecentMap(ENOUGH.ofOneMonth),
    numbers: new Map(),
    numbered: 0,
  };
}

function numberOf({ formula }: Measured, ground: MeasureGround, kept: Kept): number {
  const byGround = getOrCreate(kept.numbers, formula, () => new Map<string, number>());
  return getOrCreate(byGround, keyOfGround(ground), () => (kept.numbered += 1));
}

/**
 * The as-of month from which on all that was looked at is there, so that any later one finds the same, and the months
 * of a trend are found once for all reviews. Never where something is missing, since the reason may name the as-of
 * month, nor where formulas within a formula and quarters around a month may look beyond the window.
 */
function knownFrom({ formula }: Measured, { views }: SideCoverage): Month {
  if (formula.inputs.some(({ kind }) => kind === "monthly" || kind === "outlook")) return Infinity;
  return views.reduce(
    (latest, { absence, window, side, holdsByQuarter }) =>
      absence || holdsByQuarter ? Infinity : Math.max(latest, window.asOf, window.to - side.shift),
    -Infinity,
  );
}

const groundKeys = new WeakMap<MeasureGround, string>();

/** What a formula is measured in, save the as-of month; written once for all that is measured there. */
function keyOfGround(ground: MeasureGround): string {
  return getOrCreate(
    groundKeys,
    ground,
    () => `${keyOfScope(ground.scope)}\n${keyOfScope(ground.access)}\n${ground.scopeAbsence?.detail}`,
  );
}

function keyOfQuestion(
  number: number,
  { definition }: Measured,
  side: Side,
  { span, asOf, from, to, throughDay }: Window,
): string {
  return `${number}|${definition.name}|${side.scenario}|${side.shift}|${side.name}|${formatSpan(span)}|${asOf}|${from}|${to}|${throughDay}`;
}
