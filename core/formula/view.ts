import type { Span } from "../calendar/span.ts";
import type { ScopeStep } from "../dimensions/step-scope.ts";

/** A step from a frame's window of time to another one. */
export type TimeStep =
  /** The span that ends with (or holds) the window's as-of month. `whole`: absent until every month of it has figures. */
  | { readonly do: "span"; readonly span: Span; readonly whole: boolean }
  /** The same months a number of months earlier; later where it is negative. */
  | { readonly do: "back"; readonly months: number }
  /** The span of the same kind just before. */
  | { readonly do: "prior-period" }
  /** The first or last month of the window. */
  | { readonly do: "first" }
  | { readonly do: "last" };

/** How an input looks at the data, as steps from the frame it is evaluated in. */
export interface View {
  /** A scenario's key, or "forecast" for the latest known then; `null` for the side's own. */
  readonly scenario: string | null;
  readonly time: readonly TimeStep[];
  readonly scope: readonly ScopeStep[];
  /**
   * Views on windows of one kind are measured like for like, on the months that all of them
   * cover; a part of a formula that is said to stand on months of its own has a number here.
   */
  readonly apart: number;
}

/** The frame as it is. */
export const PLAIN_VIEW: View = { scenario: null, time: [], scope: [], apart: 0 };

/** Whether a view looks at the frame as it is. */
export function isPlain(view: View): boolean {
  return view.scenario === null && view.time.length === 0 && view.scope.length === 0;
}
