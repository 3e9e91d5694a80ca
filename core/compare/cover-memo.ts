import { formatSpan } from "../calendar/span.ts";
import type { Month } from "../calendar/month.ts";
import type { CoverageMap } from "../cube/coverage.ts";
import { requiredDepth, type Scope } from "../dimensions/scope.ts";
import { keyOfScope } from "../dimensions/step-scope.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { Numbers, ObjectNumbers } from "../collections/numbers-of.ts";
import { RecentMap } from "../collections/recent-map.ts";
import { shapeOf } from "./formula-shape.ts";
import type { MeasureGround } from "./measure-ground.ts";
import type { SideCoverage } from "./measurement.ts";
import type { Side } from "./side.ts";
import type { Window } from "./window.ts";
import type { Measured } from "./measured.ts";

/** So many that hold whatever the as-of month, and so many that hold as of one, are kept for a state of the data. */
const ENOUGH = { shared: 20_000, ofOneMonth: 6000, numbers: 20_000 };

/** What a side was found to cover, and from which as-of month on the same is found. */
interface KnownCover {
  readonly cover: SideCoverage;
  readonly from: Month;
}

interface Covers {
  readonly shared: RecentMap<string, KnownCover>;
  readonly ofOneMonth: RecentMap<string, KnownCover>;
}

/** What is asked about comes in thousands of questions: each part of a question has a number, and the numbers are looked up. */
interface Kept {
  readonly ofScope: Covers;
  /** Apart, so that scopes that come and go do not push out what holds for many. */
  readonly ofDepths: Covers;
  readonly formulas: WeakMap<CompiledFormula, number>;
  readonly names: Numbers;
  readonly sides: ObjectNumbers<Side>;
  readonly windows: ObjectNumbers<Window>;
  readonly grounds: ObjectNumbers<MeasureGround>;
  readonly depths: ObjectNumbers<MeasureGround>;
}

const memos = new WeakMap<CoverageMap, Kept>();

/**
 * What a side covers, found once for each state of the data: it follows from structure and coverage, which never
 * change once they are read, and from none of the cells. The rows of a page ask for it over and over. Which members a
 * scope names matters only to formulas that name some themselves: for the others it is found once for all scopes
 * that go as deep.
 */
export function rememberCover(
  measured: Measured,
  side: Side,
  window: Window,
  ground: MeasureGround,
  cover: () => SideCoverage,
): SideCoverage {
  const kept = getOrCreate(memos, ground.coverage, newMemo);
  const question = `${numberOfFormula(measured, kept)}|${kept.sides.of(side)}|${kept.windows.of(window)}`;
  const asked = `${kept.grounds.of(ground)}|${question}`;
  const known = find(asked, ground, kept.ofScope);
  if (known) return known.cover;
  if (ground.living || shapeOf(measured.formula).namesMembers)
    return keep(asked, found(measured, cover()), ground, kept.ofScope).cover;
  const alike = `${kept.depths.of(ground)}|${question}`;
  const other = find(alike, ground, kept.ofDepths);
  const own = other
    ? { cover: within(other.cover, ground.scope), from: other.from }
    : keep(alike, found(measured, cover()), ground, kept.ofDepths);
  return keep(asked, own, ground, kept.ofScope).cover;
}

function newMemo(): Kept {
  const numbers = new Numbers(ENOUGH.numbers);
  return {
    ofScope: newCovers(),
    ofDepths: newCovers(),
    formulas: new WeakMap(),
    names: numbers,
    sides: new ObjectNumbers(numbers, keyOfSide),
    windows: new ObjectNumbers(numbers, keyOfWindow),
    grounds: new ObjectNumbers(numbers, keyOfGround),
    depths: new ObjectNumbers(numbers, keyOfDepths),
  };
}

function newCovers(): Covers {
  return { shared: new RecentMap(ENOUGH.shared), ofOneMonth: new RecentMap(ENOUGH.ofOneMonth) };
}

function find(asked: string, { knownTo = Infinity }: MeasureGround, kept: Covers): KnownCover | undefined {
  const shared = kept.shared.get(asked);
  return shared && shared.from <= knownTo ? shared : kept.ofOneMonth.get(`${asked}|${knownTo}`);
}

function keep(asked: string, known: KnownCover, { knownTo = Infinity }: MeasureGround, kept: Covers): KnownCover {
  if (known.from <= knownTo) kept.shared.set(asked, known);
  else kept.ofOneMonth.set(`${asked}|${knownTo}`, known);
  return known;
}

function found(measured: Measured, cover: SideCoverage): KnownCover {
  return { cover, from: knownFrom(measured, cover) };
}

/** The same coverage in another scope that goes as deep. */
function within(cover: SideCoverage, scope: Scope): SideCoverage {
  return { ...cover, scope, views: cover.views.map((view) => ({ ...view, scope })) };
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

/** What a formula is measured in, save the as-of month. */
function keyOfGround({ scope, access, outlook, scopeAbsence, living }: MeasureGround): string {
  const members = living ? keyOfScope(living) : "";
  return `ground ${keyOfScope(scope)}\n${keyOfScope(access)}\n${outlook ?? ""}\n${scopeAbsence?.detail}\n${members}`;
}

/** The same of a scope that may name other members, if it goes as deep: all that coverage asks of it. */
function keyOfDepths({ dimensions, scope, outlook, scopeAbsence }: MeasureGround): string {
  const depths = dimensions.flatMap((dimension) => {
    const chosen = scope[dimension.key];
    return chosen ? [`${dimension.key} ${chosen.length === 0 ? "none" : requiredDepth(dimension, chosen)}`] : [];
  });
  return `depths ${depths.join(", ")}\n${outlook ?? ""}\n${scopeAbsence?.detail}`;
}

function keyOfSide({ scenario, shift, name, then }: Side): string {
  const rest = then ? `${then.scenario}|${then.name}|${then.after}|${then.open?.days}` : "";
  return `side ${scenario}|${shift}|${name}|${rest}`;
}

function keyOfWindow({ span, asOf, from, to, throughDay, days }: Window): string {
  return `window ${formatSpan(span)}|${asOf}|${from}|${to}|${throughDay}|${days?.from}|${days?.to}`;
}

function numberOfFormula({ definition, formula }: Measured, { formulas, names }: Kept): string {
  const own = getOrCreate(formulas, formula, () => names.next());
  return `${own}.${names.of(definition.name)}`;
}
