import type { Month } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import type { OutlookSource } from "../formula/outlook-source.ts";
import type { Scope } from "../dimensions/scope.ts";

/** What the actual is compared with: a scenario, the latest forecast known at the time, or the past. */
export type Basis =
  | { readonly kind: "scenario"; readonly scenario: string }
  | { readonly kind: "latest-forecast" }
  | { readonly kind: "prior-year" }
  | { readonly kind: "prior-period" };

/** What a page looks at. The unit is a matter of words and stays with the reader. */
export interface Frame {
  readonly asOf: Month;
  readonly span: Span;
  readonly basis: Basis;
  readonly scope: Scope;
  /** The version that is looked at in the place of the actual. */
  readonly shown?: string;
  /** Where the months come from that are not closed; the latest forecast, else the budget, where nothing is said. */
  readonly outlook?: OutlookSource;
}

/** Reads "prior-year", "prior-period", "forecast" or a scenario's key. */
export function parseBasis(text: string, scenarioKeys: ReadonlySet<string>): Basis | undefined {
  if (text === "prior-year" || text === "prior-period") return { kind: text };
  if (text === "forecast") return { kind: "latest-forecast" };
  return scenarioKeys.has(text) && text !== "actual" ? { kind: "scenario", scenario: text } : undefined;
}

/** Writes a basis in the form `parseBasis` reads. */
export function formatBasis(basis: Basis): string {
  if (basis.kind === "scenario") return basis.scenario;
  return basis.kind === "latest-forecast" ? "forecast" : basis.kind;
}
