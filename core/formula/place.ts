import type { ScopeStep } from "../dimensions/step-scope.ts";
import { PLAIN_VIEW, type TimeStep, type View } from "./view.ts";
import type { Gathering } from "./node.ts";

/** Where in a formula a name stands: the view it is read in, and how balances are gathered there. */
export interface Place {
  readonly view: View;
  readonly gathering: Gathering | null;
}

/** The formula as a whole. */
export const TOP: Place = { view: PLAIN_VIEW, gathering: null };

/** A place one step of time away. Steps apply from the outermost function inwards. */
export function inTime(place: Place, ...steps: readonly TimeStep[]): Place {
  return { ...place, view: { ...place.view, time: [...place.view.time, ...steps] } };
}

/** A place with another scope. */
export function inScope(place: Place, ...steps: readonly ScopeStep[]): Place {
  return { ...place, view: { ...place.view, scope: [...place.view.scope, ...steps] } };
}

/** A place in another scenario. */
export function inScenario(place: Place, scenario: string): Place {
  return { ...place, view: { ...place.view, scenario } };
}

/** A place measured on months of its own, whatever other parts of the formula cover. */
export function onOwnMonths(place: Place, part: number): Place {
  return { ...place, view: { ...place.view, apart: part } };
}

/** A place where balances are gathered in a said way. */
export function gathering(place: Place, how: Gathering): Place {
  return { ...place, gathering: how };
}
