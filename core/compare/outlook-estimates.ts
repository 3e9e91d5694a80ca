import { forecastHistory } from "../ahead/forecast-history.ts";
import { historyOf } from "../ahead/history.ts";
import type { Month } from "../calendar/month.ts";
import { powerOfTen } from "../figures/amount.ts";
import { absent, combine, present } from "../figures/figure.ts";
import { evaluateInMinorUnits } from "../formula/evaluate.ts";
import type { FormulaInput } from "../formula/node.ts";
import type { MeasureContext } from "./measure-ground.ts";
import type { Measurement } from "./measurement.ts";
import type { Measuring } from "./measuring.ts";
import { ESTIMATE_NAMES, type OutlookEstimate } from "../formula/outlook-source.ts";
import { ACTUAL, type Side } from "./side.ts";
import type { Measured } from "./measured.ts";
import type { Rest, YearStretch } from "./year-stretch.ts";
import type { Absence, Figure } from "../figures/schema.ts";

interface Tools {
  readonly over: (side: Side, months: readonly Month[]) => Measurement | Absence;
  readonly context: MeasureContext;
  readonly measuring: Measuring;
}

type Estimated = Rest & { readonly name: string };

/** The run rate takes the season of at most so many prior years. */
const SEASON_YEARS = 3;

/** Estimates the months of a year that are not closed; absent where there is nothing to estimate them from. */
export function estimateRest(
  by: OutlookEstimate,
  kpi: Measured,
  stretch: YearStretch,
  tools: Tools,
): Estimated | Absence {
  if (by === "model") return byModel(kpi, stretch, tools);
  const { closed, actual, year, rest } = stretch;
  if (!actual) return absent("no base", "No month of the year is closed: there is no pace to carry on.");
  const priors = (by === "prior-year" ? [1] : wholeYearsBefore(year, tools)).map((back) => ({
    back,
    closed: tools.over(before(back), closed),
    rest: tools.over(before(back), rest),
  }));
  const whole = priors.flatMap((one) =>
    "absent" in one.closed || "absent" in one.rest ? [] : [{ back: one.back, closed: one.closed, rest: one.rest }],
  );
  if (whole.length === 0) {
    const missing = priors.flatMap(({ closed: a, rest: b }) => [a, b]).find((one) => "absent" in one);
    return missing ?? absent("no base", "No prior year is whole: there is no season to go by.");
  }
  const paces = kpi.formula.inputs.map((input, i) =>
    paceOf(
      input,
      actual.inputs[i]!,
      whole.map((one) => one.closed.inputs[i]!),
    ),
  );
  const scaled = (measured: readonly (readonly Figure[])[]) =>
    kpi.formula.inputs.map((input, i) => {
      if (input.kind === "clock") return measured[0]![i]!;
      return combine(sumOf(measured.map((inputs) => inputs[i]!)), paces[i]!, (seen, pace) => present(seen * pace));
    });
  const monthly = rest.map((month) => {
    const own = whole.map(({ back }) => tools.over(before(back), [month]));
    const missing = own.find((one) => "absent" in one);
    return missing ? null : scaled(own.map((one) => (one as Measurement).inputs));
  });
  return {
    name: by === "run-rate" && whole.length > 1 ? `${ESTIMATE_NAMES[by]} of ${whole.length} years` : ESTIMATE_NAMES[by],
    inputs: scaled(whole.map((one) => one.rest.inputs)),
    first: monthly[0] ?? null,
    monthly: monthly.map((inputs) =>
      inputs ? evaluateInMinorUnits(kpi.formula, inputs) : absent("not covered", "The month is not covered."),
    ),
    whole: null,
  };
}

function before(years: number): Side {
  return {
    scenario: ACTUAL.scenario,
    shift: 12 * years,
    name: years === 1 ? "Prior year" : `Actual ${years} years before`,
  };
}

/** How many years before the same months are there whole. */
function wholeYearsBefore(year: readonly Month[], { over }: Tools): number[] {
  return Array.from({ length: SEASON_YEARS }, (_, i) => i + 1).filter(
    (back) => !("absent" in over(before(back), year)),
  );
}

/** This year's value by those of the same months before; 0 where there is nothing this year. */
function paceOf(input: FormulaInput, now: Figure, then: readonly Figure[]): Figure {
  if (input.kind === "clock") return present(1);
  return combine(now, sumOf(then), (value, seen) => {
    if (value === 0) return present(0);
    if (seen === 0 || value / seen < 0)
      return absent("no base", "The same months before had nothing, or the other sign: there is no pace to carry on.");
    return present(value / seen);
  });
}

function sumOf(figures: readonly Figure[]): Figure {
  return figures.reduce((sum, figure) => combine(sum, figure, (a, b) => present(a + b)));
}

/** The forecast that a chart over time shows where it looks ahead: of the formula's own series, or of its inputs. */
function byModel(
  kpi: Measured,
  { closed, rest, year, actual }: YearStretch,
  { context, measuring }: Tools,
): Estimated | Absence {
  const known = closed.at(-1) ?? year[0]! - 1;
  const ground = { ...context, knownTo: known };
  const placed = historyOf(kpi, "month", ground, measuring);
  if (!placed) return absent("no data", "No month has a figure to forecast from.");
  const { history, later } = placed;
  const forecast = forecastHistory(history, {
    horizon: Math.min(later.length, rest.at(-1)! - placed.periods.at(-1)!.to),
  });
  if ("notFitted" in forecast) return absent("not covered", `There is no forecast by model: ${forecast.notFitted}`);
  const steps = rest.map((month) => month - placed.periods.at(-1)!.to - 1);
  const { formula } = kpi;
  const name = ESTIMATE_NAMES.model;
  if (!forecast.isByInputs) {
    const scale = powerOfTen(formula.root.decimals);
    const monthly = steps.map((step) => stepFigure(forecast.points[step], scale));
    const toDate = actual ? evaluateInMinorUnits(formula, actual.inputs) : present(0);
    const whole =
      formula.behaviour === "flow"
        ? combine(toDate, sumOf(monthly), (a, b) => present(a + b))
        : formula.gathering === "closing"
          ? monthly.at(-1)!
          : absent("not covered", "It neither adds up nor closes: there is no year to forecast by model.");
    const none = formula.inputs.map(() => absent("not covered", "Its own series was forecast, not its inputs."));
    return { name, inputs: none, first: null, monthly, whole };
  }
  let next = 0;
  const series = formula.inputs.map((input, i) => {
    const ownKnown = history.made!.inputs[i]!.known;
    const points = ownKnown ?? forecast.made[next++]!.forecast.points;
    return { input, at: steps.map((step) => stepFigure(points[step], 1)) };
  });
  return {
    name,
    inputs: series.map(({ input, at }) => {
      const gathering = input.kind === "account" ? input.gathering : "sum";
      if (gathering === "closing") return at.at(-1)!;
      return combine(sumOf(at), present(gathering === "average" ? at.length : 1), (sum, n) => present(sum / n));
    }),
    first: series.map(({ at }) => at[0]!),
    monthly: steps.map((_, i) =>
      evaluateInMinorUnits(
        formula,
        series.map(({ at }) => at[i]!),
      ),
    ),
    whole: null,
  };
}

function stepFigure(point: number | undefined, scale: number): Figure {
  return point === undefined ? absent("not covered", "It is beyond what can be looked ahead.") : present(point * scale);
}
