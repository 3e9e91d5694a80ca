import type { Account } from "../accounts/account.ts";
import type { Scenario } from "../cube/coverage.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import { currencySign } from "../formats/currency.ts";
import { CURRENCY_CODES } from "./currency-code.ts";
import { RATE_DECIMALS, type RateKind } from "./rate.ts";

/**
 * Rates come in like any file, to a dataset of their own. They are no facts: a sum of rates says nothing, so that they
 * have no place among the accounts, and none of what is made of facts reaches them.
 */
export const RATES_DATASET = { key: "currency:rates", name: "Currency rates" } as const;

/** What a file of rates speaks of, in place of accounts; "rate" is both, where a file has one rate a month. */
export const RATE_ACCOUNTS: readonly Account[] = (
  [
    ["average", "Average rate", ["avg", "mean", "average rate", "durchschnitt", "mittelkurs", "moyenne"]],
    ["closing", "Closing rate", ["end", "month end", "closing rate", "spot", "stichtag", "stichtagskurs", "clôture"]],
    ["rate", "Average and closing rate", ["rate", "both"]],
  ] as const
).map(([key, name, aliases]) => ({
  key,
  name,
  parent: null,
  kind: "statistic",
  behaviour: "flow",
  unit: { kind: "count", of: "rate" },
  decimals: RATE_DECIMALS,
  aliases,
}));

/** The kinds that a file's rate is of. */
export function rateKindsOf(account: string): readonly RateKind[] {
  return account === "rate" ? ["average", "closing"] : [account as RateKind];
}

export const RATES_DIMENSION = "currency";

/** Currencies as they are named in files of rates: by code, by sign, and as a pair with the company's. */
export function currencyDimension(own: string): Dimension {
  return {
    key: RATES_DIMENSION,
    name: "Currency",
    plural: "Currencies",
    levels: ["Currency"],
    members: CURRENCY_CODES.map((code) => ({
      key: code,
      name: code,
      parent: null,
      aliases: [
        currencySign(code),
        ...(code === own ? [] : ["", "/", "-"].flatMap((dash) => [`${own}${dash}${code}`, `${code}${dash}${own}`])),
      ],
    })),
  };
}

/** Rates are of what was, not of what is planned. */
export const RATES_SCENARIO: Scenario = { key: "actual", name: "Actual", kind: "actual", madeAfter: null };
