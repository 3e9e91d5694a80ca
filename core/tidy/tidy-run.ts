import { ExactSum } from "../figures/exact-sum.ts";
import { readNumber } from "../reading/read-number.ts";
import type { TidyRow, TidyTable } from "./row.ts";
import type { Emit, MissedTexts, StepRun, TidyContext } from "./step-run.ts";
import type { TidyStep } from "./steps/index.ts";
import { stepKind } from "./steps/index.ts";

/** A row as a step found it and as it left it; no row after when it was dropped, several when it was turned. */
export interface RowChange {
  readonly line: number;
  readonly before: readonly string[];
  readonly after: readonly (readonly string[])[];
}

/** What stands between two steps: how many rows, and the exact sum of each column of values. */
export interface TidyCount {
  readonly rows: number;
  /** By column; exact plain decimals. */
  readonly totals: Readonly<Record<string, string>>;
  /** Filled cells of value columns that are no numbers. */
  readonly unreadable: number;
}

/** What one step did. */
export interface StepEffect {
  readonly columns: readonly string[];
  readonly changed: number;
  readonly examples: readonly RowChange[];
  readonly after: TidyCount;
  /** What it looked for and did not find, where it looks something up. */
  readonly missed?: MissedTexts | undefined;
}

/** How many changed rows a step keeps to be looked at. */
const EXAMPLES = 40;

/** A file's rows on their way through all steps, counted before the first and after each. */
export interface TidyRun {
  /** The columns that come out. */
  readonly columns: readonly string[];
  take(row: TidyRow): void;
  end(): void;
  /** What stood before the first step. */
  readonly before: () => TidyCount;
  readonly effects: () => StepEffect[];
}

/** Why a step cannot run on these columns; `null` when it can. */
export function stepProblem(step: TidyStep, columns: readonly string[], context: TidyContext): string | null {
  const operation = stepKind(step.kind);
  const missing = operation.needs(step).find((name) => !columns.includes(name));
  if (missing !== undefined) return `There is no column “${missing}” here. Choose one of ${columns.join(", ")}.`;
  if ("columns" in step && step.columns.length === 0) return "No column is chosen. Choose at least one.";
  const made = operation.makes?.(step) ?? [];
  const gone = operation.takesAway?.(step) ?? [];
  const kept = columns.filter((c) => !gone.includes(c));
  const twice = made.find((name, i) => name.trim() === "" || kept.includes(name) || made.indexOf(name) !== i);
  if (twice !== undefined)
    return twice.trim() === ""
      ? "A new column has no name. Give it one."
      : `There is a column “${twice}” already. Give the new one another name.`;
  return operation.problem?.(step, columns, context) ?? null;
}

/** The columns after each step, up to the first step that cannot run. */
export function columnsThrough(
  steps: readonly TidyStep[],
  columns: readonly string[],
  context: TidyContext,
): { columns: readonly string[][]; problem: { step: number; message: string } | null } {
  const through: string[][] = [];
  let at = columns;
  for (const [i, step] of steps.entries()) {
    const message = stepProblem(step, at, context);
    if (message) return { columns: through, problem: { step: i, message } };
    at = stepKind(step.kind).start(step, at, context).columns;
    through.push([...at]);
  }
  return { columns: through, problem: null };
}

/**
 * Starts the steps over a file's columns; `sink` gets the rows that come out. Totals
 * are kept of the columns that end up in `valueColumns`, followed back through the
 * steps that made them. Throws a `RangeError` when a step cannot run.
 */
