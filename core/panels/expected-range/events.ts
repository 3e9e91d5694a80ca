import type { RangeEvent } from "../../forecast/expected-range.ts";

/** A series' event at its dates, by the keys of its periods' places among all. */
export interface PlacedEvent extends RangeEvent {
  /** The member's key; empty for the whole. */
  readonly of: string;
}

/** Events of several series that were at the same time and to the same side: one event, with where it was. */
export interface JoinedEvent {
  readonly from: number;
  readonly to: number;
  readonly side: RangeEvent["side"];
  readonly kind: RangeEvent["kind"];
  /** The score farthest out. */
  readonly worst: number;
  /** What was seen less what was expected, of the members it was at, or of the whole. */
  readonly deviation: number;
  readonly members: readonly string[];
  /** Whether the whole was outside its range as well. */
  readonly isOfWhole: boolean;
}

/** Joins the events of the whole and of its members; places are those of one calendar. In the order of time. */
export function joinEvents(events: readonly PlacedEvent[]): JoinedEvent[] {
  const ordered = events.toSorted((a, b) => a.from - b.from || a.to - b.to);
  const groups: PlacedEvent[][] = [];
  for (const event of ordered) {
    const group = groups.find((own) => own[0]!.side === event.side && own.some((one) => one.to >= event.from));
    if (group) group.push(event);
    else groups.push([event]);
  }
  return groups.map((group) => {
    const ofMembers = group.filter(({ of }) => of !== "");
    const counted = ofMembers.length > 0 ? ofMembers : group;
    const worst = group.reduce((far, { worst: own }) => (Math.abs(own) > Math.abs(far) ? own : far), 0);
    return {
      from: Math.min(...group.map(({ from }) => from)),
      to: Math.max(...group.map(({ to }) => to)),
      side: group[0]!.side,
      kind: group.some(({ kind }) => kind === "shift")
        ? "shift"
        : group.some(({ kind }) => kind === "run")
          ? "run"
          : "outlier",
      worst,
      deviation: counted.reduce((sum, { deviation }) => sum + deviation, 0),
      members: [...new Set(ofMembers.map(({ of }) => of))],
      isOfWhole: group.some(({ of }) => of === ""),
    };
  });
}
