import { fiscalYearOf } from "#core/calendar/fiscal-calendar.ts";
import { daysInMonth, monthsBetween, type Month } from "#core/calendar/month.ts";
import { ROUTES } from "../company/routes.ts";
import { CALENDAR } from "../company/scenarios.ts";
import { BUDGET_ASSUMPTIONS } from "./assumptions.ts";
import { monthBookings, type Booking } from "./ledger.ts";
import { plannedMonth, plannedSailings } from "./operations.ts";

const ON_TIME = 0.915;
const SALES_LEAVES = { restaurant_sales: 0.52, shop_sales: 0.34, cabin_upgrades: 0.14 } as const;
const TICKET_LEAVES = ["passenger_fares", "vehicle_fares", "booking_fees"] as const;

/**
 * A quarter's targets by sea area. Rates are kept as the two amounts they are made
 * of, so that they aggregate like the actuals do.
 */
export function targetBookings(quarterStart: Month): Booking[] {
  const months = monthsBetween(quarterStart, quarterStart + 2);
  const years = fiscalYearOf(CALENDAR, quarterStart) - 2024;
  const budget = months.flatMap((month) => monthBookings(month, BUDGET_ASSUMPTIONS));
  return [...new Set(ROUTES.map((r) => r.area))].flatMap((area) => {
    const routes = ROUTES.filter((r) => r.area === area);
    const sum = (value: (route: (typeof ROUTES)[number], month: Month) => number) =>
      months.reduce((total, month) => total + routes.reduce((t, route) => t + value(route, month), 0), 0);
    const planned = sum((route, month) => plannedSailings(route, month) * daysInMonth(month));
    const passengers = sum((route, month) => plannedMonth(route, month).passengers);
    const seats = Math.round(passengers / (0.46 + 0.005 * years));
    const spend = passengers * (6.3 + 0.15 * years);
    const tickets = TICKET_LEAVES.map(
      (account) =>
        [
          account,
          1.02 *
            budget
              .filter((b) => b.account === account && routes.some((r) => r.key === b.members["route"]))
              .reduce((total, b) => total + b.amount, 0),
        ] as const,
    );
    const amounts: (readonly [string, number])[] = [
      ["sailings_planned", planned],
      ["sailings_on_time", planned * ON_TIME],
      ["passengers_carried", passengers],
      ["seats_offered", seats],
      ["passengers", passengers],
      ...Object.entries(SALES_LEAVES).map(([account, share]) => [account, spend * share * 100] as const),
      ...tickets,
    ];
    return amounts.map(([account, amount]): Booking => ({
      account,
      members: { route: area },
      amount: Math.round(amount),
    }));
  });
}
