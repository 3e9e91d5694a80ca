import type { MeasureContext } from "../../compare/measure-ground.ts";
import { isPresent } from "../../figures/figure.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import type { Grain } from "../../series/grain.ts";
import { grownIn } from "../../series/grown.ts";
import { movingAverage } from "../../series/moving-average.ts";
import type { Period } from "../../series/periods.ts";
import { wholeFigure } from "../../series/whole-period.ts";
import { fittedLine } from "../../statistics/fitted-line.ts";
import { deltaStyle, writeSigned, type MoneyUnit } from "../../formats/number-words.ts";
import type { SeriesPoint } from "./time-series.ts";
import type { MovingAverage, TimeStrip, OverlayLine, TrendLine, StripAnswer } from "./schema.ts";
import type { FittedLine } from "../../statistics/schema.ts";

/** The moving average at the shown periods, which are the last of `all`. */
export function movingOver(
  kpi: CompiledKpi,
  { periods, isCentred }: MovingAverage,
  all: readonly Period[],
  shown: number,
  grain: Grain,
  context: MeasureContext,
): OverlayLine {
  const actualOf = (period: Period) => wholeFigure(kpi, period, context);
  const figures = movingAverage(kpi, all, { size: periods, isCentred }, actualOf, context);
  return {
    name: `Average of ${periods} ${grain}s${isCentred ? " around it" : ""}`,
    figures: figures.slice(figures.length - shown),
  };
}

/** The least squares line through the actual of the whole periods; `null` where three are not there, or do not vary. */
export function trendOver(
  kpi: CompiledKpi,
  points: readonly SeriesPoint[],
  grain: Grain,
  money: MoneyUnit,
): TrendLine | null {
  const pairs = points.flatMap(({ actual, period }, place) =>
    isPresent(actual) && !period.isPart ? [{ x: place, y: actual.value }] : [],
  );
  const line: FittedLine | null = fittedLine(pairs);
  if (!line) return null;
  const { unit, decimals } = kpi.definition;
  const at = (place: number) => ({ place, value: line.intercept + line.slope * place });
  return {
    words: `${writeSigned(line.slope, deltaStyle(unit, decimals, money))} a ${grain}, R² ${line.r2.toFixed(2)}`,
    slope: line.slope,
    r2: line.r2,
    n: line.n,
    from: at(pairs[0]!.x),
    to: at(pairs.at(-1)!.x),
  };
}

/** What stands below; `null` where nothing does. */
export function stripOver(
  kind: TimeStrip,
  kpi: CompiledKpi,
  points: readonly SeriesPoint[],
  {
    basisName,
    grain,
    lead,
  }: {
    readonly basisName: string;
    readonly grain: Grain;
    /** The period before the first shown one. */ readonly lead: Period | undefined;
  },
  context: MeasureContext,
): StripAnswer | null {
  if (kind === "none") return null;
  const isRate = kpi.definition.unit.kind === "percent";
  if (kind === "delta" || kind === "delta-percent") {
    const isPercent = kind === "delta-percent" && !isRate;
    return {
      kind,
      name: `${isPercent ? "Δ%" : "Δ"} ${basisName}`,
      isPercent,
      points: points.map(({ variance: { delta, deltaPercent, judgement } }) => ({
        figure: isPercent ? deltaPercent : delta,
        judgement,
      })),
    };
  }
  const onYear = kind === "growth-on-year";
  return {
    kind,
    name: onYear ? "Growth on prior year" : `Growth on ${grain} before`,
    isPercent: !isRate,
    points: points.map(({ period }, i) => {
      const earlier = i === 0 ? lead : points[i - 1]!.period;
      const { growth, judgement } = grownIn(kpi, period, { grain, onYear, earlier }, context);
      return { figure: growth, judgement };
    }),
  };
}
