import { bigDecimalText, type Decimal } from "../figures/exact-sum.ts";
import type { DecimalMark } from "./read-number.ts";

/** Writes a decimal without grouping, in the form `readNumber` reads with the same mark. */
export function writeDecimal(value: Decimal, mark: DecimalMark): string {
  const text = bigDecimalText(BigInt(value.units), value.decimals);
  return mark === "," ? text.replace(".", ",") : text;
}
