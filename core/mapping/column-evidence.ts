import { wholeWords } from "./whole-words.ts";
import type { ColumnProfile } from "../reading/column-profile.ts";
import { readNumber } from "../reading/read-number.ts";
import type { Sample } from "./sample.ts";

/** Why a column of numbers must not be added up. */
export interface ColumnEvidence {
  readonly nature:
    | "price"
    | "rate"
    | "code"
    | "difference"
    | "opening"
    | "duration"
    | "total"
    | "period"
    | "score"
    | "derived"
    | "scenario";
  /** A sentence's end, after the column's name: "is a price: Menge × Einzelpreis gives Netto". */
  readonly why: string;
  /** The columns of which it is one by the other, where both add up: what it can be calculated from over any rows. */
  readonly ratio?: ColumnRatio;
}

/** What a rate or price is made of: the amount by the count, each added up first. */
export interface ColumnRatio {
  readonly amount: string;
  readonly count: string;
  readonly isPercent: boolean;
}

/** What a sample tells of its columns of numbers. */
export interface WeighedColumns {
  /** Columns that do not add up, with the reason. */
  readonly apart: ReadonlyMap<string, ColumnEvidence>;
  /** Columns that stand for what there is at a time, rather than for what happened in it. */
  readonly balances: ReadonlySet<string>;
}

const PRICE = wholeWords(
  "(?:unit ?|list ?|stück|einzel|listen)?(?:price|preis)e?s?|prix(?: unitaire)?|precio|tarif|tariff|per unit|unit cost",
);
const RATE =
  /%|‰|(?<![\p{L}])(?:rate|ratio|percent(?:age)?|prozent|share|quote|anteil|rabatt|discount|remise|taux|margin|marge|conversion|average|avg|mean|durchschnitt|ø|yield|score|index|kurs|fx)(?![\p{L}])|(?<![\p{L}])(?:per|pro|je)(?= )/iu;
const MONEY_RATE = wholeWords("revenue per|sales per|cost per|umsatz pro|umsatz je|kosten pro|kosten je");
const CODE = wholeWords(
  "ids?|codes?|no|nr|num|number|nummer|numéro|key|zip|plz|postcode|sku|ean|gtin|konto|kontonummer|kostenstelle|invoice|rechnung|beleg|voucher|document|phone|year|jahr|année|week|kw|line|zeile",
);
const DIFFERENCE = /Δ|(?<![\p{L}])(?:variance|difference|diff|delta|abweichung|deviation|gap|écart)(?![\p{L}])/iu;
const OPENING = wholeWords("opening|anfangs?(?:bestand|saldo)?|begin(?:ning)?|brought forward|vortrag");
const TOTAL = wholeWords("total|totals|grand total|summe|gesamt|year|jahr|full year|ytd|somme");
const BALANCE = wholeWords(
  "closing|balance|saldo|bestand|endbestand|stock|inventory|headcount|heads|fte|employees|mitarbeiter|subscribers|outstanding",
);

/** Rows that are compared; more tell nothing new. */
const ROWS = 400;
/** Rows that must tell, and the share of them that must agree. */
const LEAST_ROWS = 6;
const AGREEING = 0.95;
/** Products are looked for among so many columns. */
const MOST_COLUMNS = 16;

interface Numbers {
  readonly name: string;
  readonly values: readonly (number | null)[];
  readonly isWhole: boolean;
  /** The half of the last digit that its values are written to; 0 where whole numbers are counted. */
  readonly rounding: number;
  readonly hasPercent: boolean;
}

/**
 * Tells of columns of numbers which of them add up: by how they go together (quantity × price − discount = amount),
 * by how they are written, and by their names. What it knows nothing against adds up.
 */
