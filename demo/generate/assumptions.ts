import { fiscalYearOf } from "#core/calendar/fiscal-calendar.ts";
import { monthOf, monthOfYear, type Month } from "#core/calendar/month.ts";
import type { RouteProfile } from "../company/routes.ts";
import { CALENDAR, FIRST_MONTH } from "../company/scenarios.ts";
import { wobble } from "./noise.ts";

/** What turns volumes into money: as it came, as budgeted, or as forecast. Factors are 1 where nothing is special. */
export interface Assumptions {
  /** Whether vessels and home markets are told apart, and chance is in the amounts. */
  readonly isActual: boolean;
  passengerFactor(month: Month): number;
  /** Euros per litre. */
  fuelPrice(month: Month): number;
  freightVolume(route: RouteProfile, month: Month): number;
  freightPrice(route: RouteProfile, month: Month): number;
  /** Euros per passenger. */
  onboardSpend(month: Month): number;
  /** Euros per month over all ports. */
  portOvertime(month: Month): number;
  /** Euros per month. */
  advertising(month: Month): number;
  charters(month: Month): boolean;
}

const ADVERTISING_SEASON = [0.6, 1.5, 1.7, 1.35, 1.2, 0.9, 0.7, 0.6, 0.75, 0.8, 1.0, 0.9] as const;
const FUEL_RISE = { from: monthOf(2026, 7), factor: 1.18 } as const;
const CONTRACT = { from: monthOf(2026, 6), area: "northreach", volume: 1.33, price: 0.917 } as const;
const REFIT = monthOf(2025, 10);
const LAST_CHARTER = monthOf(2025, 9);

const yearsIn = (month: Month) => fiscalYearOf(CALENDAR, month) - 2024;
const advertisingYear = (month: Month) => 3_360_000 * 1.03 ** yearsIn(month);
const plainFuel = (month: Month) => 0.6 * 1.015 ** yearsIn(month);
const isContract = (route: RouteProfile, month: Month) => route.area === CONTRACT.area && month >= CONTRACT.from;

/** As it came. */
export const ACTUAL_ASSUMPTIONS: Assumptions = {
  isActual: true,
  passengerFactor: () => 1,
  fuelPrice: (month) =>
    plainFuel(month) * (month >= FUEL_RISE.from ? FUEL_RISE.factor : 1) * wobble(0.008, "bunker", month),
  freightVolume: (route, month) =>
    (isContract(route, month) ? CONTRACT.volume : 1) * wobble(0.03, "freight", route.key, month),
  freightPrice: (route, month) =>
    (isContract(route, month) ? CONTRACT.price : 1) * wobble(0.006, "rate", route.key, month),
  onboardSpend: (month) => 6.1 * 1.02 ** yearsIn(month) * (month >= REFIT ? 1.11 : 1) * wobble(0.012, "spend", month),
  portOvertime: (month) => {
    const creep = month >= monthOf(2026, 4) ? 1_900 * (month - monthOf(2026, 4) + 1) : 0;
    return budgetOvertime(month) + creep + 900 * (wobble(0.5, "ot", month) - 1);
  },
  advertising: (month) =>
    (advertisingYear(month) / 12) * ADVERTISING_SEASON[monthOfYear(month) - 1]! * wobble(0.01, "adv", month),
  charters: (month) => month <= LAST_CHARTER,
};

/** As budgeted before the year began: advertising is phased evenly, the contract and the fuel price are not known. */
export const BUDGET_ASSUMPTIONS: Assumptions = {
  isActual: false,
  passengerFactor: () => 0.99,
  fuelPrice: plainFuel,
  freightVolume: () => 1,
  freightPrice: () => 1,
  onboardSpend: (month) => 6.1 * 1.02 ** yearsIn(month) * (yearsIn(month) >= 3 ? 1.08 : 1),
  portOvertime: budgetOvertime,
  advertising: (month) => advertisingYear(month) / 12,
  charters: (month) => month <= monthOf(2026, 3) && month >= FIRST_MONTH,
};

/** As forecast after June: the contract is known, the fuel price is not. */
export const FORECAST_3_9_ASSUMPTIONS: Assumptions = {
  ...BUDGET_ASSUMPTIONS,
  passengerFactor: () => 1,
  freightVolume: (route, month) => (isContract(route, month) ? 1.25 : 1),
  freightPrice: (route, month) => (isContract(route, month) ? 0.93 : 1),
  onboardSpend: (month) => BUDGET_ASSUMPTIONS.onboardSpend(month) * 1.02,
  charters: () => false,
};

/** As forecast after September: fuel stays dear and the winter's bookings are thin. */
export const FORECAST_6_6_ASSUMPTIONS: Assumptions = {
  ...FORECAST_3_9_ASSUMPTIONS,
  passengerFactor: () => 0.93,
  fuelPrice: (month) => plainFuel(month) * FUEL_RISE.factor,
  freightVolume: (route, month) => (isContract(route, month) ? CONTRACT.volume : 1),
  freightPrice: (route, month) => (isContract(route, month) ? CONTRACT.price : 1),
  portOvertime: (month) => budgetOvertime(month) + 1_900 * (month - monthOf(2026, 4) + 1),
};

function budgetOvertime(month: Month): number {
  const summer = monthOfYear(month) >= 6 && monthOfYear(month) <= 9;
  return (summer ? 232_000 : 168_000) * 1.02 ** yearsIn(month);
}
