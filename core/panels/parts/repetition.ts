import { attainmentRank } from "../../compare/attainment.ts";
import { memberDepth, type Dimension } from "../../dimensions/dimension.ts";
import type { Scope } from "../../dimensions/scope.ts";
import { isPresent } from "../../figures/figure.ts";
import { QuestionRefused } from "../../frame/question-refused.ts";
import type { PanelQuestion } from "../panel-question.ts";
import { shownMembers, type Lived } from "./shown-member.ts";
import type { KpiRow, ShownMember } from "./schema.ts";

/** A dimension by whose members a panel repeats what it shows; `level` is the highest where `null`. */
export interface RepeatBy {
  readonly dimension: string;
  readonly level: string | null;
}

/** In which order what is repeated stands: as it is set, or by what its figures say. */
export const REPEAT_ORDERS = ["set", "value", "attainment", "variance", "name"] as const;
export type RepeatOrder = (typeof REPEAT_ORDERS)[number];

/** At most this many members are shown. */
export const MOST_MEMBERS = 100;

/** The members that a panel is repeated by, and where they stand in their dimension. */
export interface Repetition {
  readonly dimension: Dimension;
  readonly members: readonly ShownMember[];
  /** The members that are there too, but too many to be looked at one by one. */
  readonly beyond: readonly ShownMember[];
  /** What a member is called here: "route", "sea area". */
  readonly level: string;
  /** The members the reader went down through, from the top. */
  readonly path: readonly { readonly key: string; readonly name: string }[];
}

/**
 * The members of a level, or those below a member that the reader went down to; `lived`: in which stretches of time they
 * are looked at, where these are not the sides of the frame's comparison.
 */
export function repetition(question: PanelQuestion, by: RepeatBy, below: string | null, lived?: Lived): Repetition {
  const { dimension, members, level } = levelMembers(question, by, below, lived);
  return {
    dimension,
    members: members.slice(0, MOST_MEMBERS),
    beyond: members.slice(MOST_MEMBERS),
    level,
    path: pathTo(dimension, below),
  };
}

/** A repetition by fewer members: what comes after them is beyond. */
export function firstOf(repeated: Repetition, most: number): Repetition {
  const { members, beyond } = repeated;
  return { ...repeated, members: members.slice(0, most), beyond: [...members.slice(most), ...beyond] };
}

/** That not all members are looked at one by one, where they are too many. */
export function beyondNotes({ dimension: { plural }, members, beyond }: Repetition): string[] {
  if (beyond.length === 0) return [];
  const all = (members.length + beyond.length).toLocaleString("en");
  return [
    `Only the first ${members.length} of ${all} ${plural} are shown individually, in the order of the structure; the others may include larger ones. Add a level above them, or narrow the page.`,
  ];
}

/** The same, however many they are. */
export function levelMembers(
  question: PanelQuestion,
  by: RepeatBy,
  below: string | null,
  lived?: Lived,
): Pick<Repetition, "dimension" | "members" | "level"> {
  const dimension = question.asked.dimensions.find((d) => d.key === by.dimension);
  if (!dimension)
    throw new QuestionRefused(
      "unknown-scope",
      `This panel is repeated by "${by.dimension}", which this review does not have. Arrange it again.`,
    );
  const level = by.level === null ? -1 : dimension.levels.indexOf(by.level);
  const members = shownMembers(question, dimension, {
    parent: below,
    level: level < 0 ? undefined : level + 1,
    lived,
  });
  const depth = members[0] ? memberDepth(dimension, members[0].key) : below === null ? 1 : 2;
  return { dimension, members, level: (dimension.levels[depth - 1] ?? dimension.name).toLowerCase() };
}

function pathTo(dimension: Dimension, key: string | null): { key: string; name: string }[] {
  const member = dimension.members.find((m) => m.key === key);
  return member ? [...pathTo(dimension, member.parent), { key: member.key, name: member.name }] : [];
}

/** Rows in an order, the highest or the best first; those without a figure to go by stay behind, in the order they are set in. */
export function orderRows<T extends { readonly row: KpiRow; readonly member: { readonly name: string } | null }>(
  items: readonly T[],
  order: RepeatOrder,
  isReversed: boolean,
): T[] {
  if (order === "set") return isReversed ? items.toReversed() : [...items];
  if (order === "name") {
    const byName = items.toSorted((a, b) => nameOf(a).localeCompare(nameOf(b), "en", { numeric: true }));
    return isReversed ? byName.reverse() : byName;
  }
  const keyed = items.map((item) => ({ item, at: orderKey(item.row, order) }));
  const sign = isReversed ? 1 : -1;
  return [
    ...keyed
      .filter((entry): entry is { item: T; at: number } => entry.at !== null)
      .sort((a, b) => sign * (a.at - b.at)),
    ...keyed.filter((entry) => entry.at === null),
  ].map(({ item }) => item);
}

function nameOf({ row, member }: { readonly row: KpiRow; readonly member: { readonly name: string } | null }): string {
  return member?.name ?? row.kpi.name;
}

function orderKey(
  { kpi, actual, variance, attainment }: KpiRow,
  order: Exclude<RepeatOrder, "set" | "name">,
): number | null {
  if (order === "attainment") return attainmentRank(attainment, kpi.direction);
  const figure = order === "value" ? actual : variance.delta;
  if (!isPresent(figure)) return null;
  return order === "variance" && kpi.direction === "lower" ? -figure.value : figure.value;
}

/**
 * The scope of the members that do not stand apart, to be measured together: a rate of them all
 * is no mean of their rates.
 */
export function othersScope(
  { dimension: { key } }: Repetition,
  frameScope: Scope,
  others: readonly ShownMember[],
): Scope {
  return { ...frameScope, [key]: others.flatMap((member) => member.scope[key]!) };
}