export function weighColumns(profiles: readonly ColumnProfile[], sample: Sample): WeighedColumns {
  const numbers = profiles.flatMap((profile, i) => (profile.type === "number" ? [numbersOf(profile, i, sample)] : []));
  const apart = new Map<string, ColumnEvidence>();
  const say = (name: string, nature: ColumnEvidence["nature"], why: string, ratio?: ColumnRatio) => {
    if (!apart.has(name)) apart.set(name, { nature, why, ...(ratio ? { ratio } : {}) });
  };
  const tried = numbers.slice(0, MOST_COLUMNS);
  for (const product of productsAmong(tried)) {
    const rest = product.less ? ` less ${product.less.name}` : "";
    say(
      product.ratio.name,
      PRICE.test(product.ratio.name) || !RATE.test(product.ratio.name) ? "price" : "rate",
      `${product.isPercent ? "is a rate" : "is a price"}: ${product.count.name} × ${product.ratio.name}${rest} gives ${product.amount.name}`,
      { amount: product.amount.name, count: product.count.name, isPercent: product.isPercent },
    );
    if (product.less)
      say(product.less.name, "rate", `is a rate: it is taken off ${product.count.name} × ${product.ratio.name}`);
  }
  for (const { name, hasPercent, isWhole, values } of numbers) {
    if (hasPercent) say(name, "rate", "is a rate: it is written in percent");
    else if (MONEY_RATE.test(name) || PRICE.test(name))
      say(name, "price", "is a price by its name: prices do not add up");
    else if (DIFFERENCE.test(name))
      say(name, "difference", "is a difference by its name: it follows from other columns");
    else if (RATE.test(name) && !isMoneyLike(values)) say(name, "rate", "is a rate by its name: rates do not add up");
    else if (OPENING.test(name)) say(name, "opening", "is what there was before: the period before has it already");
    else if (isWhole && CODE.test(name) && !isRepeatedSmall(values))
      say(name, "code", "is a number that names something");
  }
  for (const [i, profile] of profiles.entries())
    if (profile.type === "text" && areDurations(sample.rows.map((row) => (row[i] ?? "").trim())))
      say(profile.name, "duration", "is a duration: averages of time do not add up");
  for (const [i, { name }] of profiles.entries()) {
    const why = whyNoMonths(sample.rows.map((row) => (row[i] ?? "").trim()));
    if (why !== undefined) say(name, "period", why);
  }
  if (!profiles.some(({ type }) => type === "date")) {
    const scores = numbers.filter(({ name, values }) => !apart.has(name) && areScores(values));
    // One such column may be a count; several beside each other are answers.
    if (scores.length >= 2)
      for (const { name } of scores)
        say(name, "score", "is a mark or an answer by its values: those are counted or averaged, not added up");
  }
  for (const { total, part } of totalsAmong(numbers, profiles, sample))
    say(total.name, "total", `is a total: ${part.name} of the rows that it stands beside add up to it`);
  const balances = new Set(
    numbers.filter(({ name }) => BALANCE.test(name) && !apart.has(name)).map(({ name }) => name),
  );
  for (const { opening, closing } of movementsAmong(tried)) {
    say(opening.name, "opening", `is what there was before: with what moved it gives ${closing.name}`);
    balances.add(closing.name);
  }
  return { apart, balances };
}

/** Times such as 0:03:10 or 12:30, all of them. */
function areDurations(cells: readonly string[]): boolean {
  const filled = cells.filter((cell) => cell !== "");
  return filled.length > 0 && filled.every((cell) => /^\d{1,4}:[0-5]\d(?::[0-5]\d)?$/.test(cell));
}

