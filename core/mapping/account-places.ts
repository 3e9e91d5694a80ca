/** Where an account stands among those of its file. */
export interface AccountPlace {
  /** The texts of the accounts above it, the widest first. */
  readonly above: readonly string[];
  /** Whether others stand below it. */
  readonly isParent: boolean;
}

/** Where accounts stand, by their texts as they are without the spaces around them. */
export type AccountPlaces = ReadonlyMap<string, AccountPlace>;

/**
 * The tree that indentation draws: what stands farther in belongs to the last text that stands less far in. `undefined`
 * where all stand alike. Cells come in the order of the file.
 */
export function indentedPlaces(cells: readonly string[]): AccountPlaces | undefined {
  const first = new Map<string, number>();
  for (const cell of cells) {
    const text = cell.trim();
    if (text !== "" && !first.has(text)) first.set(text, indentOf(cell));
  }
  const entries = [...first];
  const [outermost] = entries;
  if (!outermost || entries.every(([, indent]) => indent === outermost[1])) return undefined;
  // What stands out beyond the first text has no place below it.
  if (entries.some(([, indent]) => indent < outermost[1])) return undefined;
  const open: { text: string; indent: number }[] = [];
  return new Map(
    entries.map(([text, indent], i) => {
      while (open.length > 0 && open.at(-1)!.indent >= indent) open.pop();
      const above = open.map((own) => own.text);
      open.push({ text, indent });
      return [text, { above, isParent: (entries[i + 1]?.[1] ?? -1) > indent }] as const;
    }),
  );
}

function indentOf(cell: string): number {
  const lead = /^[\s\u00a0]*/.exec(cell)![0];
  return Array.from(lead).reduce((width, space) => width + (space === "\t" ? 4 : 1), 0);
}

/** The tree that numbers of several lengths draw: 40 stands above 4000. `undefined` where no number begins another. */
export function numberedPlaces(texts: readonly string[]): AccountPlaces | undefined {
  if (texts.length < 3 || !texts.every((text) => /^\d{1,12}$/.test(text))) return undefined;
  const known = new Set(texts);
  const above = (text: string) =>
    Array.from({ length: text.length - 1 }, (_, i) => text.slice(0, i + 1)).filter((start) => known.has(start));
  const parents = new Set(texts.flatMap(above));
  if (parents.size === 0) return undefined;
  return new Map(texts.map((text) => [text, { above: above(text), isParent: parents.has(text) }]));
}

/** Below so many accounts ranges of numbers say nothing. */
const LEAST_IN_RANGES = 6;

/**
 * The range of numbers that an account is in, such as "4000–4999" of 4120, where all are of one length and in several
 * ranges; `undefined` where they are not.
 */
export function rangesOf(texts: readonly string[]): ReadonlyMap<string, string> | undefined {
  const length = texts[0]?.length ?? 0;
  if (texts.length < LEAST_IN_RANGES || length < 3) return undefined;
  if (!texts.every((text) => text.length === length && /^[1-9]\d*$/.test(text))) return undefined;
  const ranges = new Map(
    texts.map((text) => [text, `${text[0]}${"0".repeat(length - 1)}–${text[0]}${"9".repeat(length - 1)}`]),
  );
  return new Set(ranges.values()).size > 1 ? ranges : undefined;
}
