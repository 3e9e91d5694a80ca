import { fiscalYearOf } from "#core/calendar/fiscal-calendar.ts";
import { daysInMonth, monthOf, monthOfYear, type Month } from "#core/calendar/month.ts";
import { HOME_MARKETS } from "../company/dimensions.ts";
import { ROUTES, SOLD_VESSEL, type RouteProfile } from "../company/routes.ts";
import { CALENDAR } from "../company/scenarios.ts";
import { parseMonth } from "#core/calendar/month.ts";
import type { Assumptions } from "./assumptions.ts";
import { distribute, wobble } from "./noise.ts";
import { actualMonth, plannedMonth, type RouteMonth } from "./operations.ts";

/** One amount of one account in one month, in whole minor units, with the members it belongs to. */
export interface Booking {
  readonly account: string;
  readonly members: Readonly<Record<string, string>>;
  readonly amount: number;
  /** The document it was posted from, where that matters to the story. */
  readonly reference?: string;
}

/** The invoice that is posted twice in October 2026. */
export const DOUBLED_INVOICE = {
  month: monthOf(2026, 10),
  reference: "INV-20618",
  euros: 184_000,
  vessel: "gannet",
  route: "vardel-isenholm",
} as const;

const SERVICE_OF: Readonly<Record<string, string>> = {
  passenger_fares: "passengers",
  booking_fees: "passengers",
  passengers: "passengers",
  vehicle_fares: "vehicles",
  freight_carriage: "freight",
  freight_surcharges: "freight",
  freight_units: "freight",
  restaurant_sales: "on-board",
  shop_sales: "on-board",
  cabin_upgrades: "on-board",
  charter_revenue: "charter",
};
const BY_MARKET = new Set(["passenger_fares", "vehicle_fares", "booking_fees", "passengers"]);
/** Accounts that count things: whole units rather than cents. */
const COUNTED = new Set(["passengers", "freight_units", "headcount"]);

/** Income, expenses and statistics of a month. Balances follow from them in `balances.ts`. */
export function monthBookings(month: Month, assumptions: Assumptions): Booking[] {
  const routes = ROUTES.flatMap((route) => routeBookings(route, month, assumptions));
  const company = companyAmounts(month, assumptions).map(([account, centre, euros]): Booking => ({
    account,
    members: { "cost-centre": centre },
    amount: Math.round(euros * 100),
  }));
  const profit = [...routes, ...company].reduce((sum, b) => sum + signInResult(b.account) * b.amount, 0);
  const interest = Math.round(168_000_00 * 0.985 ** (month - monthOf(2023, 4)) + 0);
  const tax = Math.round(Math.max(0, profit - interest) * 0.22);
  return [
    ...routes,
    ...company,
    { account: "interest", members: {}, amount: interest },
    { account: "income_tax", members: {}, amount: tax },
    ...people(month),
  ];
}

/** +1 for income, −1 for expenses, 0 for what is not in the result. */
export function signInResult(account: string): number {
  if (COUNTED.has(account) || account === "full_time_equivalents") return 0;
  return SERVICE_OF[account] !== undefined || account === "port_services" ? 1 : -1;
}

function routeBookings(route: RouteProfile, month: Month, assumptions: Assumptions): Booking[] {
  const volume = assumptions.isActual ? actualMonth(route, month) : plannedMonth(route, month);
  const years = fiscalYearOf(CALENDAR, month) - 2024;
  const amounts = routeAmounts({ route, month, volume, assumptions, prices: 1.026 ** years, wages: 1.031 ** years });
  return amounts.flatMap(([account, centre, value]) => {
    const whole = Math.round(COUNTED.has(account) ? value : value * 100);
    const members: Record<string, string> = { route: route.key };
    if (SERVICE_OF[account]) members["service"] = SERVICE_OF[account];
    if (centre) members["cost-centre"] = centre;
    if (!assumptions.isActual) return [{ account, members, amount: whole }];
    return splitActual(route, month, { account, members, amount: whole });
  });
}

type Amount = readonly [account: string, costCentre: string | null, value: number];

