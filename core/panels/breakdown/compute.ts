import { frameMonths } from "../../compare/window.ts";
import { periodName } from "../../calendar/fiscal-calendar.ts";
import { inMember } from "../../compare/measure-ground.ts";
import type { RowParts } from "../../compare/scorecard.ts";
import { visibleDimensions } from "../../dimensions/confine.ts";
import { memberDepth, type Dimension } from "../../dimensions/dimension.ts";
import { lifeOf } from "../../dimensions/life.ts";
import { intersectScopes, type Scope } from "../../dimensions/scope.ts";
import { isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { memberMessage, type MessageRow } from "../../words/message.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { absentMembers } from "../parts/absent-members.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { kpiRow } from "../parts/kpi-row.ts";
import { isAdditive } from "../parts/part-of.ts";
import { beyondNotes, orderRows, othersScope, repetition, type Repetition } from "../parts/repetition.ts";
import type { Stacking } from "../parts/stacking.ts";
import { partsOf, seriesOf } from "./series.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import {
  BREAKDOWN_PARTS,
  type BreakdownChoice,
  type BreakdownDefinition,
  type BreakdownSeries,
  type BreakdownAnswer,
  type BreakdownRow,
} from "./schema.ts";
import type { ShownMember } from "../parts/schema.ts";

const PARTS: RowParts = { priorYear: false, toDate: false, outlook: false, trendMonths: 0 };

