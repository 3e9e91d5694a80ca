import { formatMonth } from "#core/calendar/month.ts";
import { periodName } from "#core/calendar/fiscal-calendar.ts";
import { compareKpi, type Comparison } from "#core/compare/compare-kpi.ts";
import { comparisonAsks, scorecardAsks, scorecardRow, type ScorecardRow } from "#core/compare/scorecard.ts";
import { kpiStatus, statusAsks } from "#core/compare/kpi-status.ts";
import { isPresent, type Absence } from "#core/figures/figure.ts";
import type { Status } from "#core/kpis/status.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import { nearestName } from "#core/formula/nearest-name.ts";
import { seriesAsks, seriesMonths, timeSeries } from "#core/series/time-series.ts";
import { coverageNotes } from "#core/words/coverage-words.ts";
import { scorecardMessage } from "#core/words/message.ts";
import { isOrAre } from "#core/words/verb.ts";
import { valueStyle } from "#core/words/number-words.ts";
import { varianceWords, type VarianceFacts } from "#core/words/variance-words.ts";
import { monthsName } from "#core/calendar/fiscal-calendar.ts";
import type { PanelDefinition } from "#contract/pack.ts";
import type { KpiHead, ScorecardAnswer, ScorecardRowAnswer, TimeChartAnswer } from "#contract/panels.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import { measureFrame, readContext } from "./read-context.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import type { Workspace } from "./workspace.ts";

/** The KPI of a key. Throws a problem with the nearest name when there is none. */
export function requireKpi(workspace: Workspace, key: string): CompiledKpi {
  const kpi = workspace.structure.kpis.get(key);
  if (kpi) return kpi;
  const problem = workspace.structure.kpiProblems.get(key);
  if (problem)
    throw new ProblemError(
      "unknown-kpi",
      `The formula of the KPI "${key}" does not hold: ${problem.message} Mend it in the KPI library.`,
    );
  const near = nearestName(key, [...workspace.structure.kpis.keys()]);
  throw new ProblemError(
    "unknown-kpi",
    `There is no KPI "${key}".${near ? ` Is "${near}" meant?` : " Choose one of the scorecard's rows."}`,
  );
}

/** A scorecard's figures in a frame. */
export async function computeScorecard(
  workspace: Workspace,
  resolved: ResolvedFrame,
  panel: Extract<PanelDefinition, { kind: "scorecard" }>,
): Promise<ScorecardAnswer> {
  const groups = panel.groups.map((group) => ({
    title: group.title,
    kpis: group.kpis.map((key) => requireKpi(workspace, key)),
  }));
  const kpis = groups.flatMap((group) => group.kpis);
  const own = measureFrame(workspace, resolved);
  const library = workspace.structure.kpis;
  const context = await readContext(workspace.source, own, [
    ...scorecardAsks(kpis, resolved.frame, own),
    ...statusAsks(kpis, resolved.frame, own, library),
  ]);
  const rows = new Map(kpis.map((kpi) => [kpi, scorecardRow(kpi, resolved.frame, context)]));
  return {
    kind: "scorecard",
    frame: resolved.wire,
    message: scorecardMessage(
      kpis.map((kpi) => ({ name: kpi.definition.name, ...varianceFacts(rows.get(kpi)!.comparison, kpi, resolved) })),
    ),
    groups: groups.map((group) => ({
      title: group.title,
      rows: group.kpis.map((kpi) => {
        const row = rows.get(kpi)!;
        const status = kpiStatus(kpi, row.comparison, resolved.frame, context, library);
        return rowAnswer(row, status, workspace, resolved);
      }),
    })),
  };
}

/** One KPI over time in a frame. */
export async function computeTimeChart(
  workspace: Workspace,
  resolved: ResolvedFrame,
  kpiKey: string,
): Promise<TimeChartAnswer> {
  const kpi = requireKpi(workspace, kpiKey);
  const { calendar } = workspace.structure;
  const { frame } = resolved;
  const own = measureFrame(workspace, resolved);
  const context = await readContext(workspace.source, own, [
    ...seriesAsks(kpi, frame, own),
    ...comparisonAsks([kpi], frame, own),
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
    notes: notesOf(comparison, workspace, words.basis),
  };
}

function headlineOf(kpi: CompiledKpi, comparison: Comparison, resolved: ResolvedFrame): string {
  const { figure } = comparison.actual;
  const { name } = kpi.definition;
  if (!isPresent(figure))
    return `${name} ${isOrAre(name) === "is" ? "has" : "have"} no figure ${spanPhrase(resolved)}. ${figure.detail}`;
  const words = varianceWords(varianceFacts(comparison, kpi, resolved));
  return `${name} ${spanPhrase(resolved)} ${isOrAre(name)} ${isPresent(comparison.variance.delta) ? `${words}.` : words}`;
}

/** What a reader needs to know of a KPI. */
export function kpiHead({ definition }: CompiledKpi): KpiHead {
  const { key, name, unit, decimals, direction, description } = definition;
  return { key, name, unit, decimals, direction, description };
}

function rowAnswer(
  row: ScorecardRow,
  status: Status | Absence | null,
  workspace: Workspace,
  resolved: ResolvedFrame,
): ScorecardRowAnswer {
  const { kpi, comparison, priorYear } = row;
  return {
    kpi: kpiHead(kpi),
    actual: comparison.actual.figure,
    basis: comparison.basis.figure,
    basisName: comparison.basis.side.scenario === "" ? resolved.wire.words.basis : comparison.basis.side.name,
    isFallback: comparison.isFallback,
    variance: comparison.variance,
    words: varianceWords(varianceFacts(comparison, kpi, resolved)),
    status: status === null || "absent" in status ? status : { ...status, shownAs: kpi.definition.status!.shownAs },
    priorYear: priorYear.basis.figure,
    trend: row.trend.map(({ month, measurement }) => ({ month: formatMonth(month), actual: measurement.figure })),
    notes: notesOf(comparison, workspace, resolved.wire.words.basis),
  };
}

function notesOf(comparison: Comparison, workspace: Workspace, frameBasis: string): string[] {
  const { calendar, accounts } = workspace.structure;
  return coverageNotes(comparison, { calendar, accounts, fallbackFrom: comparison.isFallback ? frameBasis : null });
}

function varianceFacts(comparison: Comparison, kpi: CompiledKpi, resolved: ResolvedFrame): VarianceFacts {
  const { unit, decimals } = kpi.definition;
  const { side } = comparison.basis;
  return {
    unit,
    decimals,
    money: resolved.unit,
    basisName: side.scenario === "" ? resolved.wire.words.basis : side.name,
    ...comparison.variance,
  };
}

function spanPhrase({ wire, frame }: ResolvedFrame): string {
  if (frame.span.kind === "month") return `in ${wire.words.asOf}`;
  if (frame.span.kind === "month-to-date") return `for ${wire.words.spanMonths}`;
  return `for the ${wire.words.span}${wire.words.isOpen ? " as far as closed" : ""}`;
}
