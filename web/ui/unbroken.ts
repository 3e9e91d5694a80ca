import { moneySign } from "#core/formats/currency.ts";

/** Keeps a currency sign and its figure on one line. */
export function unbroken(text: string): string {
  return text.replaceAll(`${moneySign()} `, `${moneySign()}\u00a0`);
}
