import { describe, expect, it } from "vitest";
import { dayNumber } from "../calendar/days.ts";
import { monthOf } from "../calendar/month.ts";
import { wholePeriods } from "../series/periods.ts";
import { CALENDAR, SHOPS } from "../testing/small-company.ts";
import { daysOf, isKnownTo, knownPeriods, saidOf, type EventPlace, type KnownEvent } from "./known-events.ts";

const SEPTEMBER = monthOf(2026, 9);
const day = (of: number, month = SEPTEMBER) => dayNumber({ month, day: of });
const DIMENSIONS = [SHOPS];
const event = (more: Partial<KnownEvent> = {}): KnownEvent => ({
  id: 1,
  kpi: "turnover",
  from: day(9),
  to: day(20),
  scope: {},
  at: null,
  isOfWhole: true,
  verdict: "confirmed",
  reason: "A storm",
  by: "Maren Holt",
  saidAt: "2026-10-05T08:00:00.000Z",
  ...more,
});
const months = wholePeriods("month", CALENDAR, SEPTEMBER - 1, SEPTEMBER + 1);
const at = (...members: string[]) => ({ dimension: "shop", members });

describe("the periods that an event takes", () => {
  it("are those of which a third of the days or more are in it, of any grain", () => {
    const places = (own: KnownEvent, periods = months) =>
      knownPeriods([own], "turnover", {}, periods, DIMENSIONS).confirmed.map((place) => periods[place]!.key);
    expect(places(event())).toEqual(["2026-09"]);
    expect(places(event({ to: day(17) }))).toEqual([]);
    expect(places(event({ to: day(18) }))).toEqual(["2026-09"]);
    const days = wholePeriods("day", CALENDAR, SEPTEMBER, SEPTEMBER);
    expect(places(event(), days)).toHaveLength(12);
    const weeks = wholePeriods("week", CALENDAR, SEPTEMBER, SEPTEMBER);
    // 7–13, 14–20 and, with none of its days, 21–27 September.
    expect(places(event(), weeks)).toEqual(["2026-W37", "2026-W38"]);
    expect(daysOf(months[1]!)).toEqual({ from: day(1), to: day(30) });
  });

  it("are told apart by what was said", () => {
    const events = [event(), event({ from: day(1, SEPTEMBER + 1), to: day(31, SEPTEMBER + 1), verdict: "dismissed" })];
    expect(knownPeriods(events, "turnover", {}, months, DIMENSIONS)).toEqual({ confirmed: [1], dismissed: [2] });
    expect(knownPeriods(events, "margin", {}, months, DIMENSIONS)).toEqual({ confirmed: [], dismissed: [] });
  });
});

describe("an event is known", () => {
  const isKnown = (own: EventPlace, scope: Record<string, string[]>, kpi = "turnover") =>
    isKnownTo(own, kpi, scope, DIMENSIONS);
  it("to its KPI, or to every one", () => {
    expect(isKnown(event(), {}, "margin")).toBe(false);
    expect(isKnown(event({ kpi: null }), {}, "margin")).toBe(true);
  });
  it("within the members it was at, around them only where the whole was outside too, and not beside them", () => {
    const ofWhole = event({ at: at("mill") });
    expect(isKnown(ofWhole, { shop: ["mill"] })).toBe(true);
    expect(isKnown(ofWhole, {})).toBe(true);
    expect(isKnown(ofWhole, { shop: ["quay"] })).toBe(false);
    const ofPart = event({ at: at("mill"), isOfWhole: false });
    expect(isKnown(ofPart, { shop: ["mill"] })).toBe(true);
    expect(isKnown(ofPart, {})).toBe(false);
  });
  it("to all that lies within where one looked, where no members were judged", () => {
    const narrow = event({ scope: { shop: ["north"] } });
    expect(isKnown(narrow, { shop: ["north"] })).toBe(true);
    expect(isKnown(narrow, { shop: ["mill"] })).toBe(true);
    expect(isKnown(narrow, {})).toBe(false);
  });
});

describe("what was said of an event", () => {
  it("is found at about the same time and place, the last word first", () => {
    const place: EventPlace = { ...event(), from: day(10), to: day(19), at: at("mill") };
    const first = event({ at: at("mill", "gate") });
    const later = event({ id: 2, verdict: "dismissed" });
    expect(saidOf(place, [first], DIMENSIONS)).toBe(first);
    expect(saidOf(place, [first, later], DIMENSIONS)).toBe(later);
    expect(saidOf(place, [event({ at: at("quay") })], DIMENSIONS)).toBeUndefined();
    expect(saidOf(place, [event({ kpi: "margin" })], DIMENSIONS)).toBeUndefined();
    // One day at its edge is another event.
    expect(saidOf(place, [event({ from: day(19), to: day(30) })], DIMENSIONS)).toBeUndefined();
  });
});
