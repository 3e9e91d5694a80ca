import { monthsName, periodName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth, monthsBetween, type Month } from "../../calendar/month.ts";
import { hasInputs } from "../../compare/has-inputs.ts";
import { measureMonth } from "../../compare/measure.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import { ACTUAL, PRIOR_YEAR, type Side } from "../../compare/side.ts";
import type { Scenario } from "../../cube/coverage.ts";
import { isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import { writePercent } from "../../formats/number-words.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { judgeVersion, type JudgedMonth } from "./judge-version.ts";
import {
  MOST_AHEAD,
  type AccuracyChoice,
  type AccuracyDefinition,
  type AccuracyAnswer,
  type AccuracyRow,
} from "./schema.ts";

interface Version {
  readonly side: Side;
  readonly note: string;
  /** The last month that was known; `null` of what is no forecast. */
  readonly madeAfter: Month | null;
}

export function computeAccuracy(
  definition: AccuracyDefinition,
  choice: AccuracyChoice,
  question: PanelQuestion,
): AccuracyAnswer {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const context = measureContext(question);
  const { calendar } = company;
  const { asOf } = asked.frame;
  const versions = versionsOf(kpi, context, asOf);
  const judged = versions.map((version) => ({ version, months: judgedMonths(kpi, version, context, asOf) }));
  const forecasts = judged.filter(({ version, months }) => version.madeAfter !== null && months.length > 0);
  // What is no forecast is judged by the months that any of them is judged by.
  const any = new Set(forecasts.flatMap(({ months }) => months.map(({ month }) => month)));
  const common = [...any].filter((month) => forecasts.every(({ months }) => months.some((own) => own.month === month)));
  // Forecasts of different months say nothing of which was better: those that all have, where they have some.
  const isAlike = choice.alike === "on" || (choice.alike === undefined && common.length > 0);
  const within = isAlike ? new Set(common) : any;
  const rows = judged.flatMap(({ version: { side, note, madeAfter }, months }): AccuracyRow[] => {
    const own = months.filter(({ month }) => within.has(month));
    if (own.length === 0 && madeAfter === null) return [];
    const list = own.map(({ month }) => month);
    return [
      {
        ...judgeVersion(own),
        // What is no forecast was not made so many months ahead.
        ...(madeAfter === null ? { byAhead: [] } : {}),
        key: madeAfter === null && side.shift !== 0 ? "prior-year" : side.scenario,
        name: side.name,
        note,
        isForecast: madeAfter !== null,
        over:
          list.length === 0
            ? null
            : { name: monthsName(calendar, list), months: `${formatMonth(list[0]!)}..${formatMonth(list.at(-1)!)}` },
      },
    ];
  });
  return {
    kind: "accuracy",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    headline: definition.title ?? headlineOf(kpi, rows),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}, month by month, for ${asked.answer.words.scope}, as of ${asked.answer.words.asOf}`,
    isAlike,
    rows,
    notes:
      forecasts.length < 2
        ? []
        : isAlike
          ? [
              `All are judged by ${common.length === 0 ? "no month: they have none in common" : monthsName(calendar, common)}.`,
            ]
          : [
              "Each version is judged by the months after it was made; like for like uses only the months all of them have.",
            ],
  };
}

/** Forecasts that the KPI is in, the latest first, then the budget and the prior year to compare them with. */
function versionsOf(kpi: CompiledKpi, context: MeasureContext, asOf: Month): Version[] {
  const { coverage, calendar } = context;
  const has = (scenario: Scenario) => hasInputs(kpi, scenario.key, context);
  const sideOf = ({ key, name }: Scenario): Side => ({ scenario: key, shift: 0, name });
  const forecasts = [...coverage.scenarios.values()]
    .filter((s) => s.kind === "forecast" && !s.isRetired && s.madeAfter !== null && s.madeAfter < asOf && has(s))
    .sort((a, b) => b.madeAfter! - a.madeAfter!);
  const budget = coverage.scenarios.get("budget");
  return [
    ...forecasts.map((s) => ({
      side: sideOf(s),
      note: `made after ${periodName(calendar, s.madeAfter!)}${s.isOpen ? ", open" : ""}`,
      madeAfter: s.madeAfter,
    })),
    ...(budget && has(budget) ? [{ side: sideOf(budget), note: "as approved before the year", madeAfter: null }] : []),
    { side: PRIOR_YEAR, note: "the same month repeated", madeAfter: null },
  ];
}

/** The months that a version said something of after it was made, and that are closed. */
function judgedMonths(
  kpi: CompiledKpi,
  { side, madeAfter }: Version,
  context: MeasureContext,
  asOf: Month,
): JudgedMonth[] {
  const first = madeAfter === null ? asOf - MOST_AHEAD + 1 : madeAfter + 1;
  const from = Math.max(first, asOf - 3 * MOST_AHEAD);
  return monthsBetween(from, Math.min(asOf, first + MOST_AHEAD - 1)).flatMap((month) => {
    const said = measureMonth(kpi, side, month, context).figure;
    const seen = measureMonth(kpi, ACTUAL, month, context).figure;
    return isPresent(said) && isPresent(seen)
      ? [{ month, ahead: month - first + 1, said: said.value, seen: seen.value }]
      : [];
  });
}

function headlineOf({ definition: { name } }: CompiledKpi, rows: readonly AccuracyRow[]): string {
  const forecasts = rows.filter(({ isForecast, share }) => isForecast && share !== null);
  const [latest] = forecasts;
  if (!latest) return `No forecast of ${name} can be compared with a closed month yet.`;
  const others = rows.filter((row) => row !== latest && row.share !== null);
  const words = others.map((row) => `${row.name} ${writePercent(row.share!)}`);
  return `${name}: ${latest.name} was ${writePercent(latest.share!)} off over ${latest.over?.name ?? "no month"}${words.length === 0 ? "" : `; ${words.join(", ")}`}.`;
}
