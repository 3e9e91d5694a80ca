import { fiscalYearName, fiscalYearOf, fiscalYearStart, periodName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth, monthName, monthsBetween } from "../../calendar/month.ts";
import { measureMonth } from "../../compare/measure.ts";
import { ACTUAL } from "../../compare/side.ts";
import { absent, isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import { QuestionRefused } from "../../frame/question-refused.ts";
import { fittedLine } from "../../statistics/fitted-line.ts";
import { listed } from "../../formats/listed.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { monthStatistics } from "./statistics.ts";
import { seasonHeadline } from "./words.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import {
  MOST_SEASONS,
  type SeasonChoice,
  type SeasonDefinition,
  type SeasonYear,
  type SeasonAnswer,
} from "./schema.ts";

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
    return `${name} has no figures before ${own.key}, so there is no normal range. Choose a later year, or a KPI with a longer history.`;
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
