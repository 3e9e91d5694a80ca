import { monthsName, periodName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth } from "#core/calendar/month.ts";
import { compareKpi, type Comparison } from "#core/compare/compare-kpi.ts";
import { comparisonAsks } from "#core/compare/scorecard.ts";
import { isPresent } from "#core/figures/figure.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import { placeReference, referenceAsks } from "#core/series/reference-line.ts";
import { seriesAsks, seriesMonths, timeSeries } from "#core/series/time-series.ts";
import { valueStyle } from "#core/words/number-words.ts";
import { varianceWords } from "#core/words/variance-words.ts";
import { isOrAre } from "#core/words/verb.ts";
import type { TimeChartPanelDefinition } from "#contract/pack.ts";
import type { TimeChartAnswer } from "#contract/panels.ts";
import { kpiHead, notesOf, requireKpi, varianceFacts } from "./kpi-answers.ts";
import { measureFrame, readContext } from "./read-context.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import type { Workspace } from "./workspace.ts";

/** One KPI over time in a frame. */
export async function computeTimeChart(
  workspace: Workspace,
  resolved: ResolvedFrame,
  panel: TimeChartPanelDefinition,
  asked: { kpi?: string | undefined },
): Promise<TimeChartAnswer> {
  const kpi = requireKpi(workspace, asked.kpi ?? panel.kpi);
  const references = (panel.references ?? []).filter((line) => line.kind === "statistic" || isOwn(panel, kpi));
  const { calendar } = workspace.structure;
  const { frame } = resolved;
  const own = measureFrame(workspace, resolved);
  const context = await readContext(workspace.source, own, [
    ...seriesAsks(kpi, frame, own),
    ...comparisonAsks([kpi], frame, own),
    ...referenceAsks(references, kpi, frame, own),
  ]);
  const comparison = compareKpi(kpi, frame, context);
  const series = timeSeries(kpi, frame, comparison, context);
  const { words } = resolved.wire;
  const style = valueStyle(kpi.definition.unit, kpi.definition.decimals, resolved.unit);
  return {
    kind: "time-chart",
    frame: resolved.wire,
    kpi: kpiHead(kpi),
    headline: headlineOf(kpi, comparison, resolved),
    descriptor: `${kpi.definition.name} in ${style.unitName}, by month, ${monthsName(calendar, seriesMonths(calendar, frame))}, for ${words.scope}, against ${series.basisName}`,
    basisName: series.basisName,
    forecastName: series.forecastName,
    closedTo: series.closedTo === null ? null : formatMonth(series.closedTo),
    points: series.points.map((point) => ({
      ...point,
      month: formatMonth(point.month),
      name: periodName(calendar, point.month),
    })),
    references: references.map((line) => placeReference(line, kpi, frame, context)),
    notes: notesOf(comparison, workspace, words.basis),
  };
}

/** A constant is in the unit of the panel's own KPI: it says nothing of one that the reader chose instead. */
function isOwn({ kpi }: TimeChartPanelDefinition, shown: CompiledKpi): boolean {
  return shown.definition.key === kpi;
}

function headlineOf(kpi: CompiledKpi, comparison: Comparison, resolved: ResolvedFrame): string {
  const { figure } = comparison.actual;
  const { name } = kpi.definition;
  if (!isPresent(figure))
    return `${name} ${isOrAre(name) === "is" ? "has" : "have"} no figure ${spanPhrase(resolved)}. ${figure.detail}`;
  const words = varianceWords(varianceFacts(comparison, kpi, resolved));
  return `${name} ${spanPhrase(resolved)} ${isOrAre(name)} ${isPresent(comparison.variance.delta) ? `${words}.` : words}`;
}

function spanPhrase({ wire, frame }: ResolvedFrame): string {
  if (frame.span.kind === "month") return `in ${wire.words.asOf}`;
  if (frame.span.kind === "month-to-date") return `for ${wire.words.spanMonths}`;
  return `for the ${wire.words.span}${wire.words.isOpen ? " as far as closed" : ""}`;
}
