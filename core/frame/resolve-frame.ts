import type { FrameQuery } from "./schema.ts";
import { fiscalYearOf, fiscalYearStart, periodName } from "../calendar/fiscal-calendar.ts";
import { formatMonth, parseMonth, type Month } from "../calendar/month.ts";
import { MAX_WINDOW_MONTHS, parseSpan, parseWindow, windowSpan, type Span } from "../calendar/span.ts";
import { parseBasis, type Basis, type Frame } from "../compare/frame.ts";
import { isEstimate, LATEST, OUTLOOK_ESTIMATES, type OutlookSource } from "../formula/outlook-source.ts";
import { ACTUAL, latestForecast, WITH_OUTLOOK } from "../compare/side.ts";
import { asOfDay, monthsOf } from "../cube/coverage.ts";
import { closedMonth } from "./closed-month.ts";
import { confineScope } from "../dimensions/confine.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import { intersectScopes, type Scope } from "../dimensions/scope.ts";
import { parseScope } from "../dimensions/scope-text.ts";
import { nearestName } from "../formula/nearest-name.ts";
import { isMoneyUnit, type MoneyUnit } from "../formats/number-words.ts";
import type { Company } from "./company.ts";
import { answerFrame, FULL_YEAR_WITH_OUTLOOK } from "./frame-answer.ts";
import { QuestionRefused } from "./question-refused.ts";
import type { Absence } from "../figures/schema.ts";
import type { FrameAnswer } from "./schema.ts";

/** A frame that was asked for, with everything decided: what the reader may see of it, and its words. */
export interface AskedFrame {
  readonly frame: Frame;
  /** The frame's scope inside the reader's access; coverage and cells go by this one. */
  readonly scope: Scope;
  readonly scopeAbsence: Absence | undefined;
  readonly throughDay: number | undefined;
  readonly unit: MoneyUnit;
  /** Whether the reader or the panel says the unit; otherwise it may follow the size of what is shown. */
  readonly isUnitChosen: boolean;
  /** By which a page can be narrowed: those of the review's own dataset, or all. */
  readonly dimensions: readonly Dimension[];
  /** The review's own dataset, or all. */
  readonly datasets: readonly string[];
  readonly answer: FrameAnswer;
}

/**
 * Reads a frame from an address, for a reader who may see the rows of `access`. Throws a
 * `QuestionRefused` that names the part, its value and the way out.
 */
export function resolveFrame(query: FrameQuery, company: Company, access: Scope, pageScope: Scope = {}): AskedFrame {
  const starts = company.packStarts.get(query.pack ?? "");
  const asOf = resolveAsOf(query.asOf, company, starts?.dataset);
  const spanText = query.span ?? starts?.span;
  const withOutlook = spanText === FULL_YEAR_WITH_OUTLOOK;
  const span: Span = withOutlook ? { kind: "full-year" } : resolveSpan(spanText, asOf, company);
  const datasets = starts ? [starts.dataset] : [...company.coverage.datasets.keys()];
  const basisText = query.basis ?? starts?.basis;
  const basis = basisText === undefined ? usualBasis(company, datasets, asOf) : resolveBasis(basisText, company);
  const whole = query.scope === undefined ? pageScope : resolveScope(query.scope, company);
  // Narrowing takes a part of whatever the page is for, so that it never shows more than that.
  const scope = query.narrow ? intersectScopes(company.dimensions, whole, resolveScope(query.narrow, company)) : whole;
  const unit = query.unit ?? starts?.unit ?? usualUnit(company, datasets);
  if (!isMoneyUnit(unit))
    throw new QuestionRefused("unknown-unit", `"${query.unit}" is not a unit. Choose units, thousand or million.`);
  const confined = confineScope(company.dimensions, scope, access);
  const throughDay = span.kind === "month-to-date" ? asOfDay(company.coverage, asOf) : undefined;
  const outlook = resolveOutlook(query.outlook, company);
  // A version has its own whole year: only the actual is followed by an outlook.
  const shown = resolveShown(query.shown, company) ?? (withOutlook ? WITH_OUTLOOK : undefined);
  const frame: Frame = {
    asOf,
    span,
    basis,
    scope: confined.scope,
    ...(outlook === undefined ? {} : { outlook }),
    ...(shown === undefined ? {} : { shown }),
  };
  const own = starts && company.datasetDimensions.get(starts.dataset);
  const dimensions = company.dimensions.filter((d) => !own || own.includes(d.key));
  return {
    frame,
    scope: confined.scope,
    scopeAbsence: confined.absence,
    throughDay,
    unit,
    isUnitChosen: query.unit !== undefined,
    dimensions,
    datasets,
    answer: answerFrame({
      company,
      dimensions,
      frame,
      scope,
      throughDay,
      unit,
      lastClosed: closedMonth(company, starts ? [starts.dataset] : []),
    }),
  };
}

