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
      // Another panel may stand under a key that was in use before: its figures are asked anew.
      client.removeQueries({
        predicate: ({ queryKey: [kind] }) => kind === "panel" || kind === "member-rows",
        type: "inactive",
      });
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

/** New panels for a page, each with KPIs to begin with, under keys that are free there. */
export function newPanels(page: PageDefinition, kpis: readonly string[]) {
  const taken = new Set(page.panels.map((p) => p.key));
  const free = (kind: string) => {
    let key = kind;
    for (let n = 2; taken.has(key); n += 1) key = `${kind}-${n}`;
    return key;
  };
  return {
    tiles: (): PanelDefinition => ({
      key: free("tiles"),
      kind: "tiles",
      kpis: [...kpis],
      repeatBy: null,
      order: "set",
      isReversed: false,
      top: null,
    }),
    scorecard: (): PanelDefinition => ({
      key: free("scorecard"),
      kind: "scorecard",
      groups: [{ title: "KPIs", kpis: [...kpis] }],
    }),
    chart: (): PanelDefinition => ({ key: free("over-time"), kind: "time-chart", kpi: kpis[0]! }),
  };
}
