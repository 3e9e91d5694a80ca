import type { Comparison } from "../../compare/compare-kpi.ts";
import { isPresent } from "../../figures/figure.ts";
import type { Grain } from "../../series/grain.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import type { MoneyUnit } from "../../formats/number-words.ts";
import { varianceWords } from "../../words/variance-words.ts";
import { listed } from "../../formats/listed.ts";
import { isOrAre } from "../../formats/verb.ts";
import type { PanelQuestion } from "../panel-question.ts";
import { varianceFacts } from "../parts/kpi-head.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import type { ChartPart } from "./schema.ts";

/** What a chart over time says: how the KPI stands over the frame's span. */
export function timeHeadline(kpi: CompiledKpi, comparison: Comparison, question: PanelQuestion): string {
  const { figure } = comparison.actual;
  const { name } = kpi.definition;
  const span = spanPhrase(question);
  if (!isPresent(figure))
    return `${name} ${isOrAre(name) === "is" ? "has" : "have"} no figure ${span}. ${figure.detail}`;
  const words = varianceWords(varianceFacts(comparison, kpi, question));
  return `${name} ${span} ${isOrAre(name)} ${isPresent(comparison.variance.delta) ? `${words}.` : words}`;
}

/** What a chart over time shows: KPI, unit, grain, months, scope and comparison. */
export function timeDescriptor(
  { definition }: CompiledKpi,
  parts: readonly ChartPart[],
  shown: { grain: Grain; months: string; scope: string; basis: string; unit: MoneyUnit; split: string | null },
): string {
  const isByKpi = parts.some(({ dimension }) => dimension === null);
  const [first, ...others] = parts;
  const what =
    isByKpi && first
      ? `${listed([...others.map(({ name }) => name), nameInUnit(first.kpi, shown.unit)])}`
      : nameInUnit(definition, shown.unit);
  if (isByKpi) return `${what}, by ${shown.grain}, ${shown.months}, for ${shown.scope}`;
  return `${what}, by ${shown.grain}${shown.split === null ? "" : ` and ${shown.split}`}, ${shown.months}, for ${shown.scope}, against ${shown.basis}`;
}

function spanPhrase({ asked: { answer, frame } }: PanelQuestion): string {
  const { words } = answer;
  if (frame.span.kind === "month") return `in ${words.asOf}`;
  if (frame.span.kind === "month-to-date" || frame.span.kind === "window") return `for ${words.spanMonths}`;
  return `for the ${words.span.replace(",", "")}${words.isOpen && frame.span.kind !== "full-year" ? `, as far as ${words.asOf.split(" ")[0]},` : ""}`;
}
