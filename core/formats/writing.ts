/** How numbers can be written: what groups thousands, and what stands before the decimals. */
export const NUMBER_WRITINGS = ["1,234.5", "1.234,5", "1 234,5", "1’234.5"] as const;
export type NumberWriting = (typeof NUMBER_WRITINGS)[number];

/** A way of writing numbers by its name; `undefined` where there is none of it. */
export function asNumberWriting(text: string | null | undefined): NumberWriting | undefined {
  return NUMBER_WRITINGS.find((known) => known === text);
}

/** How days can be written: which of day and month comes first. */
export const DATE_WRITINGS = ["30 November 2026", "November 30, 2026", "2026-11-30"] as const;
export type DateWriting = (typeof DATE_WRITINGS)[number];

/** A way of writing days by its name; `undefined` where there is none of it. */
export function asDateWriting(text: string | null | undefined): DateWriting | undefined {
  return DATE_WRITINGS.find((known) => known === text);
}

/** How figures are written: the currency belongs to the company, how numbers and days look to whoever reads them. */
export interface Writing {
  /** ISO 4217. */
  readonly currency: string;
  readonly numbers: NumberWriting;
  readonly dates: DateWriting;
}

/**
 * It belongs to no figure, so it is said once around a computation (on a server that answers many readers of several
 * companies) or once for all (in a browser, where one person looks at one). Where nobody said it nothing is written: a
 * figure in a currency that was never asked for would look right.
 */
let current: Writing | undefined;

/** How figures are written now. Throws where nobody said so. */
export function writing(): Writing {
  if (!current) throw new Error("A figure is being written outside inWriting(): nobody said for whom.");
  return current;
}

/** Writes figures so from now on: for a process that one person looks at. */
export function writeAs(next: Writing): void {
  current = next;
}

/** Computes something whose words are written so. Throws where it would go on later, when another's writing holds. */
export function inWriting<T>(next: Writing, compute: () => T): T {
  const before = current;
  current = next;
  try {
    const computed = compute();
    if (computed instanceof Promise) throw new Error("What inWriting() computes must not wait for anything.");
    return computed;
  } finally {
    current = before;
  }
}

/** A space that does not break groups. */
const MARKS: Readonly<Record<NumberWriting, { readonly group: string; readonly decimal: "." | "," }>> = {
  "1,234.5": { group: ",", decimal: "." },
  "1.234,5": { group: ".", decimal: "," },
  "1 234,5": { group: "\u00a0", decimal: "," },
  "1’234.5": { group: "’", decimal: "." },
};

/** What groups thousands and what stands before the decimals, now. */
export function numberMarks(): { readonly group: string; readonly decimal: "." | "," } {
  return MARKS[writing().numbers];
}
