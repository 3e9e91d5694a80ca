import { dayNumber } from "../calendar/days.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import { intersectScopes, isWithinScope, type Scope } from "../dimensions/scope.ts";
import type { Period } from "../series/periods.ts";

/** What an analyst can say of an event: it was one, and no part of the pattern; or it is how things are. */
export const EVENT_VERDICTS = ["confirmed", "dismissed"] as const;
export type EventVerdict = (typeof EVENT_VERDICTS)[number];

/** Where and when something was out of the ordinary. */
export interface EventPlace {
  /** The KPI it was seen in; `null` where every KPI is to know of it. */
  readonly kpi: string | null;
  /** First and last day, counted from 1 January 1970. */
  readonly from: number;
  readonly to: number;
  /** Where one looked. */
  readonly scope: Scope;
  /** The members it was at, of one dimension; `null` where only the whole was judged. */
  readonly at: { readonly dimension: string; readonly members: readonly string[] } | null;
  /** Whether what was looked at as a whole was outside its range as well. */
  readonly isOfWhole: boolean;
}

/** An event of which an analyst said what it was. */
export interface KnownEvent extends EventPlace {
  readonly id: number;
  readonly verdict: EventVerdict;
  readonly reason: string;
  readonly by: string;
  /** When it was said, by ISO 8601. */
  readonly saidAt: string;
}

/** A period is part of an event that takes so much of its days. */
const LEAST_SHARE = 1 / 3;

/** The places of a series' periods that known events take a third or more of, by what was said of them. */
export function knownPeriods(
  events: readonly KnownEvent[],
  kpi: string | undefined,
  scope: Scope,
  periods: readonly Period[],
  dimensions: readonly Dimension[],
): { readonly confirmed: number[]; readonly dismissed: number[] } {
  const own = events.filter((event) => isKnownTo(event, kpi, scope, dimensions));
  const placesOf = (verdict: EventVerdict) => {
    const said = own.filter((event) => event.verdict === verdict);
    return said.length === 0
      ? []
      : periods.flatMap((period, place) => (said.some((event) => takes(event, daysOf(period))) ? [place] : []));
  };
  return { confirmed: placesOf("confirmed"), dismissed: placesOf("dismissed") };
}

/**
 * Whether a series of a KPI in a scope has to know of an event: within the members that it was at; or around them,
 * where the whole was out of the ordinary too.
 */
export function isKnownTo(
  { kpi: of, scope: looked, at, isOfWhole }: EventPlace,
  kpi: string | undefined,
  scope: Scope,
  dimensions: readonly Dimension[],
): boolean {
  if (of !== null && of !== kpi) return false;
  if (at === null) return isWithinScope(dimensions, scope, looked);
  const there = intersectScopes(dimensions, looked, { [at.dimension]: at.members });
  if (isWithinScope(dimensions, scope, there)) return true;
  const meeting = intersectScopes(dimensions, scope, there);
  return (
    isOfWhole && isWithinScope(dimensions, scope, looked) && !Object.values(meeting).some(({ length }) => length === 0)
  );
}

/** An event of which something was said that is about the same time and place: each has a day and a place of the other. */
export function saidOf(
  place: EventPlace,
  events: readonly KnownEvent[],
  dimensions: readonly Dimension[],
): KnownEvent | undefined {
  return events.findLast(({ kpi, from, to, scope, at }) => {
    if (kpi !== null && kpi !== place.kpi) return false;
    const days = Math.min(to, place.to) - Math.max(from, place.from) + 1;
    // What it was said of is the same event only where most of the shorter one lies in the other.
    if (days < Math.min(to - from + 1, place.to - place.from + 1) / 2) return false;
    const [here, there] = [within(place.scope, place.at, dimensions), within(scope, at, dimensions)];
    return !Object.values(intersectScopes(dimensions, here, there)).some(({ length }) => length === 0);
  });
}

/** The first and the last day of a period, counted from 1 January 1970. */
export function daysOf({ from, to, window: { days } }: Period): { readonly from: number; readonly to: number } {
  return days
    ? { from: dayNumber({ month: from, day: days.from }), to: dayNumber({ month: to, day: days.to }) }
    : { from: dayNumber({ month: from, day: 1 }), to: dayNumber({ month: to + 1, day: 1 }) - 1 };
}

function takes(event: EventPlace, days: { readonly from: number; readonly to: number }): boolean {
  const taken = Math.min(event.to, days.to) - Math.max(event.from, days.from) + 1;
  return taken >= LEAST_SHARE * (days.to - days.from + 1);
}

function within(scope: Scope, at: EventPlace["at"], dimensions: readonly Dimension[]): Scope {
  return at === null ? scope : intersectScopes(dimensions, scope, { [at.dimension]: at.members });
}
