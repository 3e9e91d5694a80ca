import type { FrameChoices } from "#contract/frame-choices.ts";
import { readablePanels, type Page } from "#contract/pack.ts";
import { referencesOf, type PanelKind } from "#contract/panels/index.ts";
import type { NewPanel } from "../../panels/panel-view.ts";

/** As many KPIs as fill a panel without being too many to read. */
const FIRST_KPIS = 10;

/** What a new panel of a page is made of: the KPIs that the page shows already; of an empty page the first of the library. */
export function newPanelFor(page: Page, { kpis, dimensions }: FrameChoices, kind: PanelKind): NewPanel {
  const shown = [...new Set(readablePanels(page).flatMap(({ definition }) => referencesOf(definition).kpis))].filter(
    (key) => kpis.some((kpi) => kpi.key === key),
  );
  return {
    key: kind,
    kpis: shown.length > 0 ? shown : kpis.slice(0, FIRST_KPIS).map(({ key }) => key),
    dimensions,
  };
}
