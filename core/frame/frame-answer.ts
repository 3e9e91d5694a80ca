import { monthsName, periodName } from "../calendar/fiscal-calendar.ts";
import { formatMonth, type Month } from "../calendar/month.ts";
import { formatSpanAt, spanMonths, spanName, wholeSpanMonths } from "../calendar/span.ts";
import { formatBasis, type Frame } from "../compare/frame.ts";
import { codeOfBasis } from "../compare/scenario-code.ts";
import { basisSide, OUTLOOK_NAME, readSide, SHOWN, WITH_OUTLOOK } from "../compare/side.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import { scopeName, type Scope } from "../dimensions/scope.ts";
import { spanWords } from "../words/frame-words.ts";
import type { MoneyUnit } from "../formats/number-words.ts";
import type { Company } from "./company.ts";
import type { FrameAnswer } from "./schema.ts";

/** How an address writes the span of a full year whose months to come are filled by the outlook. */
export const FULL_YEAR_WITH_OUTLOOK = "full-year-with-outlook";

const BASIS_NAMES: Readonly<Record<string, string>> = {
  "prior-year": "Prior year",
  "prior-period": "Prior period",
  forecast: "Forecast",
};

/** Names everything about a frame. `scope` is what was asked; the frame's own is what remains of it by the reader's access. */
export function answerFrame({
  company: { calendar, coverage, dimensions: all },
  dimensions,
  frame,
  scope,
  throughDay,
  unit,
  lastClosed,
}: {
  company: Company;
  dimensions: readonly Dimension[];
  frame: Frame;
  scope: Scope;
  throughDay: number | undefined;
  unit: MoneyUnit;
  lastClosed: Month;
}): FrameAnswer {
  const key = formatBasis(frame.basis);
  const side = basisSide({ ...frame, coverage, calendar });
  // A span may go on after the as-of month or the last closed one; the reader must not take the part for the whole.
  const whole = wholeSpanMonths(calendar, frame.span, frame.asOf);
  const isVersion = frame.shown !== undefined;
  const withOutlook = frame.shown === WITH_OUTLOOK;
  const asked = isVersion ? whole : spanMonths(calendar, frame.span, frame.asOf);
  const closed = asked.filter((month) => isVersion || month <= lastClosed);
  const isToDate = frame.span.kind === "month-to-date";
  const shown = closed.length > 0 ? closed : asked;
  const isOpen = !isToDate && shown.length < whole.length;
  const everything = `all ${dimensions[0]?.plural ?? "figures"}`;
  const isNothing = Object.values(frame.scope).some((members) => members.length === 0);
  return {
    asOf: formatMonth(frame.asOf),
    span: withOutlook ? FULL_YEAR_WITH_OUTLOOK : formatSpanAt(frame.span, frame.asOf),
    basis: key,
    basisCode: codeOfBasis(frame.basis, coverage),
    scope: Object.fromEntries(Object.entries(scope).map(([k, members]) => [k, [...members]])),
    unit,
    ...(frame.outlook === undefined ? {} : { outlook: frame.outlook }),
    ...(frame.shown === undefined || withOutlook ? {} : { shown: frame.shown }),
    words: {
      asOf: periodName(calendar, frame.asOf),
      span: withOutlook ? "full year, with outlook" : spanName(frame.span, isOpen),
      spanMonths: isToDate ? spanWords(calendar, frame.span, frame.asOf, throughDay) : monthsName(calendar, shown),
      isOpen,
      shown: withOutlook ? OUTLOOK_NAME : readSide(SHOWN, { coverage, shown: frame.shown }).name,
      basis: "absent" in side ? (BASIS_NAMES[key] ?? key) : side.name,
      scope: scopeName(all, isNothing ? scope : frame.scope, everything),
    },
  };
}
