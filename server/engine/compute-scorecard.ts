import { formatMonth } from "#core/calendar/month.ts";
import { kpiStatus, statusAsks } from "#core/compare/kpi-status.ts";
import type { MeasureContext, MeasureFrame } from "#core/compare/measure.ts";
import type { Ask } from "#core/compare/plan-reads.ts";
import { scorecardAsks, scorecardRow, type RowParts } from "#core/compare/scorecard.ts";
import type { Dimension } from "#core/dimensions/dimension.ts";
import { intersectScopes } from "#core/dimensions/scope.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import { scorecardMessage } from "#core/words/message.ts";
import { varianceWords } from "#core/words/variance-words.ts";
import { DEFAULT_COLUMNS, type ScorecardColumn, type ScorecardPanelDefinition } from "#contract/pack.ts";
import type { MemberRows, ScorecardAnswer, ScorecardRowAnswer } from "#contract/panels.ts";
import { visibleDimensions } from "#server/access/confine.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import { kpiHead, notesOf, requireKpi, varianceFacts } from "./kpi-answers.ts";
import { measureFrame, readContext } from "./read-context.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import type { Workspace } from "./workspace.ts";

/** Months of a row's trend. */
const TREND_MONTHS = 24;
/** A row opens into at most this many members. */
const MOST_MEMBERS = 100;

/** A scorecard's figures in a frame. */
export async function computeScorecard(
  workspace: Workspace,
  resolved: ResolvedFrame,
  panel: ScorecardPanelDefinition,
): Promise<ScorecardAnswer> {
  const groups = panel.groups.map((group) => ({
    title: group.title,
    kpis: group.kpis.map((key) => requireKpi(workspace, key)),
  }));
  const kpis = [...new Set(groups.flatMap((group) => group.kpis))];
  const columns = panel.columns ?? DEFAULT_COLUMNS;
  const parts = partsOf(columns);
  const own = measureFrame(workspace, resolved);
  const context = await readContext(workspace.source, own, rowAsks(workspace, resolved, kpis, own, parts));
  const rows = new Map(kpis.map((kpi) => [kpi, rowAnswer(kpi, parts, context, workspace, resolved)]));
  const dimension = expandDimension(panel, resolved);
  return {
    kind: "scorecard",
    frame: resolved.wire,
    message: scorecardMessage(kpis.map((kpi) => ({ name: kpi.definition.name, ...rows.get(kpi)!.facts }))),
    columns,
    expandBy: dimension ? { key: dimension.key, name: dimension.name, plural: dimension.plural } : null,
    groups: groups.map((group) => ({ title: group.title, rows: group.kpis.map((kpi) => rows.get(kpi)!.answer) })),
  };
}

/** A row of a scorecard by the members below a member, or by the top ones: the same columns, each in its member's scope. */
export async function computeMemberRows(
  workspace: Workspace,
  resolved: ResolvedFrame,
  panel: ScorecardPanelDefinition,
  { kpi: key, parent }: { kpi: string; parent: string | null },
): Promise<MemberRows> {
  const kpi = requireKpi(workspace, key);
  const dimension = expandDimension(panel, resolved);
  if (!dimension) throw new ProblemError("invalid-request", "There is no dimension to open a row by.");
  const visible = visibleDimensions([dimension], workspace.reader.scope)[0]!;
  if (parent !== null && !visible.members.some((m) => m.key === parent))
    throw new ProblemError("unknown-scope", `There is no ${dimension.name.toLowerCase()} "${parent}".`);
  const own = measureFrame(workspace, resolved);
  const members = visible.members
    .filter((m) => m.parent === parent)
    .map((member) => ({ member, scope: intersectScopes(own.dimensions, own.scope, { [dimension.key]: [member.key] }) }))
    .filter(({ scope }) => scope[dimension.key]!.length > 0)
    .slice(0, MOST_MEMBERS);
  const parts = partsOf(panel.columns ?? DEFAULT_COLUMNS);
  const asks = members.flatMap(({ scope }) =>
    rowAsks(workspace, resolved, [kpi], { ...own, scope }, parts).map((ask): Ask => ({ ...ask, scope })),
  );
  const context = await readContext(workspace.source, own, asks);
  return {
    frame: resolved.wire,
    rows: members.map(({ member, scope }) => ({
      member: member.key,
      name: member.name,
      hasBelow: visible.members.some((m) => m.parent === member.key),
      row: rowAnswer(kpi, parts, { ...context, scope }, workspace, resolved).answer,
    })),
  };
}

function partsOf(columns: readonly ScorecardColumn[]): RowParts {
  const has = (...wanted: ScorecardColumn[]) => wanted.some((column) => columns.includes(column));
  return {
    priorYear: has("prior-year", "growth"),
    toDate: has("to-date", "to-date-delta"),
    outlook: has("outlook", "outlook-delta"),
    trendMonths: has("trend") ? TREND_MONTHS : 0,
  };
}

function rowAsks(
  { structure }: Workspace,
  { frame }: ResolvedFrame,
  kpis: readonly CompiledKpi[],
  own: MeasureFrame,
  parts: RowParts,
): Ask[] {
  return [...scorecardAsks(kpis, frame, own, parts), ...statusAsks(kpis, frame, own, structure.kpis)];
}

function expandDimension({ expandBy }: ScorecardPanelDefinition, { dimensions }: ResolvedFrame): Dimension | undefined {
  return dimensions.find((d) => d.key === expandBy) ?? dimensions[0];
}

function rowAnswer(
  kpi: CompiledKpi,
  parts: RowParts,
  context: MeasureContext,
  workspace: Workspace,
  resolved: ResolvedFrame,
): { answer: ScorecardRowAnswer; facts: ReturnType<typeof varianceFacts> } {
  const { comparison, priorYear, toDate, outlook, trend } = scorecardRow(kpi, resolved.frame, context, parts);
  const status = kpiStatus(kpi, comparison, resolved.frame, context, workspace.structure.kpis);
  const facts = varianceFacts(comparison, kpi, resolved);
  return {
    facts,
    answer: {
      kpi: kpiHead(kpi),
      actual: comparison.actual.figure,
      basis: comparison.basis.figure,
      basisName: comparison.basis.side.scenario === "" ? resolved.wire.words.basis : comparison.basis.side.name,
      isFallback: comparison.isFallback,
      variance: comparison.variance,
      words: varianceWords(facts),
      status: status === null || "absent" in status ? status : { ...status, shownAs: kpi.definition.status!.shownAs },
      priorYear: priorYear && priorYear.basis.figure,
      growth: priorYear && priorYear.variance.deltaPercent,
      toDate: toDate && { actual: toDate.actual.figure, basis: toDate.basis.figure, variance: toDate.variance },
      outlook: outlook && {
        actual: outlook.figure,
        basis: outlook.basis,
        variance: outlook.variance,
        sourceName: outlook.source?.name ?? null,
      },
      trend: trend.map(({ month, measurement }) => ({ month: formatMonth(month), actual: measurement.figure })),
      notes: notesOf(comparison, workspace, resolved.wire.words.basis),
    },
  };
}