/** Why periods are no months that are known: without a year, or weeks; `undefined` of everything else. */
function whyNoMonths(cells: readonly string[]): string | undefined {
  const filled = [...new Set(cells.filter((cell) => cell !== ""))];
  const all = (pattern: RegExp) => filled.length > 1 && filled.every((cell) => pattern.test(cell));
  if (all(/^(?:P|Period |M)\s?\d{1,2}$/i))
    return `names periods without a year (${filled[0]}): say which year it is, as in “P01 FY26”. A thirteenth period belongs to a month of its own or to the last one, which the file has to say`;
  if (all(/^(?:(?:19|20)\d\d)?[\s-]*(?:W|KW|CW|week)\s?-?\d{1,2}(?:[\s/-]*(?:19|20)\d\d)?$/i))
    return `names weeks (${filled[0]}), and months are needed: a week lies in two of them. Give the day it begins, or the month`;
  return undefined;
}

/** Whole numbers from 0 to 10, few of them. */
function areScores(values: readonly (number | null)[]): boolean {
  const known = values.filter((value) => value !== null);
  return known.length >= 5 && known.every((value) => Number.isInteger(value) && value >= 0 && value <= 10);
}

/** Columns that say again what another one adds up to over the rows they stand beside, as a total beside turned months. */
function totalsAmong(
  numbers: readonly Numbers[],
  profiles: readonly ColumnProfile[],
  sample: Sample,
): { total: Numbers; part: Numbers }[] {
  const texts = profiles.flatMap((profile, i) => (profile.type === "text" ? [i] : []));
  return numbers
    .filter(({ name }) => TOTAL.test(name))
    .flatMap((total) =>
      numbers
        .filter((part) => part !== total)
        .flatMap((part) => {
          const groups = new Map<string, { sum: number; rows: number; total: number }>();
          total.values.forEach((value, row) => {
            const own = part.values[row];
            if (value === null || own === null || own === undefined) return;
            const key = JSON.stringify([value, ...texts.map((i) => sample.rows[row]![i])]);
            const group = groups.get(key) ?? { sum: 0, rows: 0, total: value };
            groups.set(key, { ...group, sum: group.sum + own, rows: group.rows + 1 });
          });
          // The last group may go on beyond the sample.
          const told = [...groups.values()].filter(({ rows }) => rows > 1);
          const agreed = told.filter(
            ({ sum, total: of }) => Math.abs(sum - of) <= Math.max(0.011, Math.abs(of) * 5e-4),
          );
          return told.length >= 2 && agreed.length >= told.length - 1 ? [{ total, part }] : [];
        }),
    );
}

function numbersOf(profile: ColumnProfile, place: number, sample: Sample): Numbers {
  const cells = sample.rows.slice(0, ROWS).map((row) => (row[place] ?? "").trim());
  const values = cells.map((cell) => {
    const read = cell === "" ? undefined : readNumber(cell, profile.mark);
    return read ? read.units / 10 ** read.decimals : null;
  });
  const decimals = Math.max(
    0,
    ...cells.map((cell) => (cell === "" ? 0 : (readNumber(cell, profile.mark)?.decimals ?? 0))),
  );
  // Where only some rows are in percent, those are rates, and not the column.
  const filled = cells.filter((cell) => cell !== "");
  const hasPercent = filled.filter((cell) => /[%‰]$/.test(cell)).length * 2 > filled.length;
  return {
    name: profile.name,
    values,
    rounding: decimals > 0 || hasPercent ? 0.5 / 10 ** decimals : 0,
    isWhole: values.every((value) => value === null || Number.isInteger(value)),
    hasPercent,
  };
}

interface Product {
  readonly count: Numbers;
  readonly ratio: Numbers;
  /** A share that is taken off the product, in percent. */
  readonly less: Numbers | null;
  readonly amount: Numbers;
  readonly isPercent: boolean;
}

