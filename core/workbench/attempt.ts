import type { PanelKind } from "../panels/kinds.ts";
import type { RepeatBy } from "../panels/parts/repetition.ts";

/** What is looked at in the workbench: KPIs, perhaps split by the members of a level, drawn as some kind. */
export interface Attempt {
  readonly kpis: readonly string[];
  readonly split: RepeatBy | null;
  /** `null` takes the kind that fits best. */
  readonly kind: PanelKind | null;
}

/** Whether a kind of panel can show an attempt, and how well from 0 to 1; or why it cannot. */
export type Fit<Definition> = { readonly fitness: number; readonly panel: Definition } | { readonly unfit: string };

/** Whether there is a panel. */
export function fits<D>(fit: Fit<D>): fit is Extract<Fit<D>, { panel: D }> {
  return "panel" in fit;
}
