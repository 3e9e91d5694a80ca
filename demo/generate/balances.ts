import { signInResult, type Booking } from "./ledger.ts";

/** The balance sheet at a month's end, in whole minor units; assets are liabilities and equity to the cent. */
export interface Balances {
  readonly cash: number;
  readonly receivables: number;
  readonly fleet_and_equipment: number;
  readonly payables: number;
  readonly debt: number;
}

/** The balance sheet before the first month. */
export const OPENING: Balances = {
  cash: 14_200_000_00,
  receivables: 3_400_000_00,
  fleet_and_equipment: 118_000_000_00,
  payables: 2_900_000_00,
  debt: 64_000_000_00,
};

const DEBT_REPAYMENT = 410_000_00;

/** The balance sheet after a month's bookings. */
export function closeBalances(before: Balances, bookings: readonly Booking[]): Balances {
  const total = (test: (account: string) => boolean) =>
    bookings.reduce((sum, b) => sum + (test(b.account) ? b.amount : 0), 0);
  const result = bookings.reduce((sum, b) => sum + signInResult(b.account) * b.amount, 0);
  const depreciation = total((a) => a.endsWith("_depreciation"));
  const investment = Math.round(depreciation * 1.35);
  const receivables = Math.round(total((a) => signInResult(a) === 1) * 0.34);
  const payables = Math.round((total((a) => signInResult(a) === -1) - depreciation) * 0.31);
  const dividend = Math.round(Math.max(0, result) * 0.3);
  return {
    cash:
      before.cash +
      result +
      depreciation -
      investment -
      (receivables - before.receivables) +
      (payables - before.payables) -
      DEBT_REPAYMENT -
      dividend,
    receivables,
    fleet_and_equipment: before.fleet_and_equipment - depreciation + investment,
    payables,
    debt: before.debt - DEBT_REPAYMENT,
  };
}

/** A balance sheet as bookings; equity is what assets exceed liabilities by. */
export function balanceBookings(balances: Balances): Booking[] {
  const equity =
    balances.cash + balances.receivables + balances.fleet_and_equipment - balances.payables - balances.debt;
  return Object.entries({ ...balances, equity }).map(([account, amount]) => ({ account, members: {}, amount }));
}
