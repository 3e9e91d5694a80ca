import { fiscalYearOf, fiscalYearStart, monthsName, periodName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth, parseMonth, type Month } from "#core/calendar/month.ts";
import { formatSpan, parseSpan, spanMonths, spanName, type Span } from "#core/calendar/span.ts";
import { formatBasis, parseBasis, type Basis, type Frame } from "#core/compare/frame.ts";
import { basisSide } from "#core/compare/side.ts";
import { asOfDay, isWhole, lastClosedMonth, lastDayOf, monthsOf } from "#core/cube/coverage.ts";
import type { Dimension } from "#core/dimensions/dimension.ts";
import { scopeName, type Scope } from "#core/dimensions/scope.ts";
import type { Absence } from "#core/figures/figure.ts";
import { nearestName } from "#core/formula/nearest-name.ts";
import { spanWords } from "#core/words/frame-words.ts";
import type { MoneyUnit } from "#core/words/number-words.ts";
import { moneyUnitSchema, parseScope, type FrameQuery, type WireFrame } from "#contract/frame.ts";
import { confineScope } from "#server/access/confine.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import type { Workspace } from "./workspace.ts";

/** A frame with everything decided: what was asked, what the reader may see of it, and its words. */
export interface ResolvedFrame {
  readonly frame: Frame;
  /** The frame's scope inside the reader's access; coverage and cells go by this one. */
  readonly scope: Scope;
  readonly scopeAbsence: Absence | undefined;
  readonly throughDay: number | undefined;
  readonly unit: MoneyUnit;
  /** By which a page can be narrowed: those of the review's own dataset, or all. */
  readonly dimensions: readonly Dimension[];
  readonly wire: WireFrame;
}

const BASIS_NAMES: Readonly<Record<string, string>> = {
  "prior-year": "Prior year",
  "prior-period": "Prior period",
  forecast: "Forecast",
};

/** Reads a frame from an address. Throws a problem that names the part, its value and the way out. */
export function resolveFrame(query: FrameQuery, workspace: Workspace, pageScope: Scope = {}): ResolvedFrame {
  const { structure, reader } = workspace;
  const starts = structure.packStarts.get(query.pack ?? "");
  const asOf = resolveAsOf(query.asOf, structure, starts?.dataset);
  const span = resolveSpan(query.span);
  const basis = resolveBasis(query.basis ?? starts?.basis, structure);
  const scope = query.scope === undefined ? pageScope : resolveScope(query.scope, structure);
  const unit = moneyUnitSchema.safeParse(query.unit ?? starts?.unit ?? "thousand");
  if (!unit.success)
    throw new ProblemError("unknown-unit", `"${query.unit}" is not a unit. Choose units, thousand or million.`);
  const confined = confineScope(structure.dimensions, scope, reader.scope);
  const throughDay = span.kind === "month-to-date" ? asOfDay(structure.coverage, asOf) : undefined;
  const frame: Frame = { asOf, span, basis, scope: confined.scope };
  const own = starts && structure.datasetDimensions.get(starts.dataset);
  const dimensions = structure.dimensions.filter((d) => !own || own.includes(d.key));
  return {
    frame,
    scope: confined.scope,
    scopeAbsence: confined.absence,
    throughDay,
    unit: unit.data,
    dimensions,
    wire: wireFrame({ structure, dimensions, frame, scope, confined: confined.scope, throughDay, unit: unit.data }),
  };
}

/** The months an as-of can be chosen from: the fiscal years that have facts, and one before them. */
export function asOfRange(structure: Structure): { from: Month; to: Month } {
  const months = [...structure.coverage.months.values()].flatMap((byMonth) => [...byMonth.keys()]);
  const start = (month: Month) => fiscalYearStart(structure.calendar, fiscalYearOf(structure.calendar, month));
  const fallback = months.length === 0 ? [0] : months;
  return { from: start(Math.min(...fallback)) - 12, to: start(Math.max(...fallback)) + 11 };
}

/** The last closed month of the data; what a frame starts from. Throws when nothing was loaded yet. */
export function lastClosed(structure: Structure): Month {
  const month = lastClosedMonth(structure.coverage);
  if (month === undefined)
    throw new ProblemError(
      "unknown-period",
      "No actuals are loaded yet, so there is no closed month. Load the first month's file.",
    );
  return month;
}

/** Whether a dataset has only part of a month, and through which day. */
export function partialThrough(structure: Structure, month: Month): number | null {
  for (const dataset of structure.coverage.datasets.values()) {
    const entry = monthsOf(structure.coverage, dataset.key, "actual").find((e) => e.month === month);
    if (entry && !isWhole(entry)) return lastDayOf(entry);
  }
  return null;
}

