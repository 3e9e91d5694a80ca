/** A decimal number without rounding: `units · 10^−decimals`. */
export interface Decimal {
  readonly units: number;
  readonly decimals: number;
}

/** Below this, one more addition of a safe integer cannot pass 2^53. */
const FLUSH_AT = 2 ** 52;

/**
 * Adds decimals exactly, whatever their number of digits and order. Sums are kept
 * per number of decimals in float64 and move to big integers before they pass 2^53.
 */
export class ExactSum {
  private readonly small: number[] = [];
  private readonly large: bigint[] = [];

  /** Adds `units · 10^−decimals`. */
  add(units: number, decimals: number): void {
    const sum = (this.small[decimals] ?? 0) + units;
    if (Math.abs(sum) < FLUSH_AT) this.small[decimals] = sum;
    else {
      this.large[decimals] = (this.large[decimals] ?? 0n) + BigInt(this.small[decimals] ?? 0) + BigInt(units);
      this.small[decimals] = 0;
    }
  }

  /** The sum as a plain decimal ("-12.50"), with as many decimals as the finest number added, at least `minimum`. */
  toText(minimum = 0): string {
    const decimals = Math.max(minimum, this.small.length - 1, 0);
    let total = 0n;
    for (let d = 0; d <= decimals; d += 1) {
      total += (BigInt(this.small[d] ?? 0) + (this.large[d] ?? 0n)) * 10n ** BigInt(decimals - d);
    }
    return bigDecimalText(total, decimals);
  }
}

/** Writes whole units of 10^−decimals as a plain decimal. */
export function bigDecimalText(units: bigint, decimals: number): string {
  const digits = (units < 0n ? -units : units).toString().padStart(decimals + 1, "0");
  const split = digits.length - decimals;
  const text = decimals > 0 ? `${digits.slice(0, split)}.${digits.slice(split)}` : digits;
  return units < 0n ? `-${text}` : text;
}

/** The difference a − b of two plain decimals, exactly, without trailing zeros beyond the finer of the two. */
export function subtractTexts(a: string, b: string): string {
  const decimals = Math.max(decimalsOf(a), decimalsOf(b));
  return bigDecimalText(scaled(a, decimals) - scaled(b, decimals), decimals);
}

/** The exact sum of plain decimals. */
export function sumTexts(texts: readonly string[]): string {
  const decimals = Math.max(0, ...texts.map(decimalsOf));
  return bigDecimalText(
    texts.reduce((sum, text) => sum + scaled(text, decimals), 0n),
    decimals,
  );
}

/** Whether two plain decimals are the same number: "12.50" and "12.5" are. */
export function sameNumber(a: string, b: string): boolean {
  return /^-?0*(\.0*)?$/.test(subtractTexts(a, b));
}

function decimalsOf(text: string): number {
  const point = text.indexOf(".");
  return point < 0 ? 0 : text.length - point - 1;
}

function scaled(text: string, decimals: number): bigint {
  return BigInt(text.replace(".", "")) * 10n ** BigInt(decimals - decimalsOf(text));
}
