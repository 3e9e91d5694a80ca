import type { Ask } from "#core/compare/plan-reads.ts";
import type { RowParts } from "#core/compare/scorecard.ts";
import type { Dimension } from "#core/dimensions/dimension.ts";
import { scorecardMessage } from "#core/words/message.ts";
import { DEFAULT_COLUMNS, type ScorecardColumn, type ScorecardPanelDefinition } from "#contract/pack.ts";
import type { MemberRows, ScorecardAnswer } from "#contract/panels.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import { requireKpi } from "./kpi-answers.ts";
import { memberScopes, wireMember } from "./member-scopes.ts";
import { measureFrame, readContext } from "./read-context.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import { rowAnswer, rowAsks, TREND_MONTHS } from "./row-answer.ts";
import type { Workspace } from "./workspace.ts";

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
  const own = measureFrame(workspace, resolved);
  const members = memberScopes(workspace, own, dimension, { parent }).slice(0, MOST_MEMBERS);
  const parts = partsOf(panel.columns ?? DEFAULT_COLUMNS);
  const asks = members.flatMap(({ scope }) =>
    rowAsks(workspace, resolved, [kpi], { ...own, scope }, parts).map((ask): Ask => ({ ...ask, scope })),
  );
  const context = await readContext(workspace.source, own, asks);
  return {
    frame: resolved.wire,
    rows: members.map((member) => ({
      member: wireMember(member),
      row: rowAnswer(kpi, parts, { ...context, scope: member.scope }, workspace, resolved).answer,
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

function expandDimension({ expandBy }: ScorecardPanelDefinition, { dimensions }: ResolvedFrame): Dimension | undefined {
  return dimensions.find((d) => d.key === expandBy) ?? dimensions[0];
}