function routeAmounts({
  route,
  month,
  volume,
  assumptions,
  prices,
  wages,
}: {
  route: RouteProfile;
  month: Month;
  volume: RouteMonth;
  assumptions: Assumptions;
  prices: number;
  wages: number;
}): Amount[] {
  const chance = (account: string, spread: number) =>
    assumptions.isActual ? wobble(spread, account, route.key, month) : 1;
  const days = daysInMonth(month);
  const passengers = Math.round(volume.passengers * assumptions.passengerFactor(month));
  const vehicles = volume.vehicles * assumptions.passengerFactor(month);
  const units = Math.round(route.freightPerDay * days * 0.98 * assumptions.freightVolume(route, month));
  const carriage = units * route.freightPrice * prices * assumptions.freightPrice(route, month);
  const board = passengers * assumptions.onboardSpend(month);
  const size = route.passengersPerDay / 7300;
  const overtimeShare = { "skerry-sound": 0.45, "lantern-bay": 0.32, northreach: 0.23 }[route.area]! / 3;
  const summer = monthOfYear(month) >= 5 && monthOfYear(month) <= 9;
  return [
    ["passengers", null, passengers],
    ["freight_units", null, units],
    ["passenger_fares", null, passengers * route.passengerFare * prices * chance("fare", 0.007)],
    ["vehicle_fares", null, vehicles * route.vehicleFare * prices * chance("vfare", 0.01)],
    ["booking_fees", null, passengers * 0.85 * chance("fee", 0.01)],
    ["freight_carriage", null, carriage],
    ["freight_surcharges", null, carriage * 0.09],
    ["restaurant_sales", null, board * 0.52],
    ["shop_sales", null, board * 0.34],
    ["cabin_upgrades", null, board * 0.14],
    ["port_services", null, 92_000 * size * prices * chance("services", 0.05)],
    ...(assumptions.charters(month) && route.area === "lantern-bay"
      ? [["charter_revenue", null, 31_000 * (summer ? 1.4 : 0.6) * chance("charter", 0.08)] as Amount]
      : []),
    ["marine_fuel", "fleet-operations", volume.litres * assumptions.fuelPrice(month)],
    ["lubricants", "fleet-operations", volume.litres * 0.021 * chance("oil", 0.03)],
    ["crew_wages", "deck-crew", 980_000 * size * wages * (summer ? 1.1 : 0.95) * chance("deck", 0.008)],
    ["crew_wages", "engine-crew", 610_000 * size * wages * chance("engine", 0.008)],
    ["crew_wages", "hotel-crew", 640_000 * size * wages * (summer ? 1.25 : 0.85) * chance("hotel", 0.01)],
    ["crew_social", "deck-crew", 430_000 * size * wages * chance("social", 0.01)],
    ["crew_travel", "deck-crew", 96_000 * size * chance("travel", 0.04)],
    ["port_dues", route.port, volume.sailings * 640 * prices * chance("dues", 0.01)],
    ["port_handling", route.port, (vehicles * 2.1 + units * 17) * prices * chance("handling", 0.015)],
    ["port_overtime", route.port, assumptions.portOvertime(month) * overtimeShare],
    ["planned_maintenance", "workshop", 420_000 * size * prices * (summer ? 0.8 : 1.15) * chance("planned", 0.02)],
    ["repairs", "workshop", 260_000 * size * prices * chance("repairs", 0.06)],
    ["dry_docking", "dry-dock", (monthOfYear(month) <= 3 ? 620_000 : 0) * size * prices * chance("dock", 0.02)],
    ["food_and_drink", "hotel-crew", board * 0.27 * chance("food", 0.01)],
    ["shop_goods", "hotel-crew", board * 0.17 * chance("goods", 0.01)],
    ["vessel_depreciation", "fleet-operations", 790_000 * size],
  ];
}

function companyAmounts(month: Month, assumptions: Assumptions): [string, string, number][] {
  const years = fiscalYearOf(CALENDAR, month) - 2024;
  const wages = 1.031 ** years;
  const chance = (account: string, spread: number) => (assumptions.isActual ? wobble(spread, account, month) : 1);
  return [
    ["advertising", "marketing", assumptions.advertising(month)],
    [
      "sales_commission",
      "sales",
      148_000 * (0.6 + 0.4 * ADVERTISED[monthOfYear(month) - 1]!) * chance("commission", 0.02),
    ],
    ["call_centre", "customer-service", 171_000 * wages * chance("calls", 0.015)],
    ["office_salaries", "finance", 262_000 * wages * chance("office", 0.006)],
    ["office_salaries", "systems", 148_000 * wages * chance("it", 0.006)],
    ["system_licences", "systems", 118_000 * chance("licence", 0.02)],
    ["insurance", "finance", 214_000 * 1.04 ** years],
    ["equipment_depreciation", "finance", 66_000],
  ];
}

const ADVERTISED = [0.8, 0.9, 1, 1.1, 1.1, 1.2, 1.4, 1.4, 1, 0.9, 0.8, 0.9] as const;

function people(month: Month): Booking[] {
  const summer = monthOfYear(month) >= 5 && monthOfYear(month) <= 9;
  const staff: Record<string, number> = {
    "fleet-operations": 24,
    "deck-crew": summer ? 268 : 236,
    "engine-crew": 142,
    "hotel-crew": summer ? 246 : 176,
    "quillhaven-port": 58,
    "ambel-port": 44,
    "vardel-port": 37,
    sales: 26,
    marketing: 14,
    "customer-service": 41,
    workshop: 63,
    "dry-dock": 29,
    finance: 31,
    systems: 19,
  };
  return Object.entries(staff).flatMap(([centre, count]): Booking[] => [
    { account: "headcount", members: { "cost-centre": centre }, amount: count },
    { account: "full_time_equivalents", members: { "cost-centre": centre }, amount: Math.round(count * 9.2) },
  ]);
}

function splitActual(route: RouteProfile, month: Month, booking: Booking): Booking[] {
  const sailing = route.vessels.filter((v) => v !== SOLD_VESSEL.key || month < parseMonth(SOLD_VESSEL.goneFrom)!);
  const shares = sailing.map((vessel, i) => (i === 0 ? 0.62 : 0.38) * wobble(0.05, vessel, route.key, month));
  const byVessel = distribute(booking.amount, shares).map((amount, i): Booking => ({
    ...booking,
    amount,
    members: { ...booking.members, vessel: sailing[i]! },
  }));
  const whole = BY_MARKET.has(booking.account) ? byVessel.flatMap((b) => byMarket(route, month, b)) : byVessel;
  const double = DOUBLED_INVOICE;
  if (booking.account === "repairs" && route.key === double.route && month === double.month) {
    const members = { ...booking.members, vessel: double.vessel };
    const invoice: Booking = { account: "repairs", members, amount: double.euros * 100, reference: double.reference };
    return [...whole, invoice, invoice];
  }
  return whole;
}

function byMarket(route: RouteProfile, month: Month, booking: Booking): Booking[] {
  const weights = HOME_MARKETS.map(
    ({ key, share }) => share * wobble(0.12, key, route.key) * wobble(0.03, key, route.key, month),
  );
  return distribute(booking.amount, weights).map((amount, i) => ({
    ...booking,
    amount,
    members: { ...booking.members, "home-market": HOME_MARKETS[i]!.key },
  }));
}
