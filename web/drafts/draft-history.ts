import { create } from "zustand";
import type { Definition } from "#contract/intake.ts";

interface History {
  readonly past: readonly Definition[];
  readonly future: readonly Definition[];
}

interface DraftHistories {
  readonly byDraft: Readonly<Record<number, History>>;
  /** Remembers what a definition was before a change. */
  readonly record: (draft: number, before: Definition) => void;
  /** Steps back; returns what the definition was, or `undefined` at the beginning. */
  readonly undo: (draft: number, now: Definition) => Definition | undefined;
  readonly redo: (draft: number, now: Definition) => Definition | undefined;
}

const EMPTY: History = { past: [], future: [] };
const MOST_STEPS = 200;

/** Undo and redo of the changes made to drafts, as long as the window is open. */
export const useDraftHistories = create<DraftHistories>()((set, get) => {
  const put = (draft: number, history: History) => set({ byDraft: { ...get().byDraft, [draft]: history } });
  return {
    byDraft: {},
    record: (draft, before) =>
      put(draft, { past: [...(get().byDraft[draft] ?? EMPTY).past, before].slice(-MOST_STEPS), future: [] }),
    undo: (draft, now) => {
      const { past, future } = get().byDraft[draft] ?? EMPTY;
      const before = past.at(-1);
      if (before) put(draft, { past: past.slice(0, -1), future: [now, ...future] });
      return before;
    },
    redo: (draft, now) => {
      const { past, future } = get().byDraft[draft] ?? EMPTY;
      const next = future[0];
      if (next) put(draft, { past: [...past, now], future: future.slice(1) });
      return next;
    },
  };
});