export function computeBreakdown(
  definition: BreakdownDefinition,
  choice: BreakdownChoice,
  question: PanelQuestion,
): BreakdownAnswer {
  const { company, asked } = question;
  const chosen = choice.kpi ?? definition.kpis[0]!;
  const kpi = requireKpi(company, chosen);
  const below = choice.below ?? null;
  const repeated = repetition(question, definition.by, below);
  const whole: Scope =
    below === null
      ? asked.scope
      : intersectScopes(company.dimensions, asked.scope, { [repeated.dimension.key]: [below] });
  const series = seriesOf(definition, kpi, { ...question, asked: { ...asked, scope: whole } });
  const rowOf = (name: string, member: ShownMember | null, scope: Scope): BreakdownRow & { facts: MessageRow } => {
    const ground = measureContext(question);
    const own = member ? inMember(ground, repeated.dimension.key, member.key, scope) : { ...ground, scope };
    const { row, facts } = kpiRow(kpi, PARTS, own, question);
    return { member, name, row, parts: partsOf(series, kpi, own, question), facts: { name, ...facts } };
  };
  const all = repeated.members.map((member) => rowOf(member.name, member, member.scope));
  const there = all.filter(({ row }) => isPresent(row.actual));
  const present = there.filter((own) => !isNothing(own));
  const idle = there.length - present.length;
  const order = choice.order ?? definition.order;
  const isReversed = choice.reversed === undefined ? definition.isReversed : choice.reversed === "yes";
  const top = choice.top === "all" ? null : (choice.top ?? definition.top);
  const ordered = orderRows(present, order, isReversed);
  const rest = top === null || ordered.length <= top + 1 ? [] : ordered.slice(top);
  const rows = ordered.slice(0, ordered.length - rest.length);
  const total = rowOf(`All ${repeated.dimension.plural}`, null, whole);
  const gathered = [...rest.map(({ member }) => member!), ...repeated.beyond];
  const others = gathered.length === 0 ? null : othersOf(gathered, repeated, whole, rowOf);
  const wanted = choice.stacking ?? definition.stacking;
  const { stacking, why } = fittingStacking(wanted, kpi, series, [...rows, ...(others ? [others] : [])]);
  const { words } = asked.answer;
  const level = repeated.level;
  return {
    kind: "breakdown",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    headline:
      definition.title !== undefined && chosen === definition.kpis[0]
        ? definition.title
        : memberMessage(
            `${kpi.definition.name} by ${level}`,
            present.map(({ facts }) => facts),
          ),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}, by ${level}${clusterWords(definition)}, ${words.spanMonths}, for ${words.scope}, against ${total.row.basisName}`,
    layers: definition.kpis.map((key) => ({ key, name: requireKpi(company, key).definition.name })),
    by: { dimension: repeated.dimension.key, level, path: repeated.path },
    order,
    isReversed,
    top,
    shows: BREAKDOWN_PARTS.filter((part) => !definition.hides?.includes(part)),
    series,
    stacking,
    rows: rows.map(withoutFacts),
    others: others && { ...withoutFacts(others), count: gathered.length },
    total: withoutFacts(total),
    absent: [...absentMembers(all, asked.unit), ...notAlive(repeated, definition.by.level, below, question)],
    notes: [
      ...why,
      ...beyondNotes(repeated),
      ...(idle === 0
        ? []
        : [
            `${idle} of ${all.length} ${repeated.dimension.plural} ${idle === 1 ? "is" : "are"} at zero on either side, and left out.`,
          ]),
      ...nothingToCompare(present),
      ...withoutMember(kpi, total, all, repeated),
      ...total.row.notes,
    ],
  };
}

type Facts = BreakdownRow & { readonly facts: MessageRow };

function othersOf(
  members: readonly ShownMember[],
  repeated: Repetition,
  scope: Scope,
  rowOf: (name: string, member: null, scope: Scope) => Facts,
): Facts {
  return rowOf(`The other ${members.length}`, null, othersScope(repeated, scope, members));
}

function withoutFacts({ facts: _, ...row }: Facts): BreakdownRow {
  return row;
}

/** Whether there is nothing of a member on either side: a bar of no length says nothing. */
function isNothing({ row, parts }: BreakdownRow): boolean {
  return [row.actual, row.basis, ...parts].every((figure) => !isPresent(figure) || figure.value === 0);
}

/** How the parts can stand without misleading, and why not otherwise. */
function fittingStacking(
  wanted: Stacking,
  kpi: CompiledKpi,
  series: readonly BreakdownSeries[],
  rows: readonly BreakdownRow[],
): { stacking: Stacking; why: readonly string[] } {
  if (wanted === "clustered" || series.length === 0) return { stacking: "clustered", why: [] };
  const { name, unit } = kpi.definition;
  if (series.some(({ scenario }) => scenario !== undefined))
    return { stacking: "clustered", why: ["Scenarios are not parts of a total, so they are shown side by side."] };
  if (!isAdditive(unit))
    return { stacking: "clustered", why: [`${name} does not add up over its parts, so they are shown side by side.`] };
  const isNegative = rows.some(({ parts }) => parts.some((part) => isPresent(part) && part.value < 0));
  if (wanted === "share" && isNegative)
    return { stacking: "stacked", why: ["Some parts are negative: shares of the whole would mislead."] };
  return { stacking: wanted, why: [] };
}

/** Why no member is compared, where none is. */
function nothingToCompare(rows: readonly BreakdownRow[]): string[] {
  const [first] = rows;
  if (!first || rows.some(({ row }) => isPresent(row.variance.delta))) return [];
  const { delta } = first.row.variance;
  return [`No variance: ${isPresent(delta) ? "" : delta.detail}`];
}

/** What of the total is kept without a member of the dimension, in words. */
function withoutMember(
  kpi: CompiledKpi,
  total: BreakdownRow,
  rows: readonly BreakdownRow[],
  { dimension, path, beyond }: Repetition,
): string[] {
  if (!isAdditive(kpi.definition.unit) || !isPresent(total.row.actual) || path.length > 0) return [];
  // Not all of them were added up.
  if (beyond.length > 0) return [];
  const sum = rows.reduce((all, { row }) => all + (isPresent(row.actual) ? row.actual.value : 0), 0);
  const rest = total.row.actual.value - sum;
  // Sums are whole minor units: what is left below one is no money.
  if (Math.abs(rest) < 0.005) return [];
  return [`Part of the total has no ${dimension.name.toLowerCase()}, so the members do not add up to it.`];
}

/** The members of the level that did not exist in the frame's months, with when they did. */
function notAlive(
  { dimension, members, beyond }: Repetition,
  level: string | null,
  below: string | null,
  { company: { calendar }, access, asked: { frame, scope } }: PanelQuestion,
): { name: string; reason: string }[] {
  const depth = level === null ? 1 : dimension.levels.indexOf(level) + 1;
  const [visible] = visibleDimensions([dimension], access) as [Dimension];
  const shown = new Set([...members, ...beyond].map(({ key }) => key));
  const asked = frameMonths(calendar, frame);
  return visible.members
    .filter(({ key, parent }) => (below === null ? memberDepth(dimension, key) === depth : parent === below))
    .filter(({ key }) => !shown.has(key) && isInScope(dimension, key, scope))
    .map(({ key, name }) => {
      const { from, to } = lifeOf(dimension, key);
      const reason =
        to < asked[0]! ? `existed to ${periodName(calendar, to)}` : `exists from ${periodName(calendar, from)}`;
      return { name, reason: Number.isFinite(to < asked[0]! ? to : from) ? reason : "has nothing in scope" };
    });
}

function isInScope(dimension: Dimension, key: string, scope: Scope): boolean {
  const chosen = scope[dimension.key];
  return (
    chosen === undefined ||
    (intersectScopes([dimension], { [dimension.key]: chosen }, { [dimension.key]: [key] })[dimension.key]?.length ??
      0) > 0
  );
}

function clusterWords({ cluster }: BreakdownDefinition): string {
  if (!cluster) return "";
  return cluster.kind === "dimension"
    ? ` and ${cluster.level?.toLowerCase() ?? cluster.dimension}`
    : cluster.kind === "scenarios"
      ? " and scenario"
      : " and KPI";
}
