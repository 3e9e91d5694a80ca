/** How wide a figure of a chart's small type is, on average, in pixels. */
const CHARACTER = 6.1;
const LABEL_HEIGHT = 12;

/** How wide a label of a chart is, in pixels. */
export function labelWidth(text: string): number {
  return text.length * CHARACTER;
}

/** The middle of a label that stands over `centre`, or beside it where it would leave the plot. */
export function insideOf(plot: { readonly x: number; readonly width: number }, centre: number, width: number): number {
  return Math.max(plot.x + width / 2, Math.min(plot.x + plot.width - width / 2, centre));
}

/**
 * Which marks of a row are labelled: all where their labels fit beside each other, otherwise the last, the largest and
 * the smallest, and as many more, the larger first, as leave each other room. `step` is from mark to mark in pixels.
 */
export function thinnedLabels(
  values: readonly (number | undefined)[],
  write: (value: number) => string,
  step: number,
): ReadonlySet<number> {
  const texts = values.map((value) => (value === undefined ? "" : write(value)));
  const all = values.flatMap((value, i) => (value === undefined ? [] : [i]));
  if (texts.every((text) => labelWidth(text) <= step + 1)) return new Set(all);
  const reach = Math.ceil(Math.max(...texts.map(labelWidth)) / step);
  const bySize = [...all].sort((a, b) => Math.abs(values[b]!) - Math.abs(values[a]!));
  const kept: number[] = [];
  for (const i of [all.at(-1), bySize[0], bySize.at(-1), ...bySize])
    if (i !== undefined && kept.every((k) => Math.abs(k - i) >= reach)) kept.push(i);
  return new Set(kept);
}

/** A level line with the place of its name. */
export interface NamedLine {
  readonly name: string;
  readonly y: number;
  readonly labelY: number;
  readonly labelWidth: number;
}

/** Names of lines stand above them; where lines are close, the lower one's goes below the other. */
export function apart(lines: readonly { readonly name: string; readonly y: number }[]): NamedLine[] {
  let last = -Infinity;
  return [...lines]
    .sort((a, b) => a.y - b.y)
    .map(({ name, y }) => {
      const labelY = Math.max(y - 3, last + LABEL_HEIGHT);
      last = labelY;
      return { name, y, labelY, labelWidth: labelWidth(name) * 0.86 + 6 };
    });
}

/** A label that stands left or right of its mark. */
export interface SideLabel {
  readonly text: string;
  readonly x: number;
  readonly anchor: "start" | "end";
}

/** A label beside its mark; where the plot ends before it does, over the mark. */
export function besideMark(
  text: string,
  x: number,
  isLeft: boolean,
  plot: { readonly x: number; readonly width: number },
): SideLabel {
  const width = labelWidth(text);
  const [start, end] = [plot.x, plot.x + plot.width];
  if (isLeft) return x - width < start ? { text, x: start, anchor: "start" } : { text, x, anchor: "end" };
  return x + width > end ? { text, x: end, anchor: "end" } : { text, x, anchor: "start" };
}

/**
 * Labels in a row that stand clear of each other: where two meet, as those do that an edge pushed inwards, the first
 * and the last stay, and otherwise the one that comes first.
 */
export function standingApart<L extends { readonly x: number; readonly text: string }>(
  labels: readonly (L | null)[],
): (L | null)[] {
  const last = labels.findLastIndex((label) => label !== null);
  const kept: (L | null)[] = [...labels];
  let before = -1;
  for (const [i, label] of labels.entries()) {
    if (!label) continue;
    const other = before < 0 ? null : kept[before];
    const isClear = !other || label.x - other.x >= (labelWidth(label.text) + labelWidth(other.text)) / 2 - 3;
    if (!isClear && i === last && before > 0) kept[before] = null;
    else if (!isClear) {
      kept[i] = null;
      continue;
    }
    before = i;
  }
  return kept;
}