/** The months an as-of can be chosen from: the fiscal years that have facts, and one before them. */
export function asOfRange(company: Company): { from: Month; to: Month } {
  const months = [...company.coverage.months.values()].flatMap((byMonth) => [...byMonth.keys()]);
  const start = (month: Month) => fiscalYearStart(company.calendar, fiscalYearOf(company.calendar, month));
  const fallback = months.length === 0 ? [0] : months;
  return { from: start(Math.min(...fallback)) - 12, to: start(Math.max(...fallback)) + 11 };
}

function resolveAsOf(text: string | undefined, company: Company, dataset?: string): Month {
  const closed = closedMonth(company, dataset === undefined ? [] : [dataset]);
  if (text === undefined) return closed;
  const month = parseMonth(text);
  const wayOut = `The last closed month is ${periodName(company.calendar, closed)} (${formatMonth(closed)}).`;
  if (month === undefined)
    throw new QuestionRefused(
      "unknown-period",
      `"${text}" is not a month. Write it as year and month, such as 2026-10. ${wayOut}`,
    );
  const range = asOfRange(company);
  if (month < range.from || month > range.to) {
    throw new QuestionRefused(
      "unknown-period",
      `There are no figures around ${periodName(company.calendar, month)} (${text}). ${wayOut}`,
    );
  }
  return month;
}

function resolveSpan(text: string | undefined, asOf: Month, company: Company): Span {
  if (text === undefined) return { kind: "year-to-date" };
  const window = parseWindow(text);
  if (window) return resolveWindow(text, window, asOf, company);
  const span = parseSpan(text);
  if (!span)
    throw new QuestionRefused(
      "unknown-span",
      `"${text}" is not a span. Choose month, quarter, quarter-to-date, year-to-date, full-year, ${FULL_YEAR_WITH_OUTLOOK}, month-to-date, trailing-12, or months such as 2026-01..2026-06.`,
    );
  return span;
}

function resolveWindow(text: string, window: { from: Month; to: Month }, asOf: Month, { calendar }: Company): Span {
  const [from, to] = [periodName(calendar, window.from), periodName(calendar, window.to)];
  const refuse = (why: string) => new QuestionRefused("unknown-span", `The months "${text}" are not a span: ${why}`);
  if (window.from > window.to) throw refuse(`${from} comes after ${to}. Write the earlier month first.`);
  if (window.to - window.from >= MAX_WINDOW_MONTHS)
    throw refuse(`a span has at most ${MAX_WINDOW_MONTHS} months. Start later than ${from}.`);
  if (window.from > asOf)
    throw refuse(`${from} comes after the as-of month, ${periodName(calendar, asOf)}. Begin earlier, or look later.`);
  return windowSpan(window, asOf);
}

/** The unit that a review of the same data starts from, which was found by their size; else thousands. */
function usualUnit({ packStarts }: Company, datasets: readonly string[]): MoneyUnit {
  const own = [...packStarts.values()].filter(({ dataset }) => datasets.includes(dataset));
  return own.length > 0 && own.every(({ unit }) => unit === own[0]!.unit) ? own[0]!.unit : "thousand";
}

