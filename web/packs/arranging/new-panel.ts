import type { FrameChoices } from "#contract/frame-choices.ts";
import { readablePanels, type Page } from "#contract/pack.ts";
import { referencesOf, type PanelKind } from "#core/panels/schemas.ts";
import { viewOf } from "../../panels/index.ts";
import type { NewPanel } from "../../panel-frame/panel-view.ts";

/** As many KPIs as fill a panel without being too many to read. */
const FIRST_KPIS = 10;

/** What a new panel of a page is made of: the KPIs that the page shows already; of an empty page the first of the library. */
export function newPanelFor(page: Page, { kpis, dimensions }: FrameChoices, kind: PanelKind): NewPanel {
  const shown = [...new Set(readablePanels(page).flatMap(({ definition }) => referencesOf(definition).kpis))].filter(
    (key) => kpis.some((kpi) => kpi.key === key),
  );
  const first = shown.length > 0 ? shown : kpis.slice(0, FIRST_KPIS).map(({ key }) => key);
  return {
    key: kind,
    kpis: first,
    otherKpis: kpis.map(({ key }) => key).filter((key) => !first.includes(key)),
    dimensions,
  };
}

/** Why no panel of a kind can be put on a page; `null` where one can. */
export function lackOf({ kpis, dimensions }: FrameChoices, kind: PanelKind): string | null {
  if (kpis.length === 0 && kind !== "text")
    return "This panel shows KPIs, and there are none yet: add one, or load a file.";
  const all = kpis.map(({ key }) => key);
  return viewOf(kind).lacks?.({ key: kind, kpis: all, otherKpis: [], dimensions }) ?? null;
}
