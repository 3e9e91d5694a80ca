import type { Month } from "../calendar/month.ts";
import { bookKey } from "../cube/cell-book.ts";
import type { CellQuery, ScenarioWindow } from "../cube/cell-source.ts";
import { getOrCreate } from "../keyed.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { placeView, viewsOf, type MeasureFrame } from "./measure.ts";
import type { Side } from "./side.ts";
import { windowMonths, type Window } from "./window.ts";

/** KPIs that will be measured on a side over windows; in the frame's scope, or one of their own. */
export interface Ask {
  readonly kpis: readonly CompiledKpi[];
  readonly side: Side;
  readonly windows: readonly Window[];
  readonly scope?: MeasureFrame["scope"];
}

/** What is kept by quarter is read by whole quarters: two months more at either end. */
const QUARTER_MARGIN = 2;

interface Read {
  readonly scope: CellQuery["scope"];
  readonly throughDay: number | undefined;
  readonly accounts: Set<string>;
  readonly windows: Map<string, { from: Month; to: Month }>;
}

/**
 * The queries for all the cells that asks will look up, by their place in the book: what is
 * shared is read once, look-back past the frame's window included.
 */
export function planReads(asks: readonly Ask[], frame: MeasureFrame): Map<string, CellQuery> {
  const reads = new Map<string, Read>();
  if (frame.scopeAbsence) return new Map();
  for (const { kpis, side, windows, scope } of asks) {
    const own = scope ? { ...frame, scope } : frame;
    for (const kpi of kpis)
      viewsOf(kpi).forEach((view, v) => {
        const leaves = kpi.formula.inputs.flatMap((input) =>
          input.kind === "account" && input.view === v ? frame.accounts.leaves.get(input.account)! : [],
        );
        if (leaves.length === 0) return;
        for (const window of windows) {
          const placed = placeView(view, side, window, own);
          if ("absent" in placed.side) continue;
          const { throughDay } = placed.window;
          const read = getOrCreate(reads, bookKey(placed.scope, throughDay), (): Read => ({
            scope: placed.scope,
            throughDay,
            accounts: new Set(),
            windows: new Map(),
          }));
          for (const leaf of leaves) read.accounts.add(leaf);
          const months = windowMonths(frame.calendar, placed.window);
          const from = months[0]! - placed.side.shift - QUARTER_MARGIN;
          const to = months.at(-1)! - placed.side.shift + QUARTER_MARGIN;
          const known = read.windows.get(placed.side.scenario);
          read.windows.set(placed.side.scenario, {
            from: Math.min(from, known?.from ?? from),
            to: Math.max(to, known?.to ?? to),
          });
        }
      });
  }
  return new Map(
    [...reads].map(([key, { scope, throughDay, accounts, windows }]) => [
      key,
      {
        accounts: [...accounts],
        windows: [...windows].map(([scenario, months]): ScenarioWindow => ({ scenario, ...months })),
        scope,
        ...(throughDay === undefined ? {} : { throughDay }),
      },
    ]),
  );
}
