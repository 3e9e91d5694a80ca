import { daysOf } from "../../calendar/days.ts";
import { rangeName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth, type Month } from "../../calendar/month.ts";
import { basisOf } from "../../compare/basis-of.ts";
import { compareSides } from "../../compare/compare-kpi.ts";
import { measureOver } from "../../compare/measure.ts";
import { inMember, type MeasureContext } from "../../compare/measure-ground.ts";
import { SHOWN } from "../../compare/side.ts";
import { dayWindow, monthWindow, rangeWindow } from "../../compare/window.ts";
import { intersectScopes } from "../../dimensions/scope.ts";
import { absent, combine, isPresent, map, present } from "../../figures/figure.ts";
import { evaluateFormula } from "../../formula/evaluate.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { isAdditive } from "../parts/part-of.ts";
import { entriesOf, heatMonths, type TimedEntry } from "./axis.ts";
import { heatHeadline } from "./words.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import type { HeatChoice, HeatDefinition, HeatAnswer, HeatCell, HeatSide } from "./schema.ts";

const NO_VARIANCE = absent("not covered", "Single days are not compared.");

export function computeHeat(definition: HeatDefinition, choice: HeatChoice, question: PanelQuestion): HeatAnswer {
  const { company, asked } = question;
  const { calendar } = company;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const { frame } = asked;
  const context = measureContext(question);
  const months = heatMonths(calendar, frame.asOf, definition.years);
  const kinds = [definition.rows.kind, definition.columns.kind];
  const refusal = refusalOf(definition);
  const sideOf = (axis: HeatDefinition["rows"]) => entriesOf(axis, months, kinds.includes("year"), question);
  const rows = sideOf(definition.rows);
  const columns = sideOf(definition.columns);
  const isByDay = kinds.includes("weekday");
  const wanted = choice.shade ?? definition.shade;
  const shade = isByDay ? "value" : wanted;
  const { side: basis } = basisOf(kpi, frame, context);
  const cells =
    refusal !== null
      ? []
      : rows.entries.map((row) =>
          columns.entries.map((column): HeatCell => {
            const own = months.filter((month) => row.takesMonth(month) && column.takesMonth(month));
            const inside = insideOf(row, column, context, question);
            if (isByDay) return byDay(kpi, own, [row, column], inside);
            const [first, last] = [own[0], own.at(-1)];
            if (first === undefined || last === undefined) return NOTHING;
            const window = first === last ? monthWindow(first) : rangeWindow(own);
            const { actual, variance } = compareSides(kpi, SHOWN, basis, window, inside);
            return { actual: actual.figure, variance, months: monthsText(first, last) };
          }),
        );
  const { unit } = kpi.definition;
  const basisName = "absent" in basis ? asked.answer.words.basis : basis.name;
  const { words } = asked.answer;
  const shown: Pick<HeatAnswer, "rows" | "columns" | "cells"> = { rows: bare(rows), columns: bare(columns), cells };
  return {
    kind: "heat",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    headline:
      definition.title !== undefined && kpi.definition.key === definition.kpi
        ? definition.title
        : heatHeadline(kpi, shown, shade, basisName, asked.unit),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}${isByDay && isAdditive(unit) ? " a day" : ""}, by ${rows.noun} and ${columns.noun}, ${rangeName(calendar, months[0]!, months.at(-1)!)}, for ${words.scope}${shade === "value" ? "" : `, against ${basisName}`}`,
    basisName,
    shade,
    ...shown,
    refusal,
    notes: [
      ...rows.notes,
      ...columns.notes,
      ...(isByDay && wanted !== "value" ? ["Single days are not compared: cells are shaded by value."] : []),
    ],
  };
}

const NOTHING: HeatCell = {
  actual: absent("not closed yet", "After the as-of period, or before there are figures."),
  variance: { delta: NO_VARIANCE, deltaPercent: NO_VARIANCE, judgement: null, tolerances: null },
  months: null,
};

function refusalOf({ rows, columns }: HeatDefinition): string | null {
  if (rows.kind === columns.kind && rows.kind !== "member")
    return `Rows and columns are both by ${rows.kind}: change one of them.`;
  if (rows.kind === "member" && columns.kind === "member" && rows.dimension === columns.dimension)
    return "Rows and columns use the same dimension: change one of them.";
  return null;
}

function bare({ entries, noun, dimension }: ReturnType<typeof entriesOf>): HeatSide {
  return { entries: entries.map(({ key, name, member }) => ({ key, name, member })), noun, dimension };
}

/** The ground of a cell: in its row's and its column's member, where they are members. */
function insideOf(
  row: TimedEntry,
  column: TimedEntry,
  context: MeasureContext,
  { company }: PanelQuestion,
): MeasureContext {
  return [row, column].reduce(
    (at, { member, dimension }) =>
      member && dimension
        ? inMember(at, dimension.key, member.key, intersectScopes(company.dimensions, at.scope, member.scope))
        : at,
    context,
  );
}

/**
 * A KPI over single days of months, such as all Mondays: what adds up is shown for one day on average, everything else
 * is calculated from what the days amount to together.
 */
function byDay(
  kpi: CompiledKpi,
  months: readonly Month[],
  places: readonly TimedEntry[],
  context: MeasureContext,
): HeatCell {
  const days = daysOf(months).filter((day) => places.every(({ takesDay }) => !takesDay || takesDay(day)));
  const measured = days.map((day) => measureOver(kpi, SHOWN, dayWindow(day, day), context));
  const there = measured.filter(({ figure, inputs }) => isPresent(figure) || inputs.every(isPresent));
  if (there.length === 0) return { ...NOTHING, actual: measured[0]?.figure ?? NOTHING.actual };
  const sums = kpi.formula.inputs.map((_, i) =>
    there.map(({ inputs }) => inputs[i]!).reduce((a, b) => combine(a, b, (x, y) => present(x + y))),
  );
  const together = evaluateFormula(kpi.formula, sums);
  const actual = isAdditive(kpi.definition.unit) ? map(together, (value) => value / there.length) : together;
  return { ...NOTHING, actual };
}

function monthsText(first: Month, last: Month): string {
  return first === last ? formatMonth(first) : `${formatMonth(first)}..${formatMonth(last)}`;
}
