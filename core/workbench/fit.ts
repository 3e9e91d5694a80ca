import { fits, type Fit } from "../panels/attempt.ts";
import { PANEL_KINDS, PANEL_SCHEMAS, type PanelDefinition, type PanelKind } from "../panels/schemas.ts";
import type { Attempt } from "./attempt.ts";

/** All kinds with how they show an attempt, the fittest first, those that cannot last. */
export function fittingKinds(attempt: Attempt): { readonly kind: PanelKind; readonly fit: Fit<PanelDefinition> }[] {
  const rank = (fit: Fit<PanelDefinition>) => (fits(fit) ? fit.fitness : -1);
  return PANEL_KINDS.map((kind) => ({ kind, fit: PANEL_SCHEMAS[kind].fit(attempt) as Fit<PanelDefinition> })).sort(
    (a, b) => rank(b.fit) - rank(a.fit),
  );
}

/** The panel of an attempt: of its own kind where that can show it, else of the fittest. */
export function attemptPanel(attempt: Attempt): { readonly panel: PanelDefinition; readonly why: string | null } {
  const kinds = fittingKinds(attempt);
  const wanted = kinds.find(({ kind }) => kind === attempt.kind);
  if (wanted && fits(wanted.fit)) return { panel: wanted.fit.panel, why: null };
  const best = kinds.find(({ fit }) => fits(fit))!;
  return {
    panel: (best.fit as Extract<Fit<PanelDefinition>, { panel: PanelDefinition }>).panel,
    why: wanted && !fits(wanted.fit) ? wanted.fit.unfit : null,
  };
}
