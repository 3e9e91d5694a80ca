import { rangeName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth } from "../../calendar/month.ts";
import { priorPeriodShift } from "../../calendar/span.ts";
import { compareSides } from "../../compare/compare-kpi.ts";
import { notInLife } from "../../compare/not-in-life.ts";
import { SHOWN, PRIOR_YEAR } from "../../compare/side.ts";
import { frameMonths, rangeWindow, spanWindow } from "../../compare/window.ts";
import { isPresent, type Figure } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { FrameAnswer } from "../../frame/frame-answer.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { GRAIN_MONTHS, grownOn, sideBefore, type Grown } from "../../series/grown.ts";
import { partOfPeriod, periodsOf, type Period } from "../../series/periods.ts";
import { monthsBetween } from "../../calendar/month.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead, type KpiHead } from "../parts/kpi-head.ts";
import { memberLife } from "../parts/member-life.ts";
import { beyondNotes, repetition } from "../parts/repetition.ts";
import { livedOn, type ShownMember } from "../parts/shown-member.ts";
import type { GrowthChoice, GrowthDefinition, GrowthOn, GrowthRange } from "./definition.ts";
import { growthHeadline } from "./words.ts";

/** A period or a member with how it grew. */
export interface GrowthPoint extends Grown {
  readonly key: string;
  readonly name: string;
  readonly short: string;
  readonly member: ShownMember | null;
  readonly months: string | null;
  /** Its place among one's own ranges; `null` where there are none, or there is no growth. */
  readonly range: number | null;
}

/** A KPI's growth over time, or by members. */
export interface GrowthAnswer {
  readonly kind: "growth";
  readonly frame: FrameAnswer;
  readonly kpi: KpiHead;
  readonly headline: string;
  readonly descriptor: string;
  readonly on: GrowthOn;
  /** "month", "quarter", "year", or what members are called here. */
  readonly noun: string;
  readonly dimension: string | null;
  readonly ranges: readonly GrowthRange[] | null;
  readonly points: readonly GrowthPoint[];
  readonly notes: readonly string[];
}

const USUAL = { month: 12, quarter: 8, year: 5 } as const;

export function computeGrowth(
  definition: GrowthDefinition,
  choice: GrowthChoice,
  question: PanelQuestion,
): GrowthAnswer {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const on = choice.on ?? definition.on;
  const { by } = definition;
  const found =
    by.kind === "member"
      ? byMember(by, kpi, on, question)
      : byTime({ grain: choice.grain ?? by.grain, last: choice.grain ? null : by.last }, kpi, on, question);
  const { ranges } = definition;
  const points = found.points.map((point) => ({ ...point, range: rangeOf(point.growth, ranges) }));
  const { name } = kpi.definition;
  return {
    kind: "growth",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    headline:
      definition.title !== undefined && kpi.definition.key === definition.kpi
        ? definition.title
        : growthHeadline(kpi, points, { noun: found.noun, on, isOverTime: by.kind === "time" }),
    descriptor: `${name}, growth on the ${ON_WORDS[on](found.noun, by.kind === "time")}, by ${found.noun}, ${found.over}, for ${asked.answer.words.scope}`,
    on,
    noun: found.noun,
    dimension: found.dimension,
    ranges,
    points,
    notes: found.notes,
  };
}

const ON_WORDS: Readonly<Record<GrowthOn, (noun: string, isOverTime: boolean) => string>> = {
  "prior-year": () => "prior year",
  "prior-period": (noun, isOverTime) => (isOverTime ? `${noun} before` : "prior period"),
};

type Found = Pick<GrowthAnswer, "noun" | "dimension" | "notes"> & {
  readonly points: readonly Omit<GrowthPoint, "range">[];
  readonly over: string;
};

function byTime(
  { grain, last }: { grain: keyof typeof USUAL; last: number | null },
  kpi: CompiledKpi,
  on: GrowthOn,
  question: PanelQuestion,
): Found {
  const { calendar } = question.company;
  const { asOf } = question.asked.frame;
  const context = measureContext(question);
  const count = last ?? USUAL[grain];
  const side = sideBefore(on === "prior-year" ? 12 : GRAIN_MONTHS[grain]!);
  const periods = periodsOf(grain, { calendar, asOf, months: [], last: count + 12 })
    .filter(({ from }) => from <= asOf)
    .slice(-count);
  const points = periods.map((whole) => {
    const period = asFarAs(whole, asOf);
    const compared = compareSides(kpi, SHOWN, side, period.window, context);
    const months =
      period.from === period.to ? formatMonth(period.from) : `${formatMonth(period.from)}..${formatMonth(period.to)}`;
    return { key: period.key, name: period.name, short: period.short, member: null, months, ...grownOn(kpi, compared) };
  });
  const over = periods.length === 0 ? "no period" : rangeName(calendar, periods[0]!.from, periods.at(-1)!.to);
  return { points, noun: grain, dimension: null, over, notes: [] };
}

/** A period that the as-of month cuts is shown as far as it goes, and compared with as much of the one before. */
function asFarAs(period: Period, asOf: number): Period {
  return period.to <= asOf
    ? { ...period, window: rangeWindow(monthsBetween(period.from, period.to)) }
    : partOfPeriod(period, period.from, asOf);
}

function byMember(
  by: Extract<GrowthDefinition["by"], { kind: "member" }>,
  kpi: CompiledKpi,
  on: GrowthOn,
  question: PanelQuestion,
): Found {
  const { frame, answer } = question.asked;
  const context = measureContext(question);
  const window = spanWindow(context, frame.span, frame.asOf);
  const side = on === "prior-year" ? PRIOR_YEAR : sideBefore(priorPeriodShift(frame.span));
  const { calendar } = question.company;
  const months = frameMonths(calendar, frame);
  const repeated = repetition(question, by, null, livedOn(months, side.shift));
  const { members, level, dimension } = repeated;
  const points = members
    .map((member) => {
      const compared = compareSides(kpi, SHOWN, side, window, { ...context, scope: member.scope });
      const grown = grownOn(kpi, compared);
      const place = { key: member.key, name: member.name, short: member.name, member, months: null };
      if (memberLife(dimension, member.key, months, side.shift) !== "gone") return { ...place, ...grown };
      // It is gone, which is neither growth nor a fall.
      const gone = notInLife([member.name], calendar, months);
      return { ...place, ...grown, now: gone, growth: gone, judgement: null };
    })
    .sort((a, b) => sizeOf(b.growth) - sizeOf(a.growth));
  const notes = beyondNotes(repeated);
  return { points, noun: level, dimension: dimension.key, over: answer.words.spanMonths, notes };
}

function rangeOf(growth: Figure, ranges: readonly GrowthRange[] | null): number | null {
  if (!ranges || !isPresent(growth)) return null;
  const place = ranges.findIndex(({ below }) => below === null || growth.value < below);
  return place < 0 ? null : place;
}

function sizeOf(growth: Figure): number {
  return isPresent(growth) ? growth.value : -Infinity;
}
