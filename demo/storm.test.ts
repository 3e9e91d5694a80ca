import { describe, expect, it } from "vitest";
import { daysOf, formatDay } from "#core/calendar/days.ts";
import { monthOf, monthsBetween } from "#core/calendar/month.ts";
import { easterRegressors } from "#core/forecast/calendar-effects.ts";
import { expectedRange } from "#core/forecast/expected-range.ts";
import { ROUTES } from "./company/routes.ts";
import { routeDay } from "./generate/operations.ts";

/** Every day of the operations' files to the end of October. */
const DAYS = daysOf(monthsBetween(monthOf(2023, 4), monthOf(2026, 10)));
const dayOf = (text: string) => DAYS.findIndex((day) => formatDay(day) === text);
const dayAt = (t: number) => DAYS[t]!;
const NOVEMBER = dayOf("2025-11-01");

describe("what is out of the ordinary in the sample", () => {
  const ranges = ROUTES.map((route) => {
    const values = DAYS.map(({ month, day }) => routeDay(route, month, day).passengers_carried);
    const range = expectedRange({ values, season: 7 }, { from: NOVEMBER, regressors: easterRegressors(dayAt) });
    if ("notFitted" in range) throw new Error(range.notFitted);
    return { key: route.key, ...range };
  });

  it("is the storm, one event on the two routes it stopped, and nothing else in its month", () => {
    const [from, to] = [dayOf("2026-09-01"), dayOf("2026-09-30")];
    const september = ranges.flatMap(({ key, events }) =>
      events
        .filter((event) => event.from <= to && event.to >= from)
        .map((event) => ({
          key,
          from: formatDay(DAYS[event.from]!),
          to: formatDay(DAYS[event.to]!),
          side: event.side,
        })),
    );
    expect(september).toEqual(
      ["vardel-isenholm", "vardel-grey-ness"].map((key) => ({
        key,
        from: "2026-09-09",
        to: "2026-09-20",
        side: "below",
      })),
    );
  });

  it("leaves at most five in a hundred days of the quiet months outside", () => {
    const quiet = ranges.flatMap(({ points }) =>
      points.filter(({ period }) => DAYS[period]!.month !== monthOf(2026, 9)),
    );
    expect(quiet.filter(({ isOutside }) => isOutside).length / quiet.length).toBeLessThanOrEqual(0.05);
    // Easter is no event: it comes every year, and never on the same days.
    const april = ranges.flatMap(({ events }) => events.filter(({ from }) => DAYS[from]!.month === monthOf(2026, 4)));
    expect(april).toEqual([]);
  });
});
