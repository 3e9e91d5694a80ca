/**
 * Where the results of fitting are kept, by what they are of: the same series under the same settings is fitted once,
 * whoever asks and in whichever frame. What is kept is plain data.
 */
export interface FitMemory {
  /** A result by its key; `undefined` where it was not made yet. */
  find(key: string): unknown;
  /** Keeps a result that was just made. */
  keep(key: string, result: unknown): void;
  /** Whether what was not made yet is left out for now rather than made; it is told of each that was. */
  readonly onDeferred?: (() => void) | undefined;
}

/** What a reader is told in the place of what a fit will say. */
export const WORKED_OUT = "Still being calculated.";

let current: FitMemory | null = null;

/** Computes something with a memory of fits. What it calls must not wait for anything. */
export function withFits<T>(memory: FitMemory | null, compute: () => T): T {
  const before = current;
  current = memory;
  try {
    return compute();
  } finally {
    current = before;
  }
}

/**
 * The result of a fit: as it was kept, or made now and kept. `of` is all that it follows from. Where fits are deferred, one
 * that was not made yet is `deferred` for now.
 */
export function keptFit<T>(of: FitOf, fit: () => T, deferred?: T): T {
  const memory = current;
  if (!memory) return fit();
  const key = keyOf(of);
  const known = memory.find(key);
  if (known !== undefined) return known as T;
  if (memory.onDeferred && deferred !== undefined) {
    memory.onDeferred();
    return deferred;
  }
  const made = fit();
  memory.keep(key, made);
  return made;
}

/** What a fit follows from. */
export interface FitOf {
  /** What is fitted; grows a number when the method changes, so that what was kept before is not taken for it. */
  readonly kind: string;
  readonly series: readonly ArrayLike<number | null>[];
  readonly settings: unknown;
}

/** A key of 128 bits over every number of the series and the settings. */
function keyOf({ kind, series, settings }: FitOf): string {
  const hash = new ContentHash();
  hash.text(kind);
  hash.text(JSON.stringify(settings));
  for (const own of series) {
    hash.number(own.length);
    for (let t = 0; t < own.length; t += 1) hash.number(own[t] ?? NaN);
  }
  return hash.toString();
}

const doubles = new Float64Array(1);
const words = new Uint32Array(doubles.buffer);

/** Four lanes of 32 bits, mixed as in MurmurHash3 (Appleby, public domain): two series that differ do not meet by chance. */
class ContentHash {
  private a = 0x9e3779b9;
  private b = 0x85ebca6b;
  private c = 0xc2b2ae35;
  private d = 0x27d4eb2f;

  number(value: number): void {
    // All absences are one.
    doubles[0] = Number.isNaN(value) ? NaN : value === 0 ? 0 : value;
    this.word(words[0]!);
    this.word(words[1]!);
  }

  text(value: string): void {
    this.word(value.length);
    for (let i = 0; i < value.length; i += 1) this.word(value.charCodeAt(i));
  }

  toString(): string {
    return [this.a, this.b, this.c, this.d].map((lane) => finish(lane).toString(16).padStart(8, "0")).join("");
  }

  private word(k: number): void {
    this.a = mix(this.a ^ Math.imul(rotate(Math.imul(k, 0x239b961b), 15), 0xab0e9789), 19) + this.b;
    this.b = mix(this.b ^ Math.imul(rotate(Math.imul(k, 0xab0e9789), 16), 0x38b34ae5), 17) + this.c;
    this.c = mix(this.c ^ Math.imul(rotate(Math.imul(k, 0x38b34ae5), 17), 0xa1e38b93), 15) + this.d;
    this.d = mix(this.d ^ Math.imul(rotate(Math.imul(k, 0xa1e38b93), 18), 0x239b961b), 13) + this.a;
  }
}

function rotate(value: number, by: number): number {
  return (value << by) | (value >>> (32 - by));
}

function mix(value: number, by: number): number {
  return (Math.imul(rotate(value, by), 5) + 0x561ccd1b) | 0;
}

function finish(value: number): number {
  let h = value;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}
