import { scaleLinear } from "d3-scale";
import { intervalsAt } from "#core/panels/time-chart/intervals-at.ts";
import { writeNumber, writeSigned, type NumberStyle } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import type { Box } from "../../chart-kit/geometry.ts";
import { besideMark, labelWidth, type SideLabel } from "../../chart-kit/labels.ts";
import type { SeriesPointAnswer, TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** What lying bars are laid out from. Values are in the KPI's own unit. */
export interface PeriodBarsOptions {
  readonly data: Pick<TimeChartAnswer, "points" | "ahead" | "basisName">;
  readonly width: number;
  /** The room there is; more periods than fit make it higher. */
  readonly height: number;
  readonly style: NumberStyle;
  readonly deltaStyle: NumberStyle;
  /** What the axis must show besides, so that charts can be compared. */
  readonly extent?: readonly number[];
  /** The same points of the part that is weighed; none where nothing is. */
  readonly weighed?: readonly SeriesPointAnswer[];
}

/** A period's bar, with every place decided. */
export interface PeriodBar {
  readonly point: SeriesPointAnswer;
  /** The line's whole space, for pointing at. */
  readonly band: Box;
  readonly centre: number;
  readonly name: string;
  readonly bar: Box | null;
  /** The part of it that is weighed. */
  readonly part: Box | null;
  readonly isForecast: boolean;
  /** The widest interval of a forecast. */
  readonly interval: { readonly from: number; readonly to: number; readonly level: number } | null;
  readonly basis: { readonly x: number; readonly y1: number; readonly y2: number } | null;
  readonly value: SideLabel | null;
  /** Against the basis, at the right; `null` where there is none. */
  readonly delta: string | null;
}

/** Lying bars ready to draw. */
export interface PeriodBarsLayout {
  readonly bars: readonly PeriodBar[];
  readonly height: number;
  readonly zero: number;
  readonly plot: Box;
  /** The line between what is closed and what is expected; `null` where all is one of them. */
  readonly openY: number | null;
}

const HEAD = 16;
const FOOT = 4;
const LEAST_LINE = 17;
const MOST_LINE = 40;
const GAP = 10;
/** Below this width the variance gives way. */
const DELTA_FROM = 340;

/** A year of periods is seen without scrolling. */
const LEAST_SEEN = 12;

/** The height that lying bars need at least: that of a year of months, or of all periods where they are fewer. */
export function leastBarsHeight(periods: number): number {
  return HEAD + LEAST_LINE * Math.min(periods, LEAST_SEEN) + FOOT;
}

/** All values that the bars' axis shows. */
export function periodBarValues({ points, ahead }: PeriodBarsOptions["data"]): number[] {
  return points.flatMap((point, i) => [
    ...valueOf(shownOf(point)),
    ...valueOf(point.basis),
    ...(widest(ahead, i) ? [widest(ahead, i)!.lower, widest(ahead, i)!.upper] : []),
  ]);
}

/** Lays out periods down the side, each a bar of what is closed or expected. Pure: the same options give the same marks. */
export function layoutPeriodBars({
  data,
  width,
  height,
  style,
  deltaStyle,
  extent = [],
  weighed = [],
}: PeriodBarsOptions): PeriodBarsLayout {
  const { points, ahead } = data;
  const line = Math.max(LEAST_LINE, Math.min(MOST_LINE, (height - HEAD - FOOT) / Math.max(1, points.length)));
  const names = points.map(({ name }) => name);
  const deltas = points.map(({ variance: { delta } }) =>
    "value" in delta ? writeSigned(delta.value, { ...deltaStyle, prefix: "", suffix: "" }) : null,
  );
  const hasDelta = width >= DELTA_FROM && deltas.some((delta) => delta !== null);
  const nameWidth = Math.max(...names.map(labelWidth), 0) + GAP;
  const deltaWidth = hasDelta ? Math.max(...deltas.map((delta) => labelWidth(delta ?? ""))) + 2 * GAP : 0;
  const texts = points.map((point) => valueOf(shownOf(point)).map((value) => writeNumber(value, style))[0]);
  const room = Math.max(0, ...texts.map((text) => labelWidth(text ?? ""))) + GAP;
  const plot: Box = {
    x: nameWidth,
    y: HEAD,
    width: Math.max(40, width - nameWidth - deltaWidth),
    height: line * points.length,
  };
  const values = [...periodBarValues(data), ...extent];
  const [low, high] = [Math.min(0, ...values), Math.max(0, ...values)];
  const x = scaleLinear(
    [low, high === low ? low + 1 : high],
    [plot.x + (low < 0 ? room : 0), plot.x + plot.width - (high > 0 || low === 0 ? room : 0)],
  );
  const firstOpen = points.findIndex((point) => !("value" in point.actual) && "value" in point.forecast);
  return {
    bars: points.map((point, i): PeriodBar => {
      const top = plot.y + i * line;
      const [value] = valueOf(shownOf(point));
      const [basis] = valueOf(point.basis);
      const thick = Math.min(20, line * 0.6);
      const centre = top + line / 2;
      const [part] = weighed[i] ? valueOf(shownOf(weighed[i])) : [];
      const interval = widest(ahead, i);
      const boxOf = (of: number): Box => ({
        x: Math.min(x(0), x(of)),
        y: centre - thick / 2,
        width: Math.abs(x(of) - x(0)),
        height: thick,
      });
      const ends =
        value === undefined ? [] : [x(value), ...(interval ? [x(value < 0 ? interval.lower : interval.upper)] : [])];
      const isLeft = value !== undefined && value < 0;
      const end = isLeft
        ? Math.min(...ends) - 5
        : Math.max(...ends, basis === undefined || isLeft ? -Infinity : x(basis)) + 5;
      return {
        point,
        band: { x: 0, y: top, width, height: line },
        centre,
        name: point.name,
        bar: value === undefined ? null : boxOf(value),
        part: part === undefined ? null : boxOf(part),
        isForecast: !("value" in point.actual),
        interval: interval && { from: x(interval.lower), to: x(interval.upper), level: interval.level },
        basis: basis === undefined ? null : { x: x(basis), y1: centre - line * 0.42, y2: centre + line * 0.42 },
        value: value === undefined ? null : besideMark(texts[i]!, end, isLeft, plot),
        delta: hasDelta ? deltas[i]! : null,
      };
    }),
    height: plot.y + plot.height + FOOT,
    zero: x(0),
    plot,
    openY: firstOpen > 0 ? plot.y + firstOpen * line : null,
  };
}

/** What is drawn of a period: the actual, or what is expected where it is open. */
function shownOf({ actual, forecast }: SeriesPointAnswer): Figure {
  return "value" in actual ? actual : forecast;
}

/** The widest interval of the whole at a period, where it is looked ahead to. */
function widest(ahead: TimeChartAnswer["ahead"], place: number) {
  const whole = ahead?.series.find(({ key }) => key === "");
  return whole && ahead && place >= ahead.from ? (intervalsAt(whole, place - ahead.from).at(-1) ?? null) : null;
}

function valueOf(figure: Figure): number[] {
  return "value" in figure ? [figure.value] : [];
}
