import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { packSchema, type PackDefinition, type PanelDefinition } from "#contract/pack.ts";
import { callApi } from "../../app/api.ts";
import { panelPath, type PanelPlace } from "../panel-place.ts";

/** Saves arrangements in order, each seen at once, with a way back and forth. */
export function useArranging(place: PanelPlace, panel: PanelDefinition | null) {
  const client = useQueryClient();
  const [past, setPast] = useState<readonly PanelDefinition[]>([]);
  const [future, setFuture] = useState<readonly PanelDefinition[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const key = ["pack", place.pack];
  // Changes are sent one after the other: the last one made is the one that stays.
  const queue = useRef(Promise.resolve());
  const put = (next: PanelDefinition) => {
    setProblem(null);
    client.setQueryData<PackDefinition>(key, (pack) => pack && withPanel(pack, place, next));
    queue.current = queue.current.then(() => send(next));
  };
  const send = async (next: PanelDefinition) => {
    try {
      await callApi(panelPath(place), packSchema, { method: "PUT", body: next });
      await client.invalidateQueries({
        predicate: (q) => ["panel", "member-rows", "kpis"].includes(String(q.queryKey[0])),
      });
    } catch (error) {
      setProblem((error as Error).message);
      await client.invalidateQueries({ queryKey: key });
    }
  };
  const step = (from: readonly PanelDefinition[], isBack: boolean) => {
    const next = isBack ? from.at(-1) : from[0];
    if (!next || !panel) return;
    setPast(isBack ? past.slice(0, -1) : [...past, panel]);
    setFuture(isBack ? [panel, ...future] : future.slice(1));
    put(next);
  };
  return {
    save: (next: PanelDefinition) => {
      if (!panel) return;
      setPast([...past, panel]);
      setFuture([]);
      put(next);
    },
    undo: () => step(past, true),
    redo: () => step(future, false),
    canUndo: past.length > 0,
    canRedo: future.length > 0,
    problem,
  };
}

function withPanel(pack: PackDefinition, place: PanelPlace, next: PanelDefinition): PackDefinition {
  return {
    ...pack,
    pages: pack.pages.map((page) =>
      page.key === place.page ? { ...page, panels: page.panels.map((p) => (p.key === place.panel ? next : p)) } : page,
    ),
  };
}
