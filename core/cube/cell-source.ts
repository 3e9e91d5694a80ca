import type { Month } from "../calendar/month.ts";
import type { Scope } from "../dimensions/scope.ts";

/** One scenario's months to read, both ends included. */
export interface ScenarioWindow {
  readonly scenario: string;
  readonly from: Month;
  readonly to: Month;
}

/** What a cell source is asked: sums by scenario, leaf account and month inside the scope. */
export interface CellQuery {
  readonly accounts: readonly string[];
  readonly windows: readonly ScenarioWindow[];
  readonly scope: Scope;
  /** For daily facts: only days of the month up to this one, in every month. */
  readonly throughDay?: number;
}

/** The sum of one leaf account in one scenario and month, in whole minor units. */
export interface Cell {
  readonly scenario: string;
  readonly account: string;
  readonly month: Month;
  readonly amount: number;
}

/** Where sums come from. Implementations must give identical cells for identical queries, in any order. */
export interface CellSource {
  cells(query: CellQuery): Promise<Cell[]>;
}
