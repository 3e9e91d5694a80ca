/**
 * Amounts are whole minor units in float64: sums are exact and independent of
 * order up to 2^53. Decimals say how many digits lie behind the point.
 */

/** 10 to the power of `decimals`, for 0 to 15 decimals. */
export function powerOfTen(decimals: number): number {
  return 10 ** decimals;
}

/** Whole minor units as a number in major units, correctly rounded. */
export function toMajor(minor: number, decimals: number): number {
  return minor / powerOfTen(decimals);
}

/**
 * Reads a plain decimal ("-12.5") as whole minor units. `undefined` when the text
 * is not such a number, has more decimals than kept, or exceeds 2^53.
 */
export function parseAmount(text: string, decimals: number): number | undefined {
  const match = /^(-?)(\d+)(?:\.(\d+))?$/.exec(text.trim());
  if (!match) return undefined;
  const fraction = (match[3] ?? "").replace(/0+$/, "");
  if (fraction.length > decimals) return undefined;
  const minor = Number(match[2] + fraction.padEnd(decimals, "0"));
  if (!Number.isSafeInteger(minor)) return undefined;
  return match[1] && minor !== 0 ? -minor : minor;
}

/** Writes whole minor units as a plain decimal, the form `parseAmount` reads. */
export function formatAmount(minor: number, decimals: number): string {
  const digits = String(Math.abs(minor)).padStart(decimals + 1, "0");
  const split = digits.length - decimals;
  const text = decimals > 0 ? `${digits.slice(0, split)}.${digits.slice(split)}` : digits;
  return minor < 0 ? `-${text}` : text;
}
