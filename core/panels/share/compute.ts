import { attainmentRank } from "../../compare/attainment.ts";
import { inMember } from "../../compare/measure-ground.ts";
import type { RowParts } from "../../compare/scorecard.ts";
import { intersectScopes, type Scope } from "../../dimensions/scope.ts";
import { absent, combine, isPresent, present } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { absentMembers } from "../parts/absent-members.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { kpiRow } from "../parts/kpi-row.ts";
import { isAdditive } from "../parts/part-of.ts";
import { beyondNotes, othersScope, repetition, type Repetition } from "../parts/repetition.ts";
import { leftWords, shareHeadline } from "./words.ts";
import { writePercent } from "../../formats/number-words.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import {
  MOST_SHARES,
  type ShareChoice,
  type ShareDefinition,
  type ShareOf,
  type SharePart,
  type ShareAnswer,
} from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";
import type { KpiRow, ShownMember } from "../parts/schema.ts";

const PARTS: RowParts = { priorYear: false, toDate: false, outlook: false, trendMonths: 0 };

export function computeShare(definition: ShareDefinition, choice: ShareChoice, question: PanelQuestion): ShareAnswer {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const of = choice.of ?? definition.of;
  const below = choice.below ?? null;
  const repeated = repetition(question, definition.by, below);
  const scope: Scope =
    below === null
      ? asked.scope
      : intersectScopes(company.dimensions, asked.scope, { [repeated.dimension.key]: [below] });
  const ground = measureContext(question);
  const rowOf = (inside: Scope, member: ShownMember | null = null) =>
    kpiRow(
      kpi,
      PARTS,
      member ? inMember(ground, repeated.dimension.key, member.key, inside) : { ...ground, scope: inside },
      question,
    ).row;
  const whole = rowOf(scope);
  const partOf = (name: string, member: ShownMember | null, inside: Scope, at: number | null): SharePart => {
    const row = rowOf(inside, member);
    return { member, name, row, share: shareOf(row, whole), left: leftWords(row, asked.unit), at };
  };
  const all = repeated.members.map((member, at) => partOf(member.name, member, member.scope, at));
  const there = all.filter(({ row }) => isPresent(row.actual));
  const ordered = there.toSorted((a, b) => rank(b, of) - rank(a, of));
  const isGathered = of === "whole" && ordered.length + repeated.beyond.length > MOST_SHARES;
  const kept = isGathered ? ordered.slice(0, MOST_SHARES - 1) : ordered;
  const rest = ordered.slice(kept.length);
  const gathered = isGathered
    ? [
        partOf(
          `The other ${rest.length + repeated.beyond.length}`,
          null,
          othersScope(repeated, scope, [...rest.map(({ member }) => member!), ...repeated.beyond]),
          null,
        ),
      ]
    : [];
  const parts = [...kept, ...gathered];
  const { name } = kpi.definition;
  const refusal = refusalOf(kpi, of, parts, repeated);
  const { words } = asked.answer;
  return {
    kind: "share",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    headline:
      definition.title !== undefined && kpi.definition.key === definition.kpi
        ? definition.title
        : refusal !== null
          ? `${name} by ${repeated.level} is not shown as ${of === "whole" ? "parts of a whole" : "attainment"}.`
          : shareHeadline(name, repeated.level, of, parts, whole.basisName),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}, by ${repeated.level}, ${words.spanMonths}, for ${words.scope}${of === "basis" ? `, against ${whole.basisName}` : ""}`,
    of,
    shape: definition.shape,
    noun: repeated.level,
    dimension: repeated.dimension.key,
    path: repeated.path,
    parts,
    whole,
    refusal,
    absent: absentMembers(all, asked.unit),
    notes: refusal === null ? [...beyondNotes(repeated), ...restNotes(of, parts, repeated), ...whole.notes] : [],
  };
}

function shareOf({ actual: part, kpi: { unit, name } }: KpiRow, { actual: whole }: KpiRow): Figure {
  if (!isAdditive(unit)) return absent("no base", `${name} does not add up over its members.`);
  return combine(part, whole, (a, b) =>
    b === 0 ? absent("no base", "The total is zero, so there are no shares.") : present(a / b),
  );
}

function rank({ row }: SharePart, of: ShareOf): number {
  if (of === "basis") return attainmentRank(row.attainment, row.kpi.direction) ?? -Infinity;
  return isPresent(row.actual) ? row.actual.value : -Infinity;
}

/** Why parts cannot stand as shares of a whole, or members not by what they reach. */
function refusalOf(
  kpi: CompiledKpi,
  of: ShareOf,
  parts: readonly SharePart[],
  { level, dimension }: Repetition,
): string | null {
  const { name, unit } = kpi.definition;
  if (parts.length === 0) return `No ${level} has a figure of ${name} here.`;
  if (of === "basis") {
    const [first] = parts;
    return parts.some(({ row }) => isPresent(row.attainment)) || !first || isPresent(first.row.attainment)
      ? null
      : first.row.attainment.detail;
  }
  if (!isAdditive(unit)) return `${name} does not add up over its members, so there are no shares.`;
  const negative = parts.find(({ row }) => isPresent(row.actual) && row.actual.value < 0);
  if (negative) return `${negative.name} is negative: shares of the whole would mislead.`;
  const sum = parts.reduce((all, { share }) => all + (isPresent(share) ? share.value : 0), 0);
  // A part in a million is what floating point leaves.
  if (sum > 1 + 1e-6)
    return `The parts make up ${writePercent(sum)} of the total, because amounts without a ${dimension.name.toLowerCase()} reduce it: shares would mislead.`;
  return null;
}

/** What of the whole the parts do not make. */
function restNotes(of: ShareOf, parts: readonly SharePart[], { dimension, beyond }: Repetition): string[] {
  if (of !== "whole" || beyond.length > 0) return [];
  const sum = parts.reduce((all, { share }) => all + (isPresent(share) ? share.value : 0), 0);
  // A part in a million is what floating point leaves.
  return parts.length === 0 || Math.abs(1 - sum) < 1e-6
    ? []
    : [`Part of the total has no ${dimension.name.toLowerCase()}: the parts make up ${(sum * 100).toFixed(1)}% of it.`];
}
