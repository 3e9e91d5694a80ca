import { inMember } from "../../compare/measure-ground.ts";
import type { Dimension } from "../../dimensions/dimension.ts";
import { requireKpi } from "../../frame/company.ts";
import { QuestionRefused } from "../../frame/question-refused.ts";
import { scorecardMessage } from "../../words/message.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiRow, TREND_MONTHS, type KpiRowParts } from "../parts/kpi-row.ts";
import { MOST_MEMBERS } from "../parts/repetition.ts";
import { shownMembers } from "../parts/shown-member.ts";
import { DEFAULT_COLUMNS, type ScorecardColumn, type ScorecardDefinition, type ScorecardAnswer } from "./schema.ts";
import type { KpiRow, ShownMember } from "../parts/schema.ts";
import type { FrameAnswer } from "../../frame/schema.ts";

/** A KPI's row by the members of a dimension, below one of them or at the top. */
export interface MemberRows {
  readonly frame: FrameAnswer;
  readonly rows: readonly { readonly member: ShownMember; readonly row: KpiRow }[];
}

export function computeScorecard(definition: ScorecardDefinition, question: PanelQuestion): ScorecardAnswer {
  const { company, asked } = question;
  const groups = definition.groups.map((group) => ({
    title: group.title,
    kpis: group.kpis.map((key) => requireKpi(company, key)),
  }));
  const kpis = [...new Set(groups.flatMap((group) => group.kpis))];
  const columns = definition.columns ?? DEFAULT_COLUMNS;
  const context = measureContext(question);
  const rows = new Map(kpis.map((kpi) => [kpi, kpiRow(kpi, partsOf(columns, definition), context, question)]));
  const dimension = expandDimension(definition, question);
  return {
    kind: "scorecard",
    frame: asked.answer,
    message: scorecardMessage(kpis.map((kpi) => ({ name: kpi.definition.name, ...rows.get(kpi)!.facts }))),
    columns,
    expandBy: dimension ? { key: dimension.key, name: dimension.name, plural: dimension.plural } : null,
    groups: groups.map((group) => ({ title: group.title, rows: group.kpis.map((kpi) => rows.get(kpi)!.row) })),
  };
}

/** A row of a scorecard by the members below a member, or by the top ones: the same columns, each in its member's scope. */
export function computeMemberRows(
  definition: ScorecardDefinition,
  { kpi: key, parent }: { readonly kpi: string; readonly parent?: string | undefined },
  question: PanelQuestion,
): MemberRows {
  const kpi = requireKpi(question.company, key);
  const dimension = expandDimension(definition, question);
  if (!dimension) throw new QuestionRefused("invalid-request", "There is no dimension to open a row by.");
  const context = measureContext(question);
  const parts = partsOf(definition.columns ?? DEFAULT_COLUMNS, definition);
  return {
    frame: question.asked.answer,
    rows: shownMembers(question, dimension, { parent: parent ?? null })
      .slice(0, MOST_MEMBERS)
      .map((member) => ({
        member,
        row: kpiRow(kpi, parts, inMember(context, dimension.key, member.key, member.scope), question).row,
      })),
  };
}

function partsOf(columns: readonly ScorecardColumn[], { marksOutside }: ScorecardDefinition): KpiRowParts {
  const has = (...wanted: ScorecardColumn[]) => wanted.some((column) => columns.includes(column));
  return {
    priorYear: has("prior-year", "growth"),
    toDate: has("to-date", "to-date-delta"),
    outlook: has("outlook", "outlook-delta"),
    marksOutside,
    trendMonths: has("trend") ? TREND_MONTHS : 0,
  };
}

function expandDimension({ expandBy }: ScorecardDefinition, { asked }: PanelQuestion): Dimension | undefined {
  return asked.dimensions.find((d) => d.key === expandBy) ?? asked.dimensions[0];
}
