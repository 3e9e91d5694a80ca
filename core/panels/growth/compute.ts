import { rangeName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth } from "../../calendar/month.ts";
import { priorPeriodShift } from "../../calendar/span.ts";
import { compareSides } from "../../compare/compare-kpi.ts";
import { inMember } from "../../compare/measure-ground.ts";
import { SHOWN, PRIOR_YEAR } from "../../compare/side.ts";
import { frameMonths, spanWindow } from "../../compare/window.ts";
import { isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { grownIn, grownOn, sideBefore } from "../../series/grown.ts";
import { partOfPeriod, periodsOf, type Period } from "../../series/periods.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { beyondNotes, repetition } from "../parts/repetition.ts";
import { livedOn } from "../parts/shown-member.ts";
import { growthHeadline } from "./words.ts";
import type { GrowthChoice, GrowthDefinition, GrowthOn, GrowthRange, GrowthPoint, GrowthAnswer } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

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
  const onYear = on === "prior-year" || grain === "year";
  const known = periodsOf(grain, { calendar, asOf, months: [], last: count + 12 }).filter(({ from }) => from <= asOf);
  const { whole, left } = withoutPart(known, asOf, onYear);
  const periods = whole.slice(-count);
  const points = periods.map((period) => {
    const months =
      period.from === period.to ? formatMonth(period.from) : `${formatMonth(period.from)}..${formatMonth(period.to)}`;
    const grown = grownIn(kpi, period, { grain, onYear, earlier: undefined }, context);
    return { key: period.key, name: period.name, short: period.short, member: null, months, ...grown };
  });
  const over = periods.length === 0 ? "no period" : rangeName(calendar, periods[0]!.from, periods.at(-1)!.to);
  const notes = left
    ? [`${left.name}, is left out: a part of a ${grain} is not compared with the whole ${grain} before.`]
    : [];
  return { points, noun: grain, dimension: null, over, notes };
}

/**
 * A period that the as-of month cuts is compared with the same months of the year before; with the period just before,
 * which has other months, it is not compared at all.
 */
function withoutPart(
  periods: readonly Period[],
  asOf: number,
  onYear: boolean,
): { readonly whole: readonly Period[]; readonly left: Period | null } {
  const last = periods.at(-1);
  if (!last || last.to <= asOf) return { whole: periods, left: null };
  const part = partOfPeriod(last, last.from, asOf);
  const whole = periods.slice(0, -1);
  return onYear ? { whole: [...whole, part], left: null } : { whole, left: part };
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
      const own = inMember(context, dimension.key, member.key, member.scope);
      const grown = grownOn(kpi, compareSides(kpi, SHOWN, side, window, own));
      const place = { key: member.key, name: member.name, short: member.name, member, months: null };
      return { ...place, ...grown };
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
