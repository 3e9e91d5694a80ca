import { fiscalYearName, fiscalYearStart } from "#core/calendar/fiscal-calendar.ts";
import { daysInMonth, formatMonth, monthsBetween, type Month } from "#core/calendar/month.ts";
import type { Fact } from "#core/cube/fact.ts";
import { ROUTES } from "../company/routes.ts";
import { CALENDAR, FIRST_MONTH, LAST_CLOSED, LAST_DAY } from "../company/scenarios.ts";
import {
  ACTUAL_ASSUMPTIONS,
  BUDGET_ASSUMPTIONS,
  FORECAST_3_9_ASSUMPTIONS,
  FORECAST_6_6_ASSUMPTIONS,
  type Assumptions,
} from "./assumptions.ts";
import { balanceBookings, closeBalances, OPENING, type Balances } from "./balances.ts";
import { monthBookings, type Booking } from "./ledger.ts";
import { splitWhole } from "./noise.ts";
import { routeDay } from "./operations.ts";
import { targetBookings } from "./targets.ts";

/** One file of the sample company, in the order in which its lines come. */
export interface SampleLoad {
  readonly dataset: string;
  readonly fileName: string;
  /** When it was posted, as a day ("2026-11-09"). */
  readonly postedOn: string;
  facts(): Iterable<Fact>;
}

/** Accounts whose monthly amount arrives in one line, however large the scale. */
const SINGLE_LINE = new Set([
  "headcount",
  "full_time_equivalents",
  "cash",
  "receivables",
  "fleet_and_equipment",
  "payables",
  "debt",
  "equity",
]);
/** Ledger lines per booking at scale 1. */
const LINES_PER_BOOKING = 3;

/** All loads of the sample company. `scale` multiplies the ledger's lines; sums stay the same. */
export function sampleLoads({ scale = 1 }: { scale?: number } = {}): SampleLoad[] {
  const closings = actualClosings();
  return [
    ...monthsBetween(FIRST_MONTH, LAST_CLOSED).map((month) => ledgerLoad(month, closings, scale)),
    ...[2024, 2025, 2026, 2027].map((year) =>
      planLoad({ scenario: "budget", year, closings, actualMonths: 0, assumptions: BUDGET_ASSUMPTIONS }),
    ),
    planLoad({
      scenario: "forecast-3-9",
      year: 2027,
      closings,
      actualMonths: 3,
      assumptions: FORECAST_3_9_ASSUMPTIONS,
    }),
    planLoad({
      scenario: "forecast-6-6",
      year: 2027,
      closings,
      actualMonths: 6,
      assumptions: FORECAST_6_6_ASSUMPTIONS,
    }),
    ...monthsBetween(FIRST_MONTH, LAST_DAY.month).map(operationsLoad),
    ...[2024, 2025, 2026, 2027].map(targetsLoad),
  ];
}

function ledgerLoad(month: Month, closings: ReadonlyMap<Month, Balances>, scale: number): SampleLoad {
  return {
    dataset: "management-accounts",
    fileName: `ledger-${formatMonth(month)}.csv`,
    postedOn: `${formatMonth(month + 1)}-06`,
    facts: () =>
      ledgerFacts(
        month,
        [...monthBookings(month, ACTUAL_ASSUMPTIONS), ...balanceBookings(closings.get(month)!)],
        scale,
      ),
  };
}

/** A month's bookings as the ledger's lines, each with its journal number. */
export function* ledgerFacts(month: Month, bookings: readonly Booking[], scale = 1): Generator<Fact> {
  let line = 0;
  for (const booking of bookings) {
    for (const amount of lineAmounts(booking, month, scale)) {
      line += 1;
      const journal = `J${formatMonth(month).slice(2).replace("-", "")}-${String(line).padStart(5, "0")}`;
      yield { ...factOf("actual", booking, month), amount, reference: booking.reference ?? journal };
    }
  }
}

function lineAmounts(booking: Booking, month: Month, scale: number): number[] {
  if (SINGLE_LINE.has(booking.account) || booking.reference) return [booking.amount];
  const lines = Math.max(1, Math.round(LINES_PER_BOOKING * scale));
  const words = [booking.account, month, ...Object.values(booking.members)];
  return splitWhole(booking.amount, lines, ...words).filter((amount) => amount !== 0);
}