/**
 * What is compared with where nothing is said: the first of budget, forecast, target and prior year that there are figures
 * of, by the datasets that are looked at; else the period before.
 */
function usualBasis({ coverage }: Company, datasets: readonly string[], asOf: Month): Basis {
  const hasAny = (scenario: string) => datasets.some((dataset) => monthsOf(coverage, dataset, scenario).length > 0);
  if (hasAny("budget")) return { kind: "scenario", scenario: "budget" };
  const forecast = latestForecast(coverage, asOf);
  if (forecast && hasAny(forecast.key)) return { kind: "latest-forecast" };
  if (hasAny("target")) return { kind: "scenario", scenario: "target" };
  const isYearBack = datasets.some((dataset) =>
    monthsOf(coverage, dataset, ACTUAL.scenario).some(({ month }) => month <= asOf - 12),
  );
  if (isYearBack) return { kind: "prior-year" };
  return hasAny(ACTUAL.scenario) ? { kind: "prior-period" } : { kind: "scenario", scenario: "budget" };
}

function resolveBasis(text: string, company: Company): Basis {
  const keys = new Set(company.coverage.scenarios.keys());
  const basis = parseBasis(text, keys);
  if (basis) return basis;
  const choices = [...keys].filter((key) => key !== "actual").concat("forecast", "prior-year", "prior-period");
  const near = nearestName(text, choices);
  throw new QuestionRefused(
    "unknown-basis",
    `"${text}" is not a basis.${near ? ` Is "${near}" meant?` : ""} There are ${choices.join(", ")}.`,
  );
}

function resolveShown(text: string | undefined, { coverage }: Company): string | undefined {
  if (text === undefined || text === ACTUAL.scenario) return undefined;
  const versions = [...coverage.scenarios.values()].filter(({ kind }) => kind !== "actual").map(({ key }) => key);
  if (versions.includes(text)) return text;
  const choices = [ACTUAL.scenario, ...versions];
  const near = nearestName(text, choices);
  throw new QuestionRefused(
    "unknown-basis",
    `"${text}" cannot be shown in place of the actual.${near ? ` Is "${near}" meant?` : ""} There are ${choices.join(", ")}.`,
  );
}

function resolveOutlook(text: string | undefined, { coverage }: Company): OutlookSource | undefined {
  if (text === undefined || text === LATEST || isEstimate(text)) return text === LATEST ? undefined : text;
  const plans = [...coverage.scenarios.values()].filter(({ kind }) => kind !== "actual").map(({ key }) => key);
  if (plans.includes(text)) return text;
  const choices = [LATEST, ...OUTLOOK_ESTIMATES, ...plans];
  const near = nearestName(text, choices);
  throw new QuestionRefused(
    "unknown-basis",
    `"${text}" is not a source for the remaining months.${near ? ` Is "${near}" meant?` : ""} There are ${choices.join(", ")}.`,
  );
}

function resolveScope(text: string, company: Company): Scope {
  const scope = parseScope(text);
  if (!scope)
    throw new QuestionRefused(
      "unknown-scope",
      `The scope "${text}" cannot be read. It is written as dimension:member,member;dimension:member.`,
    );
  for (const [key, members] of Object.entries(scope)) {
    const dimension = company.dimensions.find((d) => d.key === key);
    if (!dimension) {
      throw new QuestionRefused(
        "unknown-scope",
        `There is no dimension "${key}". There are ${company.dimensions.map((d) => d.key).join(", ")}.`,
      );
    }
    const known = dimension.members.map((m) => m.key);
    const unknown = members.find((m) => !known.includes(m));
    if (unknown !== undefined) {
      const near = nearestName(unknown, known);
      throw new QuestionRefused(
        "unknown-scope",
        `There is no ${dimension.name.toLowerCase()} "${unknown}".${near ? ` Is "${near}" meant?` : ""} Choose among the ${dimension.plural} or take all of them.`,
      );
    }
  }
  return scope;
}
