import { writing } from "./writing.ts";

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

/** The sign amounts of money are written with now. */
export function moneySign(): string {
  return currencySign(writing().currency);
}