function planLoad({
  scenario,
  year,
  closings,
  actualMonths,
  assumptions,
}: {
  scenario: string;
  year: number;
  closings: ReadonlyMap<Month, Balances>;
  actualMonths: number;
  assumptions: Assumptions;
}): SampleLoad {
  const start = fiscalYearStart(CALENDAR, year);
  const name = fiscalYearName(year).toLowerCase();
  return {
    dataset: "management-accounts",
    fileName: `${scenario}-${name}.csv`,
    postedOn: `${formatMonth(actualMonths > 0 ? start + actualMonths : start - 1)}-14`,
    *facts() {
      let balances = closings.get(start - 1) ?? OPENING;
      for (const month of monthsBetween(start, start + 11)) {
        const isClosed = month < start + actualMonths;
        const bookings = isClosed
          ? withoutDetail(monthBookings(month, ACTUAL_ASSUMPTIONS))
          : monthBookings(month, assumptions);
        balances = isClosed ? closings.get(month)! : closeBalances(balances, bookings);
        for (const booking of [...bookings, ...balanceBookings(balances)]) yield factOf(scenario, booking, month);
      }
    },
  };
}

/** Plans are kept without vessel and home market: their lines add up over both. */
function withoutDetail(bookings: readonly Booking[]): Booking[] {
  const sums = new Map<string, Booking>();
  for (const booking of bookings) {
    const members = Object.fromEntries(
      Object.entries(booking.members).filter(([d]) => d !== "vessel" && d !== "home-market"),
    );
    const key = JSON.stringify([booking.account, members]);
    sums.set(key, { account: booking.account, members, amount: booking.amount + (sums.get(key)?.amount ?? 0) });
  }
  return [...sums.values()];
}

function operationsLoad(month: Month): SampleLoad {
  const isPartial = month === LAST_DAY.month;
  return {
    dataset: "daily-operations",
    fileName: `operations-${formatMonth(month)}.csv`,
    postedOn: isPartial ? `${formatMonth(month)}-${LAST_DAY.day + 1}` : `${formatMonth(month + 1)}-01`,
    facts: () => operationsFacts(month, 1, isPartial ? LAST_DAY.day : daysInMonth(month)),
  };
}

/** Daily operations of all routes, from one day of a month to another, both included. */
export function* operationsFacts(month: Month, fromDay: number, toDay: number): Generator<Fact> {
  for (let day = fromDay; day <= toDay; day += 1) {
    for (const route of ROUTES) {
      for (const [account, amount] of Object.entries<number>({ ...routeDay(route, month, day) })) {
        yield { scenario: "actual", account, month, day, members: { route: route.key }, amount, reference: null };
      }
    }
  }
}

function targetsLoad(year: number): SampleLoad {
  const start = fiscalYearStart(CALENDAR, year);
  return {
    dataset: "targets",
    fileName: `targets-${fiscalYearName(year).toLowerCase()}.csv`,
    postedOn: `${formatMonth(start - 1)}-20`,
    *facts() {
      for (const quarter of [0, 3, 6, 9]) {
        for (const booking of targetBookings(start + quarter)) yield factOf("target", booking, start + quarter);
      }
    },
  };
}

/** The balance sheets of all months up to one, as posted. */
export function actualClosings(to: Month = LAST_CLOSED): ReadonlyMap<Month, Balances> {
  const closings = new Map<Month, Balances>([[FIRST_MONTH - 1, OPENING]]);
  for (const month of monthsBetween(FIRST_MONTH, to)) {
    closings.set(month, closeBalances(closings.get(month - 1)!, monthBookings(month, ACTUAL_ASSUMPTIONS)));
  }
  return closings;
}

function factOf(scenario: string, booking: Booking, month: Month): Fact {
  return {
    scenario,
    account: booking.account,
    month,
    day: null,
    members: booking.members,
    amount: booking.amount,
    reference: booking.reference ?? null,
  };
}
