/** Currencies that files speak of, by their ISO 4217 codes. */
export const CURRENCY_CODES: readonly string[] =
  "AED ARS AUD BGN BRL CAD CHF CLP CNY COP CZK DKK EGP EUR GBP HKD HUF IDR ILS INR ISK JPY KRW MAD MXN MYR NOK NZD PEN PHP PLN QAR RON RSD RUB SAR SEK SGD THB TRY TWD UAH USD VND ZAR".split(
    " ",
  );
const CODES = new Set(CURRENCY_CODES);
const SIGNS: Readonly<Record<string, string>> = {
  "€": "EUR",
  $: "USD",
  "£": "GBP",
  "¥": "JPY",
  "₹": "INR",
  "₺": "TRY",
};
/** Currencies that share a sign with the one that it is taken for. */
const SHARED: Readonly<Record<string, ReadonlySet<string>>> = {
  $: new Set("AUD CAD CLP COP HKD MXN NZD SGD TWD".split(" ")),
  "¥": new Set(["CNY"]),
};

/** The ISO 4217 code a text stands for, by code or sign; the text itself in capitals where it is neither. */
export function currencyCode(text: string): string {
  const plain = text.trim().toUpperCase();
  return SIGNS[plain] ?? plain;
}

/** Whether a text is a currency's code or sign. */
export function isCurrency(text: string): boolean {
  return CODES.has(currencyCode(text));
}

/** Whether texts are currencies, all of them. */
export function areCurrencies(texts: readonly string[]): boolean {
  return texts.length > 0 && texts.every(isCurrency);
}

const WRITTEN = /[€$£¥₹₺]|(?<![A-Za-z])[A-Z]{3}(?![A-Za-z])/;

/**
 * The currency that is written with an amount, such as USD of "$1,319.00" or CHF of "CHF 12"; `undefined` where none
 * is. A sign that the company's own currency shares with others is taken for the company's.
 */
export function currencyWithAmount(text: string, own: string): string | undefined {
  const first = text.charCodeAt(0);
  const last = text.charCodeAt(text.length - 1);
  // Nearly all amounts begin and end with a digit: those are not looked into, since millions go by.
  if (isPlain(first) && isPlain(last)) return undefined;
  const written = WRITTEN.exec(text)?.[0];
  if (written === undefined) return undefined;
  if (SHARED[written]?.has(own)) return own;
  const code = currencyCode(written);
  return CODES.has(code) ? code : undefined;
}

/** A digit, or a minus with a digit beside it as it mostly is. */
function isPlain(code: number): boolean {
  return code >= 48 && code <= 57;
}

/** The one currency that a column's head speaks of, such as USD of "Amount (USD)"; `undefined` without one, or with several. */
export function currencyInHead(text: string, own: string): string | undefined {
  return theOne(
    [...text.matchAll(new RegExp(WRITTEN, "g"))].map(([written]) => written),
    own,
  );
}

const SAID_IN_TITLE =
  /(?:(?<![a-z])in\s+|[([])([A-Z]{3})(?![A-Za-z])|(?<![A-Za-z])([A-Z]{3})\s*(?:thousand|million|k|m|mn|mio|tsd|'?000)(?![a-z])|([€$£¥₹₺])/g;

/** The one currency that a title says amounts are in, such as USD of "Sales 2026, USD thousand": capitals alone may be anything. */
export function currencyInTitle(text: string, own: string): string | undefined {
  return theOne(
    [...text.matchAll(SAID_IN_TITLE)].flatMap(([, ...said]) => said.find((one) => one !== undefined) ?? []),
    own,
  );
}

function theOne(written: readonly string[], own: string): string | undefined {
  const found = new Set(
    written.flatMap((one) => (SHARED[one]?.has(own) ? [own] : isCurrency(one) ? [currencyCode(one)] : [])),
  );
  return found.size === 1 ? [...found][0] : undefined;
}
