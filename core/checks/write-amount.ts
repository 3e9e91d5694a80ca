import { formatDigits } from "../formats/number-words.ts";

/** An exact decimal, such as "-1234.50", as it is read. */
export function writeAmount(text: string): string {
  return formatDigits(text.replace("-", ""), text.startsWith("-"));
}
