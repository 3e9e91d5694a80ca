import { MINUS } from "../words/number-words.ts";

/** A plain decimal as it is read in sentences: grouped, with the sign of minus. */
export function writeAmount(text: string): string {
  const [whole = "0", fraction] = text.replace("-", "").split(".");
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ",");
  const isZero = /^[0.]*$/.test(text.replace("-", ""));
  return `${text.startsWith("-") && !isZero ? MINUS : ""}${grouped}${fraction ? `.${fraction}` : ""}`;
}
