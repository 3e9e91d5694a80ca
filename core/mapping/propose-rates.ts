import { currencyDimension, RATE_ACCOUNTS, RATES_DATASET, RATES_SCENARIO } from "../currency/rates-dataset.ts";
import { currencyCode, isCurrency } from "../currency/currency-code.ts";
import type { RateSide } from "../currency/rate.ts";
import type { ColumnProfile } from "../reading/column-profile.ts";
import { readNumber, type DecimalMark } from "../reading/read-number.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
import { freeName } from "./free-name.ts";
import type { Mapping, Meaning } from "./mapping.ts";
import type { MappingView } from "./mapping-view.ts";
import { indexNames, plainName } from "../reading/names.ts";
import { wholeWords } from "./whole-words.ts";
import type { Sample } from "./sample.ts";

const RATES_TITLE =
  /(?:exchange|currency|currencies|fx|forex|wechsel|devisen)[\s_-]*(?:rates?|kurse?)|(?<![a-z])(?:fx|rates|wechselkurse?|devisenkurse?|kurse|taux de change)(?![a-z])/i;
const RATE_NAME = wholeWords("rates?|kurse?|taux|cours|fx|exchange");
const AVERAGE_NAME = wholeWords("average|avg|mean|durchschnitt\\p{L}*|mittel\\p{L}*|moyenne?");
const CLOSING_NAME = wholeWords("closing|close|month[ -]?end|end|spot|stichtag\\p{L}*|clôture|fin");

/** Whether a title speaks of exchange rates. */
export function isTitleOfRates(title: string): boolean {
  return RATES_TITLE.test(title);
}

/** Turns columns that are headed by currencies into rows, where the title says that they hold rates. */
export function proposeRateSteps(sample: Sample, title: string, { currency }: MappingView): TidyStep[] {
  const names = indexNames(currencyDimension(currency).members);
  const columns = sample.columns.filter((name) => names.has(plainName(name)));
  if (!isTitleOfRates(title) || columns.length === 0) return [];
  const [nameInto, valueInto] = [freeName("Currency", sample.columns), freeName("Rate", sample.columns)];
  return [{ kind: "unpivot", columns, nameInto, valueInto }];
}

/** How a file of rates is mapped; `undefined` where it is none: rates beside amounts are a column of their own kind. */
export function proposeRates(
  profiles: readonly ColumnProfile[],
  sample: Sample,
  { view, title }: { readonly view: MappingView; readonly title: string },
): Mapping | undefined {
  const valuesOf = (name: string) => {
    const place = sample.columns.indexOf(name);
    return [...new Set(sample.rows.map((row) => (row[place] ?? "").trim()))].filter((text) => text !== "");
  };
  const currencies = indexNames(currencyDimension(view.currency).members);
  const kinds = indexNames(RATE_ACCOUNTS);
  const isAll = (name: string, names: ReadonlyMap<string, string>) => {
    const values = valuesOf(name);
    return values.length > 0 && values.every((text) => names.has(plainName(text)));
  };
  const texts = profiles.filter(({ type }) => type === "text");
  const currency = texts.find(({ name }) => isAll(name, currencies));
  const numbers = profiles.filter(({ type }) => type === "number");
  const isTitled = isTitleOfRates(title);
  const areRates = numbers.every(({ name }) => isTitled || RATE_NAME.test(name));
  if (!currency || numbers.length === 0 || !areRates) return undefined;

  const columns: Record<string, Meaning> = Object.fromEntries(profiles.map(({ name }) => [name, { as: "ignore" }]));
  columns[currency.name] = { as: "currency" };
  const period = profiles.find(({ type }) => type === "date");
  if (period) columns[period.name] = { as: "period" };
  const kind = texts.find(({ name }) => name !== currency.name && isAll(name, kinds));
  const value = (account: string | null): Meaning => ({ as: "amount", account, scenario: null });
  if (kind) {
    columns[kind.name] = { as: "account" };
    columns[numbers[0]!.name] = value(null);
  } else {
    const average = numbers.find(({ name }) => AVERAGE_NAME.test(name));
    const closing = numbers.find(({ name }) => name !== average?.name && CLOSING_NAME.test(name));
    if (average) columns[average.name] = value("average");
    if (closing) columns[closing.name] = value("closing");
    if (!average && !closing) columns[numbers[0]!.name] = value("rate");
  }
  const rates = numbers.filter(({ name }) => columns[name]?.as === "amount");
  const priced = pricedSide({
    own: view.currency,
    currencies: valuesOf(currency.name),
    said: [...rates.map(({ name }) => name), currency.name, title],
    rates: sample.rows.map((row) => ({
      currency: currencies.get(plainName(row[sample.columns.indexOf(currency.name)] ?? "")) ?? "",
      rate: rateIn(row[sample.columns.indexOf(rates[0]!.name)] ?? "", rates[0]!.mark),
    })),
  });
  return {
    dataset: RATES_DATASET.key,
    columns,
    dateFormat: period?.dateFormat ?? "iso",
    fixed: { scenario: RATES_SCENARIO.key, account: null, month: null },
    sign: "own",
    fractions: "round",
    ...(priced === undefined ? {} : { priced }),
    accounts: {},
    scenarios: {},
    members: {},
    creates: { dataset: null, dimensions: [], accounts: [] },
  };
}

