import { fiscalYearName, fiscalYearOf, fiscalYearStart, periodName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth, monthName, monthsBetween } from "../../calendar/month.ts";
import { measureMonth } from "../../compare/measure.ts";
import { ACTUAL } from "../../compare/side.ts";
import { absent, isPresent, type Figure } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { FrameAnswer } from "../../frame/frame-answer.ts";
import { QuestionRefused } from "../../frame/question-refused.ts";
import { fittedLine, type FittedLine } from "../../statistics/fitted-line.ts";
import { listed } from "../../words/listed.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead, type KpiHead } from "../parts/kpi-head.ts";
import { MOST_SEASONS, type SeasonChoice, type SeasonDefinition, type SeasonView } from "./definition.ts";
import { monthStatistics, type MonthStatistics } from "./statistics.ts";
import { seasonHeadline } from "./words.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";

/** A fiscal year, month by month. */
export interface SeasonYear {
  readonly key: string;
  readonly isStudied: boolean;
  /** From the first month of the fiscal year on. */
  readonly values: readonly Figure[];
  readonly months: readonly string[];
}

/** A KPI by month of the year. */
export interface SeasonAnswer {
  readonly kind: "season";
  readonly frame: FrameAnswer;
  readonly kpi: KpiHead;
  readonly headline: string;
  readonly descriptor: string;
  readonly view: SeasonView;
  /** The months of the fiscal year, in their order. */
  readonly monthNames: readonly string[];
  /** Oldest first, the one under study last. */
  readonly years: readonly SeasonYear[];
  /** The years that can be studied. */
  readonly choices: readonly string[];
  /** Over the other years, or over all of them where the one under study counts. */
  readonly statistics: readonly (MonthStatistics | null)[];
  /** What the year after the one under study would be if it were as those before. */
  readonly next: { readonly name: string; readonly months: readonly (MonthStatistics | null)[] };
  /** The year under study on the average of the others. */
  readonly line: FittedLine | null;
  readonly refusal: string | null;
  readonly notes: readonly string[];
}

export function computeSeason(
  definition: SeasonDefinition,
  choice: SeasonChoice,
  question: PanelQuestion,
): SeasonAnswer {
  const { company, asked } = question;
  const { calendar } = company;
  const { asOf } = asked.frame;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const context = measureContext(question);
  const last = fiscalYearOf(calendar, asOf);
  const choices = Array.from({ length: MOST_SEASONS }, (_, i) => last - i);
  const studied = choices.find((year) => fiscalYearName(year) === choice.year) ?? last;
  if (choice.year !== undefined && fiscalYearName(studied) !== choice.year)
    throw new QuestionRefused(
      "unknown-period",
      `"${choice.year}" is no year to study: there are ${fiscalYearName(choices.at(-1)!)} to ${fiscalYearName(last)}.`,
    );
  const yearOf = (year: number): SeasonYear => {
    const start = fiscalYearStart(calendar, year);
    const months = monthsBetween(start, start + 11);
    return {
      key: fiscalYearName(year),
      isStudied: year === studied,
      months: months.map(formatMonth),
      values: months.map((month) =>
        month > asOf
          ? absent("not closed yet", `${periodName(calendar, month)} is after the as-of period.`)
          : measureMonth(kpi, ACTUAL, month, context).figure,
      ),
    };
  };
  const all = Array.from({ length: definition.years + 1 }, (_, i) => yearOf(studied - definition.years + i));
  const isThere = ({ values }: SeasonYear) => values.some(isPresent);
  const years = all.filter((year) => isThere(year) || year.isStudied);
  const others = years.filter(({ isStudied }) => !isStudied);
  const counted = definition.countsStudied ? years : others;
  const statistics = monthStatistics(counted.map(({ values }) => values));
  const own = years.at(-1)!;
  const pairs = own.values.flatMap((figure, i) => {
    const month = statistics[i];
    return month && isPresent(figure) ? [{ x: month.mean, y: figure.value }] : [];
  });
  const { name } = kpi.definition;
  const view = choice.view ?? definition.view;
  const monthNames = own.months.map((_, i) => monthName(fiscalYearStart(calendar, studied) + i));
  return {
    kind: "season",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    headline:
      definition.title !== undefined && kpi.definition.key === definition.kpi && choice.year === undefined
        ? definition.title
        : seasonHeadline(kpi, { monthNames, own, others, statistics, counted: counted.length }),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}, by month of the year, ${own.key} ${others.length === 0 ? "alone" : `against ${rangeOf(others)}`}, for ${asked.answer.words.scope}`,
    view,
    monthNames,
    years,
    choices: choices.map(fiscalYearName),
    statistics,
    next: {
      name: fiscalYearName(studied + 1),
      months: monthStatistics(years.slice(-Math.max(1, definition.years)).map(({ values }) => values)),
    },
    line: fittedLine(pairs),
    refusal: refusalOf(name, own, others),
    notes: notesOf(all, isThere, counted),
  };
}

function refusalOf(name: string, own: SeasonYear, others: readonly SeasonYear[]): string | null {
  if (others.length === 0)
    return `${name} has figures of no year before ${own.key}: there is nothing that would be normal. Take a later year, or a KPI with a longer past.`;
  return null;
}

function rangeOf(years: readonly SeasonYear[]): string {
  const [first, last] = [years[0]!.key, years.at(-1)!.key];
  return first === last ? first : `${first}–${last}`;
}

/** Years that have nothing, and months that not every year has. */
function notesOf(
  all: readonly SeasonYear[],
  isThere: (year: SeasonYear) => boolean,
  counted: readonly SeasonYear[],
): string[] {
  const missing = all.filter((year) => !isThere(year) && !year.isStudied).map(({ key }) => key);
  const partly = counted
    .filter(({ values, isStudied }) => !isStudied && values.some((figure) => !isPresent(figure)))
    .map(({ key, values }) => `${key} (${values.filter(isPresent).length} of 12 months)`);
  return [
    ...(missing.length > 0 ? [`Without figures: ${listed(missing)}.`] : []),
    ...(partly.length > 0 ? [`Not whole: ${listed(partly)}.`] : []),
  ];
}