function resolveAsOf(text: string | undefined, structure: Structure, dataset?: string): Month {
  const own =
    dataset === undefined ? undefined : monthsOf(structure.coverage, dataset, "actual").filter(isWhole).at(-1);
  const closed = own?.month ?? lastClosed(structure);
  if (text === undefined) return closed;
  const month = parseMonth(text);
  const wayOut = `The last closed month is ${periodName(structure.calendar, closed)} (${formatMonth(closed)}).`;
  if (month === undefined)
    throw new ProblemError(
      "unknown-period",
      `"${text}" is not a month. Write it as year and month, such as 2026-10. ${wayOut}`,
    );
  const range = asOfRange(structure);
  if (month < range.from || month > range.to) {
    throw new ProblemError(
      "unknown-period",
      `There are no figures around ${periodName(structure.calendar, month)} (${text}). ${wayOut}`,
    );
  }
  return month;
}

function resolveSpan(text: string | undefined): Span {
  if (text === undefined) return { kind: "year-to-date" };
  const span = parseSpan(text);
  if (!span)
    throw new ProblemError(
      "unknown-span",
      `"${text}" is not a span. Choose month, quarter, quarter-to-date, year-to-date, full-year, month-to-date or trailing-12.`,
    );
  return span;
}

function resolveBasis(text: string | undefined, structure: Structure): Basis {
  const keys = new Set(structure.coverage.scenarios.keys());
  const basis = parseBasis(text ?? "budget", keys);
  if (basis) return basis;
  const choices = [...keys].filter((key) => key !== "actual").concat("forecast", "prior-year", "prior-period");
  const near = nearestName(text ?? "", choices);
  throw new ProblemError(
    "unknown-basis",
    `"${text}" is nothing to compare with.${near ? ` Is "${near}" meant?` : ""} There are ${choices.join(", ")}.`,
  );
}

function resolveScope(text: string, structure: Structure): Scope {
  const scope = parseScope(text);
  if (!scope)
    throw new ProblemError(
      "unknown-scope",
      `The scope "${text}" cannot be read. It is written as dimension:member,member;dimension:member.`,
    );
  for (const [key, members] of Object.entries(scope)) {
    const dimension = structure.dimensions.find((d) => d.key === key);
    if (!dimension) {
      throw new ProblemError(
        "unknown-scope",
        `There is no dimension "${key}". There are ${structure.dimensions.map((d) => d.key).join(", ")}.`,
      );
    }
    const known = dimension.members.map((m) => m.key);
    const unknown = members.find((m) => !known.includes(m));
    if (unknown !== undefined) {
      const near = nearestName(unknown, known);
      throw new ProblemError(
        "unknown-scope",
        `There is no ${dimension.name.toLowerCase()} "${unknown}".${near ? ` Is "${near}" meant?` : ""} Choose among the ${dimension.plural} or take all of them.`,
      );
    }
  }
  return scope;
}

function wireFrame({
  structure,
  dimensions,
  frame,
  scope,
  confined,
  throughDay,
  unit,
}: {
  structure: Structure;
  dimensions: readonly Dimension[];
  frame: Frame;
  scope: Scope;
  confined: Scope;
  throughDay: number | undefined;
  unit: MoneyUnit;
}): WireFrame {
  const { calendar, coverage } = structure;
  const key = formatBasis(frame.basis);
  const side = basisSide({ ...frame, coverage, calendar });
  // Quarter and full year may reach past the last closed month; the reader must not take the part for the whole.
  const asked = spanMonths(calendar, frame.span, frame.asOf);
  const closed = asked.filter((month) => month <= lastClosed(structure));
  const isOpen = frame.span.kind !== "month-to-date" && closed.length > 0 && closed.length < asked.length;
  const shown = isOpen ? closed : asked;
  const everything = `all ${dimensions[0]?.plural ?? "figures"}`;
  return {
    asOf: formatMonth(frame.asOf),
    span: formatSpan(frame.span),
    basis: key,
    scope: Object.fromEntries(Object.entries(scope).map(([k, members]) => [k, [...members]])),
    unit,
    words: {
      asOf: periodName(calendar, frame.asOf),
      span: spanName(frame.span),
      spanMonths:
        frame.span.kind === "month-to-date"
          ? spanWords(calendar, frame.span, frame.asOf, throughDay)
          : monthsName(calendar, shown),
      isOpen,
      basis: "absent" in side ? (BASIS_NAMES[key] ?? key) : side.name,
      scope: scopeName(
        structure.dimensions,
        Object.values(confined).some((m) => m.length === 0) ? scope : confined,
        everything,
      ),
    },
  };
}
