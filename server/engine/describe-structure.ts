import { fiscalYearName, fiscalYearOf, monthsName, periodName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth, monthsBetween } from "#core/calendar/month.ts";
import { formatSpan, spanMonths, spanName, type Span } from "#core/calendar/span.ts";
import { basisSide } from "#core/compare/side.ts";
import { asOfDay, monthsOf } from "#core/cube/coverage.ts";
import { scopeName } from "#core/dimensions/scope.ts";
import { spanWords } from "#core/words/frame-words.ts";
import type { StructureAnswer } from "#contract/structure.ts";
import { visibleDimensions } from "#server/access/confine.ts";
import type { Structure } from "#server/db/structure.ts";
import { lastClosed, partialThrough, type ResolvedFrame } from "./resolve-frame.ts";
import type { Workspace } from "./workspace.ts";

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
export function describeStructure(workspace: Workspace, resolved: ResolvedFrame): StructureAnswer {
  const { structure, reader } = workspace;
  const { calendar } = structure;
  const { asOf } = resolved.frame;
  const closed = lastClosed(structure);
  const first = Math.min(
    ...[...structure.coverage.datasets.keys()].flatMap((d) =>
      monthsOf(structure.coverage, d, "actual").map((e) => e.month),
    ),
  );
  const last = partialThrough(structure, closed + 1) === null ? closed : closed + 1;
  const confined = Object.keys(reader.scope).length > 0;
  return {
    frame: resolved.wire,
    lastClosed: formatMonth(closed),
    asOfChoices: monthsBetween(first, last)
      .reverse()
      .map((month) => {
        const partial = month > closed ? partialThrough(structure, month) : null;
        return {
          month: formatMonth(month),
          name: periodName(calendar, month),
          fiscalYear: fiscalYearName(fiscalYearOf(calendar, month)),
          isClosed: month <= closed,
          note: partial === null ? null : `daily figures to day ${partial}, not closed`,
        };
      }),
    spans: SPANS.map((span) => ({
      key: formatSpan(span),
      name: spanName(span),
      months:
        span.kind === "month-to-date"
          ? `${spanWords(calendar, span, asOf, asOfDay(structure.coverage, asOf))}, daily figures only`
          : monthsName(calendar, spanMonths(calendar, span, asOf)),
    })),
    bases: describeBases(structure, resolved),
    dimensions: visibleDimensions(resolved.dimensions, reader.scope).map(({ key, name, plural, levels, members }) => ({
      key,
      name,
      plural,
      levels: [...levels],
      members: [...members],
    })),
    kpis: [...structure.kpis.values()].map(({ definition: { key, name, description } }) => ({
      key,
      name,
      description,
    })),
    confinedTo: confined ? scopeName(structure.dimensions, reader.scope, "") : null,
  };
}

function describeBases(structure: Structure, { frame }: ResolvedFrame): StructureAnswer["bases"] {
  const { coverage, calendar } = structure;
  const latest = basisSide({ ...frame, basis: { kind: "latest-forecast" }, coverage, calendar });
  const asked = spanMonths(calendar, frame.span, frame.asOf);
  const prior = basisSide({ ...frame, basis: { kind: "prior-period" }, coverage, calendar });
  const shiftedName = (shift: number) =>
    monthsName(
      calendar,
      asked.map((m) => m - shift),
    );
  const scenarios = [...coverage.scenarios.values()].filter((s) => s.kind !== "actual");
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
