/** The signs of currencies that have one everybody reads alike; others are written by their ISO 4217 code. */
const SIGNS: Readonly<Record<string, string>> = {
  EUR: "€",
  USD: "$",
  GBP: "£",
  JPY: "¥",
  INR: "₹",
  KRW: "₩",
  TRY: "₺",
  ILS: "₪",
  BRL: "R$",
};

/** How a currency is written in front of an amount: "€", "$", or its code, such as "CHF". */
export function currencySign(code: string): string {
  return SIGNS[code] ?? code;
}

/**
 * The currency that amounts are written in. It belongs to the company and to no figure, so it is said once around a
 * computation (on a server that answers for several companies) or once for all (in a browser, which looks at one).
 */
let current = "EUR";

/** The sign amounts of money are written with now. */
export function moneySign(): string {
  return currencySign(current);
}

/** Writes amounts in a currency from now on: for a process that looks at one company. */
export function writeIn(code: string): void {
  current = code;
}

/** Computes something whose words are written in a currency. What it calls must not wait for anything. */
export function inCurrency<T>(code: string, compute: () => T): T {
  const before = current;
  current = code;
  try {
    return compute();
  } finally {
    current = before;
  }
}
