import { periodName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth, type Month } from "../../calendar/month.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import { measureMonth, measureOver } from "../../compare/measure.ts";
import { gapPerMonth } from "../../compare/outlook.ts";
import { ACTUAL, type Side } from "../../compare/side.ts";
import { rangeWindow } from "../../compare/window.ts";
import { absent, isPresent, map, present } from "../../figures/figure.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { listed } from "../../formats/listed.ts";
import { valueStyle, writeWithUnit } from "../../formats/number-words.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import type { OutlookGap } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";
import type { Direction } from "../../kpis/schema.ts";

/** The season is that of at most so many years. */
const SEASONS = 3;
/** So many months are told one by one. */
const MOST_TOLD = 6;

/** The gap to a full-year basis, over the months left. */
export function outlookGap(
  kpi: CompiledKpi,
  {
    toDate,
    basis,
    basisName,
    closed,
    rest,
  }: {
    readonly toDate: Figure;
    readonly basis: Figure;
    readonly basisName: string;
    /** How many months are closed. */
    readonly closed: number;
    readonly rest: readonly Month[];
  },
  question: PanelQuestion,
): OutlookGap {
  const context = measureContext(question);
  const { calendar } = question.company;
  const needed = gapPerMonth(closed === 0 ? present(0) : toDate, basis, rest.length);
  const shares = seasonShares(kpi, rest, context);
  const bySeason = shares.map((share, i) => ({
    month: formatMonth(rest[i]!),
    name: periodName(calendar, rest[i]!),
    needed: map(needed, (value) => value * rest.length * share),
  }));
  const before = measureOver(kpi, yearsBefore(1), rangeWindow(rest), context);
  const gap = {
    needed,
    bySeason,
    soFar: closed === 0 ? toDate : map(toDate, (value) => value / closed),
    yearBefore:
      before.months.length === rest.length
        ? map(before.figure, (value) => value / rest.length)
        : absent("not covered", "The prior year does not have these months in full."),
  };
  return { ...gap, words: gapWords(kpi, gap, { basisName, rest }, question) };
}

function yearsBefore(years: number): Side {
  return { scenario: ACTUAL.scenario, shift: 12 * years, name: "Prior year" };
}

/** Which part of the months left together each of them brings, on the mean of the prior years that have them all. */
function seasonShares(kpi: CompiledKpi, rest: readonly Month[], context: MeasureContext): number[] {
  const years = Array.from({ length: SEASONS }, (_, i) => i + 1).flatMap((back) => {
    const figures = rest.map((month) => measureMonth(kpi, yearsBefore(back), month, context).figure);
    const values = figures.flatMap((figure) => (isPresent(figure) && figure.value >= 0 ? [figure.value] : []));
    const sum = values.reduce((all, value) => all + value, 0);
    return values.length === rest.length && sum > 0 ? [values.map((value) => value / sum)] : [];
  });
  if (years.length === 0) return [];
  return rest.map((_, i) => years.reduce((all, year) => all + year[i]!, 0) / years.length);
}

function gapWords(
  kpi: CompiledKpi,
  { needed, bySeason, yearBefore }: Omit<OutlookGap, "words">,
  { basisName, rest }: { readonly basisName: string; readonly rest: readonly Month[] },
  { asked }: PanelQuestion,
): string {
  if (!isPresent(needed)) return "";
  const { unit, decimals, direction } = kpi.definition;
  const style = valueStyle(unit, decimals, asked.unit);
  const write = (value: number) => writeWithUnit(value, style);
  if (needed.value <= 0) return passedWords(direction, basisName, write(-needed.value * rest.length), rest.length);
  const left = rest.length === 1 ? "The month left" : `Each of the ${rest.length} months left`;
  const amount = write(needed.value);
  const each =
    direction === "lower"
      ? `${left} may take ${amount} for the year to stay within ${basisName}`
      : `${left} needs ${amount} to reach ${basisName}`;
  const months = rest.length === 1 ? "month" : "months";
  const was = isPresent(yearBefore)
    ? `; a year before, the same ${months} ${direction === "lower" ? "took" : "brought"} ${write(yearBefore.value)}${rest.length === 1 ? "" : " each"}`
    : "";
  return `${each}${was}.${seasonWords(bySeason, write)}`;
}

/** What is said where nothing is missing to the basis any more. */
function passedWords(direction: Direction, basisName: string, amount: string, left: number): string {
  const months = `${left} ${left === 1 ? "month" : "months"} left`;
  return direction === "lower"
    ? `${basisName} for the year is used up: ${amount} over it, with ${months}.`
    : `${basisName} for the year is reached: ${amount} above it, with ${months}.`;
}

/** The same by season: month by month where they are few, else the least and the most. */
function seasonWords(bySeason: OutlookGap["bySeason"], write: (value: number) => string): string {
  const told = bySeason.flatMap(({ name, needed }) => (isPresent(needed) ? [{ name, value: needed.value }] : []));
  if (told.length < 2) return "";
  const words = ({ name, value }: (typeof told)[number]) => `${name.split(" ")[0]!} ${write(value)}`;
  if (told.length <= MOST_TOLD) return ` By season: ${listed(told.map(words))}.`;
  const sorted = told.toSorted((a, b) => a.value - b.value);
  return ` By season: from ${words(sorted[0]!)} to ${words(sorted.at(-1)!)}.`;
}
