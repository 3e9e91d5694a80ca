import { useState } from "react";
import { align, type Alignment } from "#core/layout/align.ts";
import { move, resize, type Step } from "#core/layout/step.ts";
import { applyPattern, closeUpWithOpen, openKey, type OpenPlace, type Pattern } from "#core/layout/patterns.ts";
import type { Place, Places } from "#core/layout/place.ts";
import type { Records } from "#core/history/records-diff.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { PageLook } from "#contract/page-look.ts";
import type { Pack, Page } from "#contract/pack.ts";
import { asKind } from "#core/panels/as-kind.ts";
import type { PanelDefinition, PanelKind } from "#core/panels/schemas.ts";
import { useFrameParams } from "../../frame/frame-params.ts";
import { viewOf } from "../../panels/index.ts";
import type { PackEditor } from "../editing/pack-editor.ts";
import {
  copyOf,
  panelToPut,
  placesOn,
  putPanels,
  withLook,
  withoutPanels,
  withPanel,
  withPlaces,
  type PanelToPut,
} from "../editing/page-edits.ts";
import { usePanelClipboard } from "./clipboard.ts";
import { newPanelFor } from "./new-panel.ts";

/** What can be done with a page that is arranged. */
export interface Arranging {
  readonly chosen: readonly string[];
  readonly choose: (keys: readonly string[]) => void;
  readonly toggle: (key: string) => void;
  /** Opens the settings of a panel. */
  readonly settings: (key: string) => void;
  readonly add: (kind: PanelKind, place?: Place) => void;
  readonly fill: (open: number, kind: PanelKind) => void;
  readonly put: (panels: readonly PanelToPut[]) => void;
  /** Puts panels in other places; one that is dropped into an open place fills it. */
  readonly place: (places: Places, open: readonly OpenPlace[], filled?: number) => void;
  readonly step: (keys: readonly string[], step: Step, way: "move" | "resize") => void;
  readonly align: (alignment: Alignment) => void;
  readonly remove: (keys: readonly string[]) => void;
  readonly duplicate: (keys: readonly string[]) => void;
  readonly copy: (keys: readonly string[]) => void;
  readonly cut: (keys: readonly string[]) => void;
  readonly paste: () => void;
  readonly arrange: (panel: PanelDefinition) => void;
  readonly changeKind: (panel: PanelDefinition, kind: PanelKind) => void;
  readonly pattern: (pattern: Pattern) => void;
  /** Repeats a panel by the members of a dimension, side by side. */
  readonly repeat: (panels: readonly PanelToPut[], places: readonly OpenPlace[]) => void;
  readonly look: (change: Partial<PageLook>) => void;
}

/** Arranges one page of a pack. */
export function useArranging(pack: Pack, page: Page, choices: FrameChoices, editor: PackEditor): Arranging {
  const { setView } = useFrameParams();
  const clipboard = usePanelClipboard();
  const [chosenKeys, choose] = useState<readonly string[]>([]);
  const chosen = chosenKeys.filter((key) => page.panels.some((panel) => panel.key === key));
  const at = { pack: pack.key, page: page.key };
  const open = page.look.open ?? [];
  const edit = (change: (records: Records) => Records) => editor.edit(change);

  /** Puts panels on the page, chooses them, and opens the settings of one alone. */
  const put = (panels: readonly PanelToPut[], openAfter = open) => {
    let keys: string[] = [];
    edit((records) => {
      const made = putPanels(records, at, panels);
      keys = made.keys;
      const next = openAfter === open ? made.records : withOpen(made.records, at, openAfter);
      return closedUp(next, at, openAfter, keys);
    });
    choose(keys);
    if (keys.length === 1) setView({ settings: keys[0] });
  };
  const create = (kind: PanelKind) => viewOf(kind).create(newPanelFor(page, choices, kind));

  return {
    chosen,
    choose,
    toggle: (key) => choose(chosen.includes(key) ? chosen.filter((k) => k !== key) : [...chosen, key]),
    settings: (key) => {
      choose([key]);
      setView({ settings: key });
    },
    add: (kind, place) => put([panelToPut(create(kind), place)]),
    fill: (index, kind) => put([panelToPut(create(kind), open[index]!.place)], open.toSpliced(index, 1)),
    put,
    place: (places, openPlaces, filled) =>
      void edit((records) => {
        const left = filled === undefined ? openPlaces : openPlaces.toSpliced(filled, 1);
        return closedUp(withOpen(withPlaces(records, at, places), at, left), at, left);
      }),
    step: (keys, step, way) =>
      void edit((records) => {
        const all = { ...placesOn(records, at), ...openPlacesOf(open) };
        const next = (way === "move" ? move : resize)(all, keys, step);
        const left = open.map((one, i) => ({ ...one, place: next[openKey(i)]! }));
        return withOpen(withPlaces(records, at, next), at, left);
      }),
    align: (alignment) =>
      void edit((records) => withPlaces(records, at, align(placesOn(records, at), chosen, alignment))),
    remove: (keys) => {
      edit((records) => closedUp(withoutPanels(records, at, keys), at, open));
      setView({ settings: undefined });
    },
    duplicate: (keys) => put(copyOf(page, keys)),
    copy: (keys) => clipboard.put(copyOf(page, keys)),
    cut: (keys) => {
      clipboard.put(copyOf(page, keys));
      edit((records) => closedUp(withoutPanels(records, at, keys), at, open));
      setView({ settings: undefined });
    },
    paste: () => {
      if (clipboard.panels.length > 0) put(clipboard.panels);
    },
    arrange: (panel) => void edit((records) => withPanel(records, at, panel)),
    changeKind: (panel, kind) =>
      void edit((records) => withPanel(records, at, asKind(panel, { ...create(kind), key: panel.key }))),
    pattern: ({ places }) => {
      const placeable = page.panels.map(({ key, definition, place }) => ({ key, kind: definition.kind, place }));
      const laid = applyPattern(places, placeable);
      edit((records) => withOpen(withPlaces(records, at, laid.places), at, laid.open));
    },
    repeat: (panels, places) => {
      edit((records) => {
        const laid = applyPattern(places, []);
        const height = Math.max(0, ...laid.open.map(({ place }) => place.y + place.h));
        const below = Object.fromEntries(
          Object.entries(placesOn(records, at)).map(([key, place]) => [key, { ...place, y: place.y + height }]),
        );
        const put = panels.map((panel, i) => ({ ...panel, place: places[i]!.place }));
        return closedUp(putPanels(withPlaces(records, at, below), at, put).records, at, open);
      });
      choose([]);
    },
    look: (change) => void edit((records) => withLook(records, at, change)),
  };
}

function openPlacesOf(open: readonly OpenPlace[]): Places {
  return Object.fromEntries(open.map((one, i) => [openKey(i), one.place]));
}

function withOpen(records: Records, at: { pack: string; page: string }, open: readonly OpenPlace[]): Records {
  return withLook(records, at, { open: open.length === 0 ? undefined : open });
}

/** Panels and open places closed up together. */
function closedUp(
  records: Records,
  at: { pack: string; page: string },
  open: readonly OpenPlace[],
  first: readonly string[] = [],
): Records {
  const closed = closeUpWithOpen(placesOn(records, at), open, first);
  return withOpen(withPlaces(records, at, closed.places), at, closed.open);
}
