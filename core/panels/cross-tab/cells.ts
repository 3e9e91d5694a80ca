import { basisOf } from "../../compare/basis-of.ts";
import { compareSides } from "../../compare/compare-kpi.ts";
import { measureOver } from "../../compare/measure.ts";
import { inMembers, type MeasureContext } from "../../compare/measure-ground.ts";
import { SHOWN, type Side } from "../../compare/side.ts";
import { varianceOf } from "../../compare/variance.ts";
import type { Window } from "../../compare/window.ts";
import type { Scope } from "../../dimensions/scope.ts";
import { absent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { getOrCreate } from "../../collections/keyed.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { scenarioSides } from "../parts/scenario-sides.ts";
import type { CrossLine } from "./lines.ts";
import type { Absence, Figure, Variance } from "../../figures/schema.ts";

/** Where a row and a column meet. */
export interface CrossCell {
  readonly kpi: CompiledKpi;
  readonly value: Figure;
  readonly basis: Figure;
  readonly variance: Variance;
}

/** Finds cells, each measured once. */
export type CellsOf = (row: CrossLine, column: CrossLine) => CrossCell;

/**
 * The cells of a cross-tab. Without a scenario of its own a cell is the actual against the frame's basis; with one it
 * is that scenario's, on the months it has in common with the actual, and its Δ is the actual against it.
 */
export function crossCells(
  question: PanelQuestion,
  { kpi: first, whole, isCompared }: { kpi: string; whole: Window; isCompared: boolean },
): CellsOf {
  const { company, asked } = question;
  const context = measureContext(question);
  const bases = new Map<CompiledKpi, Side | Absence>();
  const sides = new Map<CompiledKpi, ReadonlyMap<string, Side>>();
  const scopes = new WeakMap<CrossLine, MeasureContext>();
  const cells = new WeakMap<CrossLine, Map<CrossLine, CrossCell>>();
  const contextOf = (row: CrossLine, column: CrossLine): MeasureContext => {
    const inRow = getOrCreate(scopes, row, () => within(context, asked.scope, row.reach.members));
    return Object.keys(column.reach.members).length === 0 ? inRow : within(inRow, inRow.scope, column.reach.members);
  };
  const measure = (row: CrossLine, column: CrossLine): CrossCell => {
    const kpi = requireKpi(company, row.reach.kpi ?? column.reach.kpi ?? first);
    const window = row.reach.window ?? column.reach.window ?? whole;
    const scenario = row.reach.scenario ?? column.reach.scenario;
    const inside = contextOf(row, column);
    if (scenario === "actual" || (scenario === null && !isCompared))
      return { kpi, value: measureOver(kpi, SHOWN, window, inside).figure, ...NOT_COMPARED };
    if (scenario === null) {
      const basis = getOrCreate(bases, kpi, () => basisOf(kpi, asked.frame, context).side);
      const { actual, basis: other, variance } = compareSides(kpi, SHOWN, basis, window, inside);
      return { kpi, value: actual.figure, basis: other.figure, variance };
    }
    const own = getOrCreate(
      sides,
      kpi,
      () => new Map(scenarioSides(kpi, question).map(({ key, side }) => [key, side])),
    ).get(scenario);
    if (!own) return { kpi, ...missing(`${kpi.definition.name} has no ${scenario.replace("-", " ")}.`, kpi) };
    const { basis, variance } = compareSides(kpi, SHOWN, own, window, inside);
    return { kpi, value: basis.figure, basis: basis.figure, variance };
  };
  return (row, column) =>
    getOrCreate(
      getOrCreate(cells, row, () => new Map<CrossLine, CrossCell>()),
      column,
      () => measure(row, column),
    );
}

function within(context: MeasureContext, scope: Scope, members: Scope): MeasureContext {
  return Object.keys(members).length === 0 ? context : inMembers(context, members, { ...scope, ...members });
}

const ITSELF = absent("no base", "The actual is not compared with itself.");
const NOT_COMPARED = {
  basis: ITSELF,
  variance: { delta: ITSELF, deltaPercent: ITSELF, judgement: null, tolerances: null },
} as const;

function missing(detail: string, kpi: CompiledKpi): Omit<CrossCell, "kpi"> {
  const nothing = absent("not covered", detail);
  return { value: nothing, basis: nothing, variance: varianceOf(nothing, nothing, kpi.definition) };
}
