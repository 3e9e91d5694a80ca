import { fiscalYearOf, fiscalYearStart, rangeName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth, monthsBetween } from "../../calendar/month.ts";
import { basisOf } from "../../compare/basis-of.ts";
import { measureOver } from "../../compare/measure.ts";
import { outlookNote, outlookOf, type Outlook } from "../../compare/outlook.ts";
import { planOfRest } from "../../compare/outlook-months.ts";
import { LATEST } from "../../formula/outlook-source.ts";
import { ACTUAL } from "../../compare/side.ts";
import { rangeWindow } from "../../compare/window.ts";
import { absent, combine, isPresent, present } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import { describeOutlooks } from "../../frame/frame-choices.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import { deltaStyle, valueStyle, writeSigned, writeWithUnit } from "../../formats/number-words.ts";
import { varianceWords } from "../../words/variance-words.ts";
import { isOrAre } from "../../formats/verb.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { outlookGap } from "./gap.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import {
  USUAL_SOURCES,
  type OutlookChoice,
  type OutlookDefinition,
  type OutlookAnswer,
  type OutlookRow,
} from "./schema.ts";

export function computeOutlook(
  definition: OutlookDefinition,
  choice: OutlookChoice,
  question: PanelQuestion,
): OutlookAnswer {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const { calendar } = company;
  const { frame } = asked;
  const context = measureContext(question);
  const nameOf = sourceNames(kpi, question);
  const taken = frame.outlook ?? LATEST;
  const wanted = [...new Set([...(definition.sources ?? USUAL_SOURCES), taken])];
  const found = wanted.map((key) => ({ key, outlook: outlookOf(kpi, frame, context, key) }));
  const own = found.find(({ key }) => key === taken)!.outlook;
  const start = fiscalYearStart(calendar, fiscalYearOf(calendar, frame.asOf));
  const closedMonths = monthsBetween(start, start + closedOf(found) - 1);
  const rest = monthsBetween(start + closedMonths.length, start + 11);
  const { side } = basisOf(kpi, { ...frame, span: { kind: "full-year" } }, context);
  const basisName = "absent" in side ? asked.answer.words.basis : side.name;
  const toDate =
    closedMonths.length === 0
      ? absent("not closed yet", "No month of the year is closed.")
      : measureOver(kpi, ACTUAL, rangeWindow(closedMonths), context).figure;
  const isFlow = kpi.formula.behaviour === "flow";
  const { definition: of } = kpi;
  const style = valueStyle(of.unit, of.decimals, asked.unit);
  const rows = found.map(({ key, outlook }): OutlookRow => ({
    key,
    name: nameOf(key),
    figure: outlook.figure,
    rest: isFlow
      ? combine(outlook.figure, closedMonths.length === 0 ? present(0) : toDate, (all, past) => present(all - past))
      : absent("no base", `${of.name} does not add up over months.`),
    variance: outlook.variance,
    note: outlookNote(outlook),
    isTaken: key === taken,
  }));
  return {
    kind: "outlook",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    headline: definition.title ?? headlineOf(kpi, own, rows, basisName, question),
    descriptor: `${nameInUnit(of, asked.unit)}, full year ${rangeName(calendar, start, start + 11)}, for ${asked.answer.words.scope}, against ${basisName}`,
    toDate,
    closed:
      closedMonths.length === 0
        ? null
        : {
            name: rangeName(calendar, closedMonths[0]!, closedMonths.at(-1)!),
            months: `${formatMonth(closedMonths[0]!)}..${formatMonth(closedMonths.at(-1)!)}`,
          },
    monthsLeft: rest.length,
    basis: own.basis,
    basisName,
    gap:
      isFlow && rest.length > 0
        ? outlookGap(kpi, { toDate, basis: own.basis, basisName, closed: closedMonths.length, rest }, question)
        : null,
    rows,
    notes: rows
      .flatMap(({ name, figure }) => (isPresent(figure) ? [] : [`${name}: ${figure.detail}`]))
      .concat(spreadNote(rows, (value) => writeWithUnit(value, style))),
  };
}

/** What sources are called: "the latest" by the version that has the KPI. */
function sourceNames(kpi: CompiledKpi, question: PanelQuestion): (key: string) => string {
  const { company, asked } = question;
  const names = new Map(describeOutlooks(company, asked).map(({ key, name }) => [key, name]));
  const latest = planOfRest(LATEST, kpi, asked.frame.asOf, measureContext(question));
  if (!("absent" in latest)) names.set(LATEST, latest.name);
  return (key) => names.get(key) ?? company.coverage.scenarios.get(key)?.name ?? key;
}

/** How many months are closed, as every source that tells has it. */
function closedOf(found: readonly { readonly outlook: Outlook }[]): number {
  return Math.max(...found.map(({ outlook }) => outlook.closed));
}

function headlineOf(
  kpi: CompiledKpi,
  own: Outlook,
  rows: readonly OutlookRow[],
  basisName: string,
  { asked }: PanelQuestion,
): string {
  const { name, unit, decimals } = kpi.definition;
  if (!isPresent(own.figure))
    return `${name} ${isOrAre(name) === "is" ? "has" : "have"} no outlook. ${own.figure.detail}`;
  const value = writeWithUnit(own.figure.value, valueStyle(unit, decimals, asked.unit));
  const words = isPresent(own.variance.delta)
    ? varianceWords({ unit, decimals, money: asked.unit, basisName, ...own.variance })
    : `at ${value}, with nothing in ${basisName} to compare it with`;
  const others = rows.filter(({ isTaken }) => !isTaken).map(({ variance }) => variance.delta);
  const seen = others.filter(isPresent).map(({ value }) => value);
  const style = deltaStyle(unit, decimals, asked.unit);
  const range =
    seen.length < 2
      ? ""
      : `; the other sources say ${writeSigned(Math.min(...seen), style)} to ${writeSigned(Math.max(...seen), style)}`;
  return `${name} ${isOrAre(name)} expected to end the year ${words}${range}.`;
}

function spreadNote(rows: readonly OutlookRow[], write: (value: number) => string): string[] {
  const seen = rows.flatMap(({ figure, name }) => (isPresent(figure) ? [{ name, value: figure.value }] : []));
  if (seen.length < 2) return [];
  const low = seen.reduce((a, b) => (b.value < a.value ? b : a));
  const high = seen.reduce((a, b) => (b.value > a.value ? b : a));
  return [
    `From ${write(low.value)} (${low.name}) to ${write(high.value)} (${high.name}): ${write(high.value - low.value)} apart.`,
  ];
}
