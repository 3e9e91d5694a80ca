import { fiscalYearName, fiscalYearOf, monthsName, periodName } from "../calendar/fiscal-calendar.ts";
import { formatMonth, monthsBetween, type Month } from "../calendar/month.ts";
import { formatSpan, isOpenSpan, spanMonths, spanName, wholeSpanMonths, type Span } from "../calendar/span.ts";
import { frameMonths } from "../compare/window.ts";
import { LATEST } from "../formula/outlook-source.ts";
import { ACTUAL, basisSide, latestForecast } from "../compare/side.ts";
import { asOfDay, isWhole, lastDayOf, monthsOf } from "../cube/coverage.ts";
import { scopeName } from "../dimensions/scope.ts";
import { spanWords } from "../words/frame-words.ts";
import { visibleDimensions } from "../dimensions/confine.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import type { Scope } from "../dimensions/scope.ts";
import type { Company } from "./company.ts";
import { FULL_YEAR_WITH_OUTLOOK } from "./frame-answer.ts";
import { closedMonth, partialThrough } from "./closed-month.ts";
import type { AskedFrame } from "./resolve-frame.ts";
import type { FrameAnswer } from "./schema.ts";

interface Choice {
  readonly key: string;
  readonly name: string;
}

/** What the frame sentence can be made of, for one reader. */
export interface FrameChoices {
  readonly frame: FrameAnswer;
  readonly lastClosed: string;
  readonly asOfChoices: readonly {
    readonly month: string;
    readonly name: string;
    readonly fiscalYear: string;
    readonly isClosed: boolean;
    readonly note: string | null;
  }[];
  readonly spans: readonly (Choice & { readonly months: string })[];
  readonly outlooks: readonly { readonly key: string; readonly name: string; readonly note: string }[];
  /** What can be looked at: the actual, or a version in its place. */
  readonly shown: readonly (Choice & { readonly note: string })[];
  readonly bases: readonly (Choice & { readonly note: string })[];
  readonly dimensions: readonly Dimension[];
  /** The KPI library, in its own order. */
  readonly kpis: readonly (Choice & { readonly description: string; readonly owner: string })[];
  /** Where figures come from, and how far they are closed. */
  readonly foot: string;
  /** What all figures of this reader are confined to, in words; `null` when nothing is kept from them. */
  readonly confinedTo: string | null;
}

const SPANS: readonly Span[] = [
  { kind: "month" },
  { kind: "quarter" },
  { kind: "quarter-to-date" },
  { kind: "year-to-date" },
  { kind: "full-year" },
  { kind: "trailing", periods: 12 },
  { kind: "month-to-date" },
];

/** What a frame can be made of; spans and bases are described as they would be in the given frame. */
export function frameChoices(company: Company, access: Scope, asked: AskedFrame): FrameChoices {
  const { calendar, coverage } = company;
  const { asOf } = asked.frame;
  const isOfAll = asked.datasets.length === coverage.datasets.size;
  const closed = closedMonth(company, isOfAll ? [] : asked.datasets);
  const months = asked.datasets.flatMap((d) => monthsOf(coverage, d, "actual").map((e) => e.month));
  const first = Math.min(closed, ...months);
  const last = partialThrough(company, closed + 1, asked.datasets) === null ? closed : closed + 1;
  const confined = Object.keys(access).length > 0;
  return {
    frame: asked.answer,
    lastClosed: formatMonth(closed),
    asOfChoices: monthsBetween(first, last)
      .reverse()
      .map((month) => {
        const partial = month > closed ? partialThrough(company, month, asked.datasets) : null;
        return {
          month: formatMonth(month),
          name: periodName(calendar, month),
          fiscalYear: fiscalYearName(fiscalYearOf(calendar, month)),
          isClosed: month <= closed,
          note: partial === null ? null : `daily figures to day ${partial}, not closed`,
        };
      }),
    spans: SPANS.flatMap((span) => spanChoices(span, asOf, company)),
    bases: describeBases(company, asked),
    shown: [
      { key: ACTUAL.scenario, name: ACTUAL.name, note: "as far as it is closed" },
      ...[...coverage.scenarios.values()]
        .filter(({ kind, isRetired }) => kind !== "actual" && !isRetired)
        .map(({ key, name, madeAfter }) => ({
          key,
          name,
          note: madeAfter === null ? "its whole span" : `made after ${periodName(calendar, madeAfter)}`,
        })),
    ],
    outlooks: describeOutlooks(company, asked),
    dimensions: visibleDimensions(asked.dimensions, access),
    kpis: [...company.kpis.values()].map(({ definition: { key, name, description, owner } }) => ({
      key,
      name,
      description,
      owner,
    })),
    foot: sourceWords(company, asked),
    confinedTo: confined ? scopeName(company.dimensions, access, "") : null,
  };
}

