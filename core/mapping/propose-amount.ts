import type { ColumnProfile } from "../reading/column-profile.ts";
import { readNumber } from "../reading/read-number.ts";
import { columnKey } from "../tidy/column-formula.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
import { weighColumns } from "./column-evidence.ts";
import { ACCOUNT_NUMBER, EXPENSE_NAME, INCOME_NAME, QUANTITY_NAME, REFERENCE_NAME } from "./column-names.ts";
import { freeName } from "./free-name.ts";
import { wholeWords } from "./whole-words.ts";
import type { Sample } from "./sample.ts";

const DISCOUNT = wholeWords("rabatt|discount|remise|sconto|descuento");
const PURCHASE = wholeWords("purchases?|bought|suppliers?|vendors?|einkauf|einkäufe|lieferanten?|achats?");
const SALE = wholeWords("orders?|invoices?|verkauf|verkäufe|aufträge|rechnungen|ventes?|customers?|kunden?");

/**
 * The amount of a file that has quantities and prices and nothing that they give: quantity × price, less a discount in
 * percent. `undefined` where an amount is there, or where it is not plain which quantity and which price.
 */
export function proposeAmount(
  profiles: readonly ColumnProfile[],
  sample: Sample,
  title: string,
): Extract<TidyStep, { kind: "compute" }> | undefined {
  const { apart } = weighColumns(profiles, sample);
  const numbers = profiles.filter(({ type, name }) => type === "number" && !ACCOUNT_NUMBER.test(name));
  const prices = numbers.filter(({ name }) => apart.get(name)?.nature === "price" && !apart.get(name)?.ratio);
  const counts = numbers.filter(({ name }) => !apart.has(name) && QUANTITY_NAME.test(name));
  const others = numbers.filter(
    (one) => !apart.has(one.name) && !counts.includes(one) && !REFERENCE_NAME.test(one.name),
  );
  const [price, count] = [prices[0], counts[0]];
  if (prices.length !== 1 || counts.length !== 1 || others.length > 0 || !price || !count) return undefined;
  const discount = numbers.find(({ name }) => apart.get(name)?.nature === "rate" && DISCOUNT.test(name));
  const key = (column: ColumnProfile) => columnKey(sample.columns, column.name);
  const off = discount === undefined ? "" : ` * (1 - ${key(discount)}${isInPercent(discount, sample) ? " / 100" : ""})`;
  return {
    kind: "compute",
    into: freeName(amountName(`${title} ${sample.columns.join(" ")}`), sample.columns),
    formula: `${key(count)} * ${key(price)}${off}`,
    decimals: 2,
  };
}

/** Whether a discount of a tenth is written as 10: not where it is written as 10% or 0.1. */
function isInPercent({ name, mark }: ColumnProfile, sample: Sample): boolean {
  const place = sample.columns.indexOf(name);
  return sample.rows.some((row) => {
    const value = readNumber(row[place] ?? "", mark);
    return value !== undefined && Math.abs(value.units) / 10 ** value.decimals > 1;
  });
}

function amountName(context: string): string {
  if (PURCHASE.test(context) || EXPENSE_NAME.test(context)) return "Purchases";
  return INCOME_NAME.test(context) || SALE.test(context) ? "Sales" : "Value";
}
