import { readNumber, roundUnits, type DecimalMark } from "../reading/read-number.ts";
import { writeDecimal } from "../reading/write-decimal.ts";

/** Numbers of a file keep at most so many decimals. */
export const MOST_DECIMALS = 9;

/** Rewrites numbers rounded to some decimals, halves away from zero; what is no number is left. */
export function rounded(decimals: number, mark: DecimalMark): (text: string) => string | undefined {
  return (text) => {
    const value = readNumber(text, mark);
    const units = value && roundUnits(value, decimals);
    return units === undefined ? undefined : writeDecimal({ units, decimals }, mark);
  };
}
