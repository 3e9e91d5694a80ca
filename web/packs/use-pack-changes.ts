import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Pack, PackChanged, PlacedPanel } from "#contract/pack.ts";
import type { PanelDefinition } from "#contract/panels/index.ts";
import { ApiProblem, call } from "../app/api.ts";
import { answerKey } from "../app/questions.ts";

/** Two people's versions of one panel: what is kept now, and what one wanted. */
export interface PanelConflict {
  readonly message: string;
  readonly current: PlacedPanel | null;
  readonly yours: PanelDefinition | null;
}

/** The changes that can be taken back, and those that can be made again; the last one first to go. */
interface Steps {
  readonly past: readonly number[];
  readonly future: readonly number[];
}

/**
 * Changes of a page's panels: each is saved as it is made, on top of the version it was made from, and can be
 * taken back and made again. Where somebody else changed the same panel meanwhile, both versions are told.
 */
export function usePackChanges(pack: Pack, page: string) {
  const client = useQueryClient();
  // Held beside what is drawn: a second press of Undo may come before the first was answered.
  const steps = useRef<Steps>({ past: [], future: [] });
  const [{ past, future }, setShown] = useState<Steps>(steps.current);
  const setSteps = (next: Steps) => {
    steps.current = next;
    setShown(next);
  };
  const [problem, setProblem] = useState<string | null>(null);
  const [conflict, setConflict] = useState<PanelConflict | null>(null);
  const [isSaving, setSaving] = useState(false);
  const key = answerKey("pack", { params: { pack: pack.key } });
  // Changes are sent one after the other: each on top of what the one before it led to.
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  // What was changed and not yet answered is shown over whatever answer comes first: what is changed next starts there.
  const unanswered = useRef<readonly PanelDefinition[]>([]);
  const refusals = useRef(0);
  const show = (known: Pack) =>
    client.setQueryData<Pack>(
      key,
      unanswered.current.reduce((pack, panel) => withPanel(pack, page, panel), known),
    );
  const latest = () => client.getQueryData<Pack>(key) ?? pack;
  const versionOf = (panel: string) =>
    latest()
      .pages.find((p) => p.key === page)
      ?.panels.find((p) => p.key === panel)?.version ?? 1;

  const run = (
    send: () => Promise<PackChanged>,
    done: (change: number | null) => void,
    settled?: () => void,
  ): Promise<boolean> => {
    const next = queue.current.then(async () => {
      setProblem(null);
      setSaving(true);
      try {
        const changed = await send();
        settled?.();
        show(changed.pack);
        await client.invalidateQueries({ predicate: ({ queryKey: [id] }) => FOLLOWING.includes(String(id)) });
        done(changed.change);
        return true;
      } catch (error) {
        settled?.();
        refusals.current += 1;
        if (error instanceof ApiProblem && error.both)
          setConflict({ message: error.message, ...error.both } as PanelConflict);
        else setProblem((error as Error).message);
        await client.invalidateQueries({ queryKey: key });
        return false;
      } finally {
        setSaving(false);
      }
    });
    queue.current = next;
    return next;
  };
  const remember = (change: number | null) => {
    if (change === null) return;
    setSteps({ past: [...steps.current.past, change], future: [] });
  };
  const params = (panel: string) => ({ pack: pack.key, page, panel });
  /** Takes the last change of one side back; what that made goes to the other side. */
  const step = (from: keyof Steps, to: keyof Steps) =>
    void run(
      () => {
        const change = steps.current[from].at(-1);
        if (change === undefined) return Promise.resolve({ pack: latest(), change: null });
        return call("undoPackChange", { params: { pack: pack.key, change } });
      },
      (undone) => {
        if (undone === null) return;
        const { [from]: source, [to]: target } = steps.current;
        setSteps({ ...steps.current, [from]: source.slice(0, -1), [to]: [...target, undone] });
      },
    );
  const save = (next: PanelDefinition) => {
    setConflict(null);
    unanswered.current = [...unanswered.current, next];
    show(latest());
    const madeAfter = refusals.current;
    return run(
      () => {
        if (madeAfter === refusals.current)
          return call("changePanel", { params: params(next.key), body: { panel: next, version: versionOf(next.key) } });
        // Made on top of what was refused meanwhile: it must not go over the other's version unasked.
        setConflict((known) => known && { ...known, yours: next });
        return Promise.resolve({ pack: latest(), change: null });
      },
      remember,
      () => (unanswered.current = unanswered.current.filter((panel) => panel !== next)),
    );
  };
  return {
    save,
    add: (panel: PanelDefinition) =>
      run(() => call("addPanel", { params: { pack: pack.key, page }, body: { panel } }), remember),
    remove: (panel: string) =>
      run(() => call("removePanel", { params: params(panel), query: { version: versionOf(panel) } }), remember),
    undo: past.length === 0 ? null : () => step("past", "future"),
    redo: future.length === 0 ? null : () => step("future", "past"),
    /** Takes any change of the page back, whoever made it. */
    takeBack: (change: number) =>
      void run(() => call("undoPackChange", { params: { pack: pack.key, change } }), remember),
    problem,
    isSaving,
    conflict,
    /** Lets the other's version stand. */
    takeTheirs: () => setConflict(null),
    /** Makes one's own version on top of the other's. */
    keepMine: () => conflict?.yours && void save(conflict.yours),
  };
}

export type PackChanges = ReturnType<typeof usePackChanges>;

/** What is asked anew when a page changed. */
const FOLLOWING = ["panel", "panelDetail", "kpis", "packs", "pageHistory"];

function withPanel(pack: Pack, page: string, next: PanelDefinition): Pack {
  return {
    ...pack,
    pages: pack.pages.map((own) =>
      own.key === page
        ? { ...own, panels: own.panels.map((p) => (p.key === next.key ? { ...next, version: p.version } : p)) }
        : own,
    ),
  };
}
