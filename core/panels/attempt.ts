/** What is to be shown: KPIs, perhaps split by the members of a level. */
export interface Shown {
  readonly kpis: readonly string[];
  readonly split: { readonly dimension: string; readonly level: string | null } | null;
}

/** Whether a kind of panel can show something, and how well from 0 to 1; or why it cannot. */
export type Fit<Definition> = { readonly fitness: number; readonly panel: Definition } | { readonly unfit: string };

/** Whether there is a panel. */
export function fits<D>(fit: Fit<D>): fit is Extract<Fit<D>, { panel: D }> {
  return "panel" in fit;
}

/** The key of a panel that is tried and stands on no page. */
export const ATTEMPT_KEY = "attempt";

/** How members stand where nobody said. */
export const ARRANGED = { order: "value", isReversed: false, top: null } as const;
