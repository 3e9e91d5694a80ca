/** Currencies that files speak of, by their ISO 4217 codes. */
const CODES = new Set(
  "AED ARS AUD BGN BRL CAD CHF CLP CNY COP CZK DKK EGP EUR GBP HKD HUF IDR ILS INR ISK JPY KRW MAD MXN MYR NOK NZD PEN PHP PLN QAR RON RSD RUB SAR SEK SGD THB TRY TWD UAH USD VND ZAR".split(
    " ",
  ),
);
const SIGNS: Readonly<Record<string, string>> = {
  "€": "EUR",
  $: "USD",
  "£": "GBP",
  "¥": "JPY",
  "₹": "INR",
  "₺": "TRY",
};

/** The ISO 4217 code a text stands for, by code or sign; the text itself in capitals where it is neither. */
export function currencyCode(text: string): string {
  const plain = text.trim().toUpperCase();
  return SIGNS[plain] ?? plain;
}

/** Whether texts are currencies, all of them. */
export function areCurrencies(texts: readonly string[]): boolean {
  return texts.length > 0 && texts.every((text) => CODES.has(currencyCode(text)));
}
