import { fiscalYearOf } from "#core/calendar/fiscal-calendar.ts";
import { daysInMonth, monthOf, monthOfYear, type Month } from "#core/calendar/month.ts";
import type { RouteProfile } from "../company/routes.ts";
import { CALENDAR } from "../company/scenarios.ts";
import { uniform, wobble } from "./noise.ts";
import { travelLevel } from "./season.ts";

/** What one route did, or is expected to do, on one day. */
export interface RouteDay {
  readonly sailings_planned: number;
  readonly sailings: number;
  readonly sailings_cancelled: number;
  readonly sailings_on_time: number;
  readonly seats_offered: number;
  readonly lane_metres_offered: number;
  readonly passengers_carried: number;
  readonly vehicles_carried: number;
  readonly fuel_litres: number;
  readonly complaints: number;
}

const STORM = {
  month: monthOf(2026, 9),
  fromDay: 9,
  toDay: 20,
  routes: ["vardel-isenholm", "vardel-grey-ness"],
} as const;
/** Seats are laid out so that an average day fills about this share of them. */
const TYPICAL_LOAD = 0.55;

/** Growth of traffic since FY24, in the company's steady years. */
export function growth(month: Month): number {
  return 1 + 0.028 * (fiscalYearOf(CALENDAR, month) - 24 - 2000);
}

/** The passengers a route can expect on a day, before weather and chance. */
export function expectedPassengers(route: RouteProfile, month: Month, day: number): number {
  return route.passengersPerDay * travelLevel(month, day) * growth(month);
}

/** The sailings the timetable has for a route on any day of a month. */
export function plannedSailings(route: RouteProfile, month: Month): number {
  const m = monthOfYear(month);
  const season = m >= 6 && m <= 9 ? 1.25 : m >= 11 || m <= 2 ? 0.8 : 1;
  return Math.max(1, Math.round(route.sailingsPerDay * season));
}

/** One route's day as it happened. */
export function routeDay(route: RouteProfile, month: Month, day: number): RouteDay {
  const words = [route.key, month, day] as const;
  const planned = plannedSailings(route, month);
  const stopped =
    month === STORM.month && day >= STORM.fromDay && day <= STORM.toDay && STORM.routes.some((r) => r === route.key);
  const winter = monthOfYear(month) >= 11 || monthOfYear(month) <= 3;
  const cancelled = stopped
    ? planned
    : uniform("weather", ...words) < (winter ? 0.045 : 0.012)
      ? Math.ceil(planned / 2)
      : 0;
  const sailings = planned - cancelled;
  const punctuality = Math.min(1, 0.935 * wobble(0.03, "time", ...words));
  const onTime = Math.min(sailings, Math.floor(sailings * punctuality + uniform("round", ...words)));
  const demand = expectedPassengers(route, month, day) * wobble(0.06, "pax", ...words) * demandShift(month);
  const passengers = Math.round(demand * (sailings / planned) ** 0.6);
  return {
    sailings_planned: planned,
    sailings,
    sailings_cancelled: cancelled,
    sailings_on_time: onTime,
    seats_offered: sailings * Math.round((route.passengersPerDay * 1.25) / route.sailingsPerDay / TYPICAL_LOAD),
    lane_metres_offered: sailings * Math.round((route.passengersPerDay * route.vehicleRate * 9) / route.sailingsPerDay),
    passengers_carried: passengers,
    vehicles_carried: Math.round(passengers * route.vehicleRate * wobble(0.04, "veh", ...words)),
    fuel_litres: Math.round(sailings * route.litresPerSailing * wobble(0.03, "fuel", ...words)),
    complaints: Math.floor(
      passengers * 0.0009 * wobble(0.25, "moan", ...words) + (stopped ? 14 : 0) + uniform("c", ...words),
    ),
  };
}

/** Demand against the steady trend: FY27 starts stronger than anyone had planned. */
function demandShift(month: Month): number {
  return month >= monthOf(2026, 4) ? 1.012 : wobble(0.008, "demand", month);
}

/** A route's month: what the ledger's volumes are made of. */
export interface RouteMonth {
  readonly passengers: number;
  readonly vehicles: number;
  readonly sailings: number;
  readonly litres: number;
}

/** A route's month as it happened, the exact sum of its days. */
export function actualMonth(route: RouteProfile, month: Month): RouteMonth {
  const days = Array.from({ length: daysInMonth(month) }, (_, i) => routeDay(route, month, i + 1));
  const sum = (pick: (day: RouteDay) => number) => days.reduce((total, day) => total + pick(day), 0);
  return {
    passengers: sum((d) => d.passengers_carried),
    vehicles: sum((d) => d.vehicles_carried),
    sailings: sum((d) => d.sailings),
    litres: sum((d) => d.fuel_litres),
  };
}

/** A route's month as a planner expects it. */
export function plannedMonth(route: RouteProfile, month: Month): RouteMonth {
  const days = daysInMonth(month);
  let passengers = 0;
  for (let day = 1; day <= days; day += 1) passengers += expectedPassengers(route, month, day);
  const sailings = plannedSailings(route, month) * days;
  return {
    passengers: Math.round(passengers),
    vehicles: Math.round(passengers * route.vehicleRate),
    sailings,
    litres: Math.round(sailings * route.litresPerSailing * 0.985),
  };
}