/** Columns of which two multiply to a third, perhaps with a discount taken off. */
function productsAmong(numbers: readonly Numbers[]): Product[] {
  const found: Product[] = [];
  const varies = numbers.filter(
    ({ values }) => new Set(values.filter((v) => v !== null && v !== 0 && v !== 1)).size >= 2,
  );
  for (const amount of varies)
    for (const [i, one] of varies.entries())
      for (const other of varies.slice(i + 1)) {
        if (one === amount || other === amount) continue;
        const [count, ratio] = countAndRatio(one, other);
        const isProduct = (share: number) =>
          agree(
            [one, other, amount],
            ([a, b]) => a! * b! * share,
            ([, , c]) => c!,
            ([a, b]) => share * (Math.abs(a!) * other.rounding + Math.abs(b!) * one.rounding) + amount.rounding,
          );
        if (isProduct(1)) found.push({ count, ratio, less: null, amount, isPercent: ratio.hasPercent });
        else if (isProduct(0.01)) found.push({ count, ratio, less: null, amount, isPercent: true });
        else {
          const less = numbers.find(
            (third) =>
              third !== one &&
              third !== other &&
              third !== amount &&
              RATE.test(third.name) &&
              agree(
                [one, other, amount, third],
                ([a, b, , d]) => a! * b! * (1 - d! / 100),
                ([, , c]) => c!,
              ),
          );
          if (less) found.push({ count, ratio, less, amount, isPercent: false });
        }
      }
  return found;
}

/** Which of two factors counts: names say it first, then that things are counted in whole numbers. */
function countAndRatio(one: Numbers, other: Numbers): readonly [count: Numbers, ratio: Numbers] {
  const isRatio = ({ name, hasPercent }: Numbers) => hasPercent || PRICE.test(name) || RATE.test(name);
  if (isRatio(one) !== isRatio(other)) return isRatio(one) ? [other, one] : [one, other];
  if (one.isWhole !== other.isWhole) return one.isWhole ? [one, other] : [other, one];
  return [one, other];
}

/** Columns of which two add up to a third that the next row, or the next of its kind, begins with. */
function movementsAmong(numbers: readonly Numbers[]): { opening: Numbers; closing: Numbers }[] {
  const found: { opening: Numbers; closing: Numbers }[] = [];
  for (const opening of numbers.filter(({ name }) => OPENING.test(name)))
    for (const closing of numbers)
      for (const movement of numbers) {
        if (new Set([opening, closing, movement]).size < 3) continue;
        if (
          agree(
            [opening, movement, closing],
            ([a, b]) => a! + b!,
            ([, , c]) => c!,
          )
        )
          found.push({ opening, closing });
      }
  return found;
}

/** Whether rows in which all columns have a number make what is expected, to the rounding of a cent or so. */
function agree(
  columns: readonly Numbers[],
  made: (values: readonly number[]) => number,
  expected: (values: readonly number[]) => number,
  slack: (values: readonly number[]) => number = () => 0,
): boolean {
  let told = 0;
  let agreed = 0;
  const rows = columns[0]!.values.length;
  for (let row = 0; row < rows; row += 1) {
    const values = columns.map((column) => column.values[row] ?? null);
    if (!values.every((value) => value !== null)) continue;
    const [is, wanted] = [made(values), expected(values)];
    if (is === 0 && wanted === 0) continue;
    const rounding = slack(values);
    // What rounding alone could explain tells nothing.
    if (Math.abs(wanted) < 3 * rounding) continue;
    told += 1;
    if (Math.abs(is - wanted) <= Math.max(0.011, Math.abs(wanted) * 5e-4, rounding)) agreed += 1;
  }
  return told >= LEAST_ROWS && agreed >= told * AGREEING;
}

/** Values in the hundreds and more are no rates, whatever their column is called. */
function isMoneyLike(values: readonly (number | null)[]): boolean {
  const known = values.filter((value) => value !== null);
  return known.length > 0 && known.filter((value) => Math.abs(value) > 400).length > known.length / 2;
}

/** Few values that come again and again, as small counts do and numbers of documents do not. */
function isRepeatedSmall(values: readonly (number | null)[]): boolean {
  const known = values.filter((value) => value !== null);
  return known.length > 0 && known.every((value) => Math.abs(value) < 100) && new Set(known).size < known.length / 2;
}
