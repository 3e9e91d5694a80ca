import type { Grid } from "./table/grid.ts";

/** Columns with more different texts than this say something new on every row. */
const MOST_IN_HEAD = 150;
const MOST_TEXTS = 400;
const MOST_ROWS = 400;

/**
 * Picks, among the rows below a file's first ones, those that show a text that their column did not have so far: the
 * accounts, members and versions of a long file, without its amounts. Columns of amounts, dates and documents, which are
 * new on nearly every row, are left aside.
 */
export class NovelRows {
  private readonly seen: (Set<string> | null)[] = [];
  private readonly kept: Grid[number][] = [];

  constructor(head: Grid) {
    for (const { cells } of head) this.note(cells);
    this.seen.forEach((texts, place) => {
      if (texts && texts.size > MOST_IN_HEAD) this.seen[place] = null;
    });
  }

  /** Whether another row could still be kept. */
  get isOpen(): boolean {
    return this.kept.length < MOST_ROWS && this.seen.some((texts) => texts !== null);
  }

  take(row: Grid[number]): void {
    if (this.kept.length < MOST_ROWS && this.note(row.cells)) this.kept.push(row);
  }

  rows(): Grid {
    return this.kept;
  }

  private note(cells: readonly string[]): boolean {
    let isNew = false;
    cells.forEach((text, place) => {
      const texts = (this.seen[place] === undefined ? (this.seen[place] = new Set()) : this.seen[place])!;
      if (texts === null || text === "" || texts.has(text)) return;
      texts.add(text);
      isNew = true;
      if (texts.size > MOST_TEXTS) this.seen[place] = null;
    });
    return isNew;
  }
}
