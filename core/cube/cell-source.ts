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
  /** A dimension: sums are taken apart by the member they were posted to. Facts without one are left out. */
  readonly by?: string;
}

/** The sum of one leaf account in one scenario and month, in whole minor units. */
export interface Cell {
  readonly scenario: string;
  readonly account: string;
  readonly month: Month;
  readonly amount: number;
  /** The member it was posted to, where the query asks for it. */
  readonly member?: string;
}

/** Where sums come from. Implementations must give identical cells for identical queries, in any order. */
export interface CellSource {
  cells(query: CellQuery): Promise<Cell[]>;
}