/** A span, and the year with its outlook beside the year: before it while the year is open, since that is a full year. */
function spanChoices(span: Span, asOf: Month, { calendar, coverage }: Company): FrameChoices["spans"] {
  const isOpen = isOpenSpan(calendar, span, asOf);
  const own = {
    key: formatSpan(span),
    name: spanName(span, isOpen),
    months:
      span.kind === "month-to-date"
        ? `${spanWords(calendar, span, asOf, asOfDay(coverage, asOf))}, daily figures only`
        : monthsName(calendar, spanMonths(calendar, span, asOf)),
  };
  if (span.kind !== "full-year") return [own];
  const whole = {
    key: FULL_YEAR_WITH_OUTLOOK,
    name: "full year, with outlook",
    months: monthsName(calendar, wholeSpanMonths(calendar, span, asOf)),
  };
  return isOpen ? [whole, own] : [own, whole];
}

/** The datasets of a review with how far each is closed: "Management accounts, closed to October FY27; …" */
function sourceWords(company: Company, { datasets }: AskedFrame): string {
  const { calendar, coverage } = company;
  const parts = datasets.flatMap((key) => {
    const last = monthsOf(coverage, key, "actual").at(-1);
    if (!last) return [];
    const name = coverage.datasets.get(key)?.name ?? key;
    const month = periodName(calendar, last.month);
    return [isWhole(last) ? `${name}, closed to ${month}` : `${name}, to day ${lastDayOf(last)} of ${month}`];
  });
  return parts.length === 0 ? "No actuals are loaded yet." : `Sources: ${parts.join("; ")}.`;
}

/** Where the months that are not closed can come from. */
export function describeOutlooks({ coverage, calendar }: Company, { frame }: AskedFrame): FrameChoices["outlooks"] {
  const latest = latestForecast(coverage, frame.asOf);
  const plans = [...coverage.scenarios.values()].filter(
    (s) => (s.kind === "forecast" || s.kind === "budget") && !s.isRetired,
  );
  return [
    {
      key: LATEST,
      name: latest?.name ?? "Budget",
      note: latest ? "the latest forecast made by then" : "no forecast had been made by then",
    },
    { key: "model", name: "Forecast by model", note: "fitted to the actuals, as charts that look ahead show it" },
    {
      key: "run-rate",
      name: "Run rate with its season",
      note: "the pace to date, by the season of up to three prior years",
    },
    {
      key: "prior-year",
      name: "Prior year grown",
      note: "last year's remaining months, as this year grew on it to date",
    },
    ...plans
      .filter((s) => s.key !== latest?.key)
      .map((s) => ({
        key: s.key,
        name: s.name,
        note: s.madeAfter === null ? "its remaining months" : `made after ${periodName(calendar, s.madeAfter)}`,
      })),
  ];
}

function describeBases(company: Company, { frame }: AskedFrame): FrameChoices["bases"] {
  const { coverage, calendar } = company;
  const latest = basisSide({ ...frame, basis: { kind: "latest-forecast" }, coverage, calendar });
  const asked = frameMonths(calendar, frame);
  const prior = basisSide({ ...frame, basis: { kind: "prior-period" }, coverage, calendar });
  const shiftedName = (shift: number) =>
    monthsName(
      calendar,
      asked.map((m) => m - shift),
    );
  const scenarios = [...coverage.scenarios.values()].filter((s) => s.kind !== "actual" && !s.isRetired);
  return [
    ...scenarios
      .filter((s) => s.kind === "budget")
      .map((s) => ({ key: s.key, name: s.name, note: "as approved before the year" })),
    {
      key: "forecast",
      name: "Forecast",
      note: "absent" in latest ? latest.detail : `the latest made by then: ${latest.name}`,
    },
    ...scenarios
      .filter((s) => s.kind === "forecast")
      .map((s) => ({
        key: s.key,
        name: s.name,
        note: s.madeAfter === null ? "" : `made after ${periodName(calendar, s.madeAfter)}`,
      })),
    ...scenarios.filter((s) => s.kind === "target").map((s) => ({ key: s.key, name: s.name, note: "kept by quarter" })),
    { key: "prior-year", name: "Prior year", note: shiftedName(12) },
    { key: "prior-period", name: "Prior period", note: "absent" in prior ? "" : shiftedName(prior.shift) },
  ];
}
