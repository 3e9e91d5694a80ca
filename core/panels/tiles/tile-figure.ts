import type { Span } from "../../calendar/span.ts";
import { absent, combine, isPresent, present } from "../../figures/figure.ts";
import { compileFormula, type FormulaNames } from "../../formula/compile.ts";
import { getOrCreate } from "../../collections/keyed.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { coverageNotes } from "../../words/coverage-words.ts";
import { basisOf } from "../../compare/basis-of.ts";
import { compareKpi, compareSides, type SidesCompared } from "../../compare/compare-kpi.ts";
import type { Frame } from "../../compare/frame.ts";
import { isMeasured, measureOver, measureWhole } from "../../compare/measure.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import { outlookNote, outlookOf } from "../../compare/outlook.ts";
import { SHOWN, PRIOR_YEAR } from "../../compare/side.ts";
import type { TileFigureKind } from "./figure-kinds.ts";
import { varianceOf } from "../../compare/variance.ts";
import { spanWindow, wholeWindow, type Window } from "../../compare/window.ts";
import type { Figure, Variance } from "../../figures/schema.ts";

/** One of a tile's small figures with what it is held against: the basis, or the actual where the figure itself is the past. */
export interface TileFigure {
  readonly kind: TileFigureKind;
  readonly figure: Figure;
  readonly variance: Variance;
  /** How it was made and what it leaves out, where the name does not say it; empty otherwise. */
  readonly note: string;
}

/** A KPI as a tile needs it: with its pace carried on to the end of the month and of the year. */
export interface TileKpi {
  readonly kpi: CompiledKpi;
  readonly pace: Readonly<Record<"month" | "year", readonly Pace[] | string>>;
}

/** A way to carry a pace on, by how many prior years' season; 0 for an even pace. */
interface Pace {
  readonly seasons: number;
  readonly kpi: CompiledKpi;
}

/** The season of two years where they are there, else of one, else an even pace. */
const SEASONS = [2, 1, 0];

const MONTH: Span = { kind: "month" };
const TO_DAY: Span = { kind: "month-to-date" };
const YEAR_TO_DATE: Span = { kind: "year-to-date" };
const FULL_YEAR: Span = { kind: "full-year" };

/**
 * Prepares a KPI for tiles. Its pace is a formula of the one language over the KPI, so that
 * it is refused, in words, where it would say nothing: what does not add up has no pace.
 */
export function tileKpi(kpi: CompiledKpi, names: () => FormulaNames): TileKpi {
  return getOrCreate(prepared, kpi, () => prepareKpi(kpi, names()));
}

/** A KPI is compiled anew whenever a name could mean something else: what follows from it is found once. */
const prepared = new WeakMap<CompiledKpi, TileKpi>();

function prepareKpi(kpi: CompiledKpi, names: FormulaNames): TileKpi {
  const pace = (to: "month" | "year") => {
    const paces: Pace[] = [];
    for (const seasons of SEASONS) {
      const formula = `run_rate(${kpi.definition.key}, to: ${to}, season: ${seasons})`;
      const result = compileFormula(formula, names);
      if (!result.ok) return result.problem.message;
      paces.push({ seasons, kpi: { definition: { ...kpi.definition, formula }, formula: result.value } });
    }
    return paces;
  };
  return { kpi, pace: { month: pace("month"), year: pace("year") } };
}

/** One small figure of a KPI in a frame. */
export function tileFigure(kind: TileFigureKind, tile: TileKpi, frame: Frame, context: MeasureContext): TileFigure {
  const { kpi } = tile;
  const over = (span: Span): TileFigure => {
    const compared = compareKpi(kpi, { ...frame, span }, context);
    return { kind, figure: compared.actual.figure, variance: compared.variance, note: leftOut(compared, context) };
  };
  switch (kind) {
    case "month":
      return over(MONTH);
    case "month-to-date":
      return over(TO_DAY);
    case "year-to-date":
      return over(YEAR_TO_DATE);
    case "same-day": {
      const compared = compareKpi(kpi, lastMonthToDay(frame), context);
      return { kind, figure: compared.basis.figure, variance: compared.variance, note: leftOut(compared, context) };
    }
    case "prior-year": {
      const window = spanWindow(context, frame.span, frame.asOf);
      const compared = compareSides(kpi, SHOWN, PRIOR_YEAR, window, context);
      return { kind, figure: compared.basis.figure, variance: compared.variance, note: leftOut(compared, context) };
    }
    case "run-rate-month":
      return paceFigure(kind, tile, tile.pace.month, { ...frame, span: MONTH }, context);
    case "run-rate-year":
      return paceFigure(kind, tile, tile.pace.year, { ...frame, span: FULL_YEAR }, context);
    case "outlook": {
      const outlook = outlookOf(kpi, frame, context);
      return { kind, figure: outlook.figure, variance: outlook.variance, note: outlookNote(outlook) };
    }
  }
}

/** The pace carried on to the end of a span, against the whole of that span by the basis. */
function paceFigure(
  kind: TileFigureKind,
  { kpi }: TileKpi,
  paces: readonly Pace[] | string,
  whole: Frame,
  context: MeasureContext,
): TileFigure {
  const window = wholeWindow(context, whole.span, whole.asOf);
  const { figure, note } =
    typeof paces === "string" ? { figure: absent("not covered", paces), note: "" } : carryOn(paces, window, context);
  const { side } = basisOf(kpi, whole, context);
  const found = "absent" in side ? side : measureWhole(kpi, side, window, context);
  const basis = isMeasured(found) ? found.figure : found;
  const delta = combine(figure, basis, (a, b) => present(a - b));
  return { kind, figure, variance: varianceOf(delta, basis, kpi.definition), note };
}

/** By the first of the paces that has a figure. */
function carryOn(
  paces: readonly Pace[],
  window: Window,
  context: MeasureContext,
): { readonly figure: Figure; readonly note: string } {
  let figure: Figure = absent("no data", "There is no run rate.");
  for (const { kpi, seasons } of paces) {
    ({ figure } = measureOver(kpi, SHOWN, window, context));
    if (isPresent(figure)) return { figure, note: paceNote(seasons) };
  }
  return { figure, note: "" };
}

function paceNote(seasons: number): string {
  if (seasons === 0) return "The pace so far, by days, continued evenly.";
  return `The pace so far, weighted by the season of the last ${seasons === 1 ? "year" : `${seasons} years`}.`;
}

/** The frame of last month to the same day: month to date against the period before. */
function lastMonthToDay(frame: Frame): Frame {
  return { ...frame, span: TO_DAY, basis: { kind: "prior-period" } };
}

/** What a comparison leaves out, as one note. */
function leftOut(compared: SidesCompared, { calendar, accounts }: MeasureContext): string {
  return coverageNotes(compared, { calendar, accounts, fallbackFrom: null }).join(" ");
}
