import { monthsBetween, parseMonth } from "../../calendar/month.ts";
import { fiscalYearName, monthsName, periodName } from "../../calendar/fiscal-calendar.ts";
import { isOpenSpan, parseSpan, parseWindow, spanMonths, spanName, type Span } from "../../calendar/span.ts";
import { formatBasis, parseBasis } from "../../compare/frame.ts";
import { basisSide } from "../../compare/side.ts";
import { scopeName } from "../../dimensions/scope.ts";
import { parseScope } from "../../dimensions/scope-text.ts";
import { GRAIN_NAMES, isGrain } from "../../series/grain.ts";
import type { PanelQuestion } from "../panel-question.ts";
import type { ChooserChoice, ChooserDefinition, ChooserPart, ChooserAnswer, ChooserOption } from "./schema.ts";
/** What each part is called over its options. */
export const CHOOSER_LABELS: Readonly<Record<ChooserPart, string>> = {
  kpi: "KPI",
  grain: "By",
  marks: "Drawn as",
  year: "Year",
  asOf: "As of",
  span: "Span",
  basis: "Against",
  scope: "For",
};

export function computeChooser(
  { sets, options }: ChooserDefinition,
  { chosen }: ChooserChoice,
  question: PanelQuestion,
): ChooserAnswer {
  const label = CHOOSER_LABELS[sets];
  return {
    kind: "chooser",
    frame: question.asked.answer,
    message: `${label} to choose from.`,
    sets,
    label,
    chosen: chosen ?? null,
    options: options.map((key) => ({ key, ...NAMES[sets](key, question) })),
  };
}

type Named = Omit<ChooserOption, "key">;
type Name = (key: string, question: PanelQuestion) => Named;

const named = (name: string, note = ""): Named => ({ name, note, problem: null });
const gone = (key: string, problem: string): Named => ({ name: key, note: "", problem });

const NAMES: Readonly<Record<ChooserPart, Name>> = {
  kpi: (key, { company }) => {
    const kpi = company.kpis.get(key);
    return kpi
      ? named(kpi.definition.name, kpi.definition.description)
      : gone(key, `There is no KPI "${key}" any more. Arrange the chooser again.`);
  },
  grain: (key) => (isGrain(key) ? named(GRAIN_NAMES[key]) : gone(key, `"${key}" is not a grain.`)),
  marks: (key) => named(key),
  year: (key) =>
    /^\d{4}$/.test(key)
      ? named(fiscalYearName(Number(key)))
      : gone(key, `"${key}" is not a fiscal year, such as 2026.`),
  asOf: (key, { company }) => {
    const month = parseMonth(key);
    return month === undefined ? gone(key, `"${key}" is not a month.`) : named(periodName(company.calendar, month));
  },
  span: (key, { company: { calendar }, asked: { frame } }) => {
    const window = parseWindow(key);
    if (window) return named(monthsName(calendar, monthsBetween(window.from, window.to)));
    const span: Span | undefined = parseSpan(key);
    if (!span) return gone(key, `"${key}" is not a span.`);
    return named(
      spanName(span, isOpenSpan(calendar, span, frame.asOf)),
      monthsName(calendar, spanMonths(calendar, span, frame.asOf)),
    );
  },
  basis: (key, { company: { coverage, calendar }, asked: { frame } }) => {
    const basis = parseBasis(key, new Set(coverage.scenarios.keys()));
    if (!basis) return gone(key, `There is no "${key}" to compare with any more.`);
    const side = basisSide({ ...frame, basis, coverage, calendar });
    return "absent" in side
      ? { ...named(formatBasis(basis).replaceAll("-", " ")), note: side.detail }
      : named(side.name);
  },
  scope: (key, { asked: { dimensions }, company }) => {
    const scope = parseScope(key);
    if (!scope) return gone(key, `"${key}" is not a scope.`);
    for (const [dimension, members] of Object.entries(scope)) {
      const own = company.dimensions.find((d) => d.key === dimension);
      const unknown = members.find((member) => !own?.members.some((m) => m.key === member));
      if (!own || unknown !== undefined)
        return gone(key, `"${unknown ?? dimension}" is gone. Arrange the chooser again.`);
    }
    return named(scopeName(company.dimensions, scope, `all ${dimensions[0]?.plural ?? "figures"}`));
  },
};