/** The mark of rates: nobody groups thousands in them, so that the only sign there is stands before the decimals. */
export function markOfRates(texts: readonly string[]): DecimalMark | undefined {
  const signs = new Set(texts.flatMap((text) => text.match(/[.,]/g) ?? []));
  return signs.size === 1 ? ([...signs][0] as DecimalMark) : undefined;
}

function rateIn(text: string, mark: DecimalMark): number {
  const read = readNumber(text, markOfRates([text]) ?? mark);
  return read ? read.units / 10 ** read.decimals : NaN;
}

/** What one unit costs of currencies whose units are small, in euros or dollars and far from 1 in any year. */
const SMALL = new Set("JPY KRW HUF CLP COP IDR VND INR RSD ISK ARS PHP THB TRY UAH EGP CZK TWD NGN".split(" "));

/**
 * Of which currency one unit is priced: by pairs ("EUR/USD" prices one euro), by what is said ("EUR per USD"), or by
 * currencies whose units are so small that only one way round can be meant. `undefined` where nothing tells.
 */
function pricedSide({
  own,
  currencies,
  said,
  rates,
}: {
  readonly own: string;
  readonly currencies: readonly string[];
  readonly said: readonly string[];
  readonly rates: readonly { readonly currency: string; readonly rate: number }[];
}): RateSide | undefined {
  const pairs = currencies.flatMap((text) => {
    const [, first = "", second = ""] = /^([A-Z]{3})[/-]?([A-Z]{3})$/i.exec(text.trim()) ?? [];
    return isCurrency(first) && isCurrency(second) ? [currencyCode(first) === own] : [];
  });
  if (pairs.length > 0) return pairs.every(Boolean) ? "own" : pairs.some(Boolean) ? undefined : "foreign";
  for (const text of said) {
    const [, over = "", under = ""] =
      /([A-Z]{3}|[A-Za-z]+)\s+(?:per|for|je|pour)\s+(?:1\s*|one\s+)?([A-Z]{3})/.exec(text) ?? [];
    if (under === own) return "own";
    if (over === own) return "foreign";
    if (new RegExp(`\\b1\\s*${own}\\s*=`).test(text)) return "own";
    if (new RegExp(`\\bin\\s+${own}\\b|=\\s*[\\d.,]*\\s*${own}\\b`).test(text)) return "foreign";
  }
  if (SMALL.has(own)) return undefined;
  const telling = rates.filter(({ currency }) => SMALL.has(currency));
  if (telling.length > 0 && telling.every(({ rate }) => rate > 4)) return "own";
  if (telling.length > 0 && telling.every(({ rate }) => rate < 0.5)) return "foreign";
  return undefined;
}
