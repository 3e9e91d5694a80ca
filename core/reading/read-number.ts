import { CURRENCY_CODES } from "../currency/currency-code.ts";
import type { Decimal } from "../figures/exact-sum.ts";

/** Which sign stands before the decimals; the other one, spaces and apostrophes group thousands. */
export type DecimalMark = "." | ",";

const ZERO = 48;
const NINE = 57;
/** Spaces of all widths and apostrophes that group thousands. */
const GROUPING = new Set([0x20, 0xa0, 0x2009, 0x202f, 0x27, 0x2019]);
const MINUSES = new Set([0x2d, 0x2212]);
/** A sign or code in front or behind; what only looks like a code, as in "OPP-1000", is none. */
const CURRENCY = new RegExp(
  `^(?:[€$£¥]|(?:${CURRENCY_CODES.join("|")})(?=[\\s\\d(.,−-]))\\s*|\\s*(?:[€$£¥]|(?<=[\\s\\d).])(?:${CURRENCY_CODES.join("|")}))$`,
  "g",
);

/**
 * Reads a number as people write it in files: grouped thousands, minus in front or
 * behind, brackets for negative, percent (12 % is 0.12), a currency sign or code.
 * `undefined` when the text is no such number, when groups are not of three digits,
 * or when it has more than 15 digits.
 */
export function readNumber(text: string, mark: DecimalMark): Decimal | undefined {
  const plain = readPlain(text, mark);
  if (plain || text === "") return plain;
  const bare = text.trim().replace(CURRENCY, "").trim();
  if (bare.startsWith("(") && bare.endsWith(")")) return negated(readPlain(stripped(bare.slice(1, -1)), mark));
  // "€ -5" and "-€ 5" alike.
  const inner = /^[-−+]/.test(bare) ? bare[0]! + stripped(bare.slice(1)) : bare;
  return inner === text ? undefined : readPlain(inner, mark);
}

function stripped(text: string): string {
  return text.trim().replace(CURRENCY, "").trim();
}

function negated(value: Decimal | undefined): Decimal | undefined {
  return value && value.units >= 0
    ? { units: value.units === 0 ? 0 : -value.units, decimals: value.decimals }
    : undefined;
}

function readPlain(text: string, mark: DecimalMark): Decimal | undefined {
  const markCode = mark.charCodeAt(0);
  const groupCode = mark === "." ? 44 : 46;
  let end = text.length;
  let i = 0;
  while (i < end && text.charCodeAt(i) <= 32) i += 1;
  while (end > i && (text.charCodeAt(end - 1) <= 32 || text.charCodeAt(end - 1) === 0xa0)) end -= 1;
  if (i === end) return undefined;
  let sign = 1;
  let isSigned = false;
  if (MINUSES.has(text.charCodeAt(i)) || text.charCodeAt(i) === 43) {
    sign = text.charCodeAt(i) === 43 ? 1 : -1;
    isSigned = true;
    i += 1;
  } else if (MINUSES.has(text.charCodeAt(end - 1))) {
    sign = -1;
    isSigned = true;
    end -= 1;
  }
  let percent = 0;
  if (text.charCodeAt(end - 1) === 37) {
    percent = 2;
    end -= 1;
    while (end > i && (text.charCodeAt(end - 1) <= 32 || text.charCodeAt(end - 1) === 0xa0)) end -= 1;
  }
  if (isSigned) while (i < end && text.charCodeAt(i) === 32) i += 1;
  let units = 0;
  let digits = 0;
  let decimals = -1;
  let inGroup = -1;
  for (; i < end; i += 1) {
    const code = text.charCodeAt(i);
    if (code >= ZERO && code <= NINE) {
      units = units * 10 + (code - ZERO);
      digits += 1;
      if (decimals >= 0) decimals += 1;
      else if (inGroup >= 0) inGroup += 1;
    } else if (code === markCode && decimals < 0) {
      if (inGroup >= 0 && inGroup !== 3) return undefined;
      inGroup = -1;
      decimals = 0;
    } else if ((code === groupCode || GROUPING.has(code)) && decimals < 0) {
      // Nobody groups the digits behind a nought: 0.750 is no 750.
      if (digits === 0 || units === 0 || (inGroup >= 0 ? inGroup !== 3 : digits > 3)) return undefined;
      inGroup = 0;
    } else return undefined;
  }
  if (digits === 0 || digits > 15 || (inGroup >= 0 && inGroup !== 3)) return undefined;
  return { units: units === 0 ? 0 : sign * units, decimals: Math.max(decimals, 0) + percent };
}

/**
 * A decimal as whole units of 10^−decimals, or how it fails to be: `fraction` when it
 * has digits beyond those kept, `too-large` beyond 2^53.
 */
export function toUnits(value: Decimal, decimals: number): number | "fraction" | "too-large" {
  let { units } = value;
  let surplus = value.decimals - decimals;
  while (surplus > 0) {
    if (units % 10 !== 0) return "fraction";
    units /= 10;
    surplus -= 1;
  }
  const whole = units * 10 ** -surplus;
  return Number.isSafeInteger(whole) ? whole : "too-large";
}

/** The decimal rounded to whole units of 10^−decimals, halves away from zero. `undefined` beyond 2^53. */
export function roundUnits(value: Decimal, decimals: number): number | undefined {
  const surplus = value.decimals - decimals;
  if (surplus <= 0) {
    const whole = toUnits(value, decimals);
    return typeof whole === "number" ? whole : undefined;
  }
  const divisor = 10 ** surplus;
  const size = Math.abs(value.units);
  const rounded = Math.floor(size / divisor) + (size % divisor >= divisor / 2 ? 1 : 0);
  return rounded === 0 ? 0 : Math.sign(value.units) * rounded;
}

/**
 * What the marks in a column's texts say about its decimals. `isCertain` is false when both readings fit,
 * `tells` when more texts can be read with one mark than with the other.
 */
export function detectDecimalMark(texts: readonly string[]): {
  mark: DecimalMark;
  isCertain: boolean;
  tells: boolean;
  readable: number;
} {
  let point = 0;
  let comma = 0;
  let differ = false;
  for (const text of texts) {
    const a = readNumber(text, ".");
    const b = readNumber(text, ",");
    if (a) point += 1;
    if (b) comma += 1;
    differ ||= a?.units !== b?.units || a?.decimals !== b?.decimals;
  }
  if (comma === point && comma > 0) {
    // Where three digits follow each sign, it groups thousands: amounts to the thousandth are rare.
    const grouped = (sign: string) =>
      texts.filter((text) => new RegExp(`\\d\\${sign}\\d`).test(text)).length >= LEAST_GROUPED &&
      texts.every((text) => !new RegExp(`\\${sign}(?!\\d{3}(?!\\d))`).test(text));
    const [byPoint, byComma] = [grouped("."), grouped(",")];
    if (byPoint !== byComma) return { mark: byPoint ? "," : ".", isCertain: true, tells: true, readable: point };
  }
  const tells = comma !== point;
  return { mark: comma > point ? "," : ".", isCertain: !differ || tells, tells, readable: Math.max(point, comma) };
}

/** So many numbers with three digits behind each sign are no chance. */
const LEAST_GROUPED = 3;