export function startTidy(
  steps: readonly TidyStep[],
  columns: readonly string[],
  { context, valueColumns, sink }: { context: TidyContext; valueColumns: readonly string[]; sink: Emit },
): TidyRun {
  const runs: StepRun[] = [];
  let at = columns;
  for (const step of steps) {
    const problem = stepProblem(step, at, context);
    if (problem) throw new RangeError(`${stepKind(step.kind).say(step)}: ${problem}`);
    const run = stepKind(step.kind).start(step, at, context);
    runs.push(run);
    at = run.columns;
  }
  const watched = watchedColumns(steps, valueColumns);
  const counts = [columns, ...runs.map((run) => run.columns)].map(
    (own, i) =>
      new Tally(
        own,
        watched[i]!.filter((name) => own.includes(name)),
        context,
      ),
  );
  // A step that leaves the value columns alone has the totals of the step before, unless it drops rows.
  const changed = steps.map(() => 0);
  const examples = steps.map((): RowChange[] => []);
  const emits: Emit[] = Array<Emit>(steps.length + 1);
  emits[steps.length] = sink;
  const feeds = runs.map((run, i): Emit => {
    const next = (row: TidyRow) => emits[i + 1]!(row);
    const count = counts[i + 1]!;
    if (run.end) {
      return (row) => run.take(row, next);
    }
    const out: TidyRow[] = [];
    const collect = (row: TidyRow) => void out.push(row);
    return (row) => {
      out.length = 0;
      run.take(row, collect);
      if (out.length !== 1 || out[0] !== row) {
        changed[i]! += 1;
        if (examples[i]!.length < EXAMPLES)
          examples[i]!.push({ line: row.line, before: row.cells, after: out.map((o) => o.cells) });
      }
      for (const made of out) {
        count.add(made);
        next(made);
      }
    };
  });
  feeds.forEach((feed, i) => (emits[i] = feed));
  return {
    columns: at,
    take(row) {
      counts[0]!.add(row);
      emits[0]!(row);
    },
    end() {
      runs.forEach((run, i) => {
        if (!run.end) return;
        run.end((row) => {
          counts[i + 1]!.add(row);
          emits[i + 1]!(row);
        });
        changed[i] = counts[i]!.rows - counts[i + 1]!.rows;
      });
    },
    before: () => counts[0]!.count(),
    effects: () =>
      runs.map((run, i) => ({
        columns: run.columns,
        changed: changed[i]!,
        examples: examples[i]!,
        after: counts[i + 1]!.count(),
        ...(run.missed ? { missed: run.missed() } : {}),
      })),
  };
}

/** Runs the steps over a table at once, for previews and tests. */
export function tidyTable(
  steps: readonly TidyStep[],
  table: TidyTable,
  context: TidyContext,
  valueColumns: readonly string[] = [],
): { table: TidyTable; before: TidyCount; effects: StepEffect[] } {
  const rows: TidyRow[] = [];
  const run = startTidy(steps, table.columns, { context, valueColumns, sink: (row) => void rows.push(row) });
  for (const row of table.rows) run.take(row);
  run.end();
  return { table: { columns: run.columns, rows }, before: run.before(), effects: run.effects() };
}

/** Per stage, from before the first step on, the columns that the final value columns are made of. */
export function watchedColumns(steps: readonly TidyStep[], valueColumns: readonly string[]): string[][] {
  const stages: string[][] = [[...valueColumns]];
  for (const step of steps.toReversed()) {
    const operation = stepKind(step.kind);
    const after = stages[0]!;
    stages.unshift([...new Set(after.flatMap((column) => operation.madeFrom?.(step, column) ?? [column]))]);
  }
  return stages;
}

/** Counts rows and sums the watched columns exactly. */
class Tally {
  rows = 0;
  private unreadable = 0;
  private readonly sums: { readonly place: number; readonly name: string; readonly sum: ExactSum }[];

  constructor(
    columns: readonly string[],
    watched: readonly string[],
    private readonly context: TidyContext,
  ) {
    this.sums = watched.map((name) => ({ name, place: columns.indexOf(name), sum: new ExactSum() }));
  }

  add(row: TidyRow): void {
    this.rows += 1;
    for (const { place, sum } of this.sums) {
      const text = row.cells[place];
      if (text === undefined || text === "") continue;
      const value = readNumber(text, this.context.mark);
      if (value) sum.add(value.units, value.decimals);
      else if (text.trim() !== "") this.unreadable += 1;
    }
  }

  count(): TidyCount {
    return {
      rows: this.rows,
      totals: Object.fromEntries(this.sums.map(({ name, sum }) => [name, sum.toText()])),
      unreadable: this.unreadable,
    };
  }
}
