import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { packSchema, type PackDefinition, type PageDefinition, type PanelDefinition } from "#contract/pack.ts";
import { callApi } from "../app/api.ts";
import { panelPath, panelsPath } from "../panels/panel-place.ts";

/** Putting panels on a page and taking them off, with a way back to the last one taken off. */
export function usePagePanels(pack: PackDefinition, page: PageDefinition) {
  const client = useQueryClient();
  const [taken, setTaken] = useState<PanelDefinition | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const place = { pack: pack.key, page: page.key };
  const change = async (path: string, method: "POST" | "DELETE", body?: PanelDefinition): Promise<boolean> => {
    setProblem(null);
    try {
      const changed = await callApi(path, packSchema, { method, ...(body ? { body } : {}) });
      client.setQueryData<PackDefinition>(["pack", pack.key], { ...changed, name: pack.name });
      return true;
    } catch (error) {
      setProblem((error as Error).message);
      return false;
    }
  };
  return {
    add: (panel: PanelDefinition) => change(panelsPath(place), "POST", panel),
    remove: async (panel: PanelDefinition) => {
      if (await change(panelPath({ ...place, panel: panel.key }), "DELETE")) setTaken(panel);
    },
    /** Puts back what was taken off last; `null` when nothing was. */
    putBack: taken
      ? async () => {
          if (await change(panelsPath(place), "POST", taken)) setTaken(null);
        }
      : null,
    problem,
  };
}

/** Tiles of the KPIs that a page shows already. */
export function tilesOf(page: PageDefinition, kpis: readonly string[]): PanelDefinition {
  const keys = new Set(page.panels.map((p) => p.key));
  let key = "tiles";
  for (let n = 2; keys.has(key); n += 1) key = `tiles-${n}`;
  return { key, kind: "tiles", kpis: [...kpis], repeatBy: null, order: "set", isReversed: false, top: null };
}
