import type { Account } from "../accounts/account.ts";
import type { Month } from "../calendar/month.ts";
import type { Decimal } from "../figures/exact-sum.ts";

/** Rates are kept with so many decimals. */
export const RATE_DECIMALS = 9;
const RATE_UNIT = 10n ** BigInt(RATE_DECIMALS);

/** A month has two rates: what flows are converted at, and what balances are. */
export type RateKind = "average" | "closing";

/** Of which currency one unit is priced: the foreign one (0.92 € for $ 1), or the company's own ($ 1.08 for € 1). */
export type RateSide = "foreign" | "own";

/** What a currency was worth in a month. */
export interface Rate {
  /** Whole units of 10^−9, above 0. */
  readonly units: number;
  readonly priced: RateSide;
}

/** Rates against the company's currency, by `ratePlace`. */
export type CurrencyRates = ReadonlyMap<string, Rate>;

/** Where a currency's rate of a month stands. */
export function ratePlace(currency: string, month: Month, kind: RateKind): string {
  return `${currency} ${month} ${kind}`;
}

/** Flows are converted at the average of their month, balances at its closing rate. */
export function rateKindOf({ behaviour }: Pick<Account, "behaviour">): RateKind {
  return behaviour === "balance" ? "closing" : "average";
}

/**
 * An amount of a foreign currency in the company's, in whole units of 10^−decimals: calculated exactly and rounded
 * once, halves away from zero. `undefined` beyond 2^53.
 */
export function convertAmount(amount: Decimal, rate: Rate, decimals: number): number | undefined {
  const size = BigInt(Math.abs(amount.units)) * 10n ** BigInt(decimals);
  const per = 10n ** BigInt(amount.decimals);
  const [over, under] =
    rate.priced === "foreign"
      ? [size * BigInt(rate.units), per * RATE_UNIT]
      : [size * RATE_UNIT, per * BigInt(rate.units)];
  const rounded = Number((2n * over + under) / (2n * under));
  if (!Number.isSafeInteger(rounded)) return undefined;
  return rounded === 0 ? 0 : Math.sign(amount.units) * rounded;
}
