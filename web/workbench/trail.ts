import { create } from "zustand";

/** What was tried in the workbench, in the order in which it was tried, and where one is in it. */
interface Trail {
  readonly tried: readonly string[];
  readonly at: number;
  /** Notes what is looked at: what lay ahead is dropped, unless it is a step along the trail. */
  readonly note: (search: string) => void;
  readonly go: (to: number) => void;
}

const MOST_TRIED = 50;

export const useTrail = create<Trail>()((set) => ({
  tried: [],
  at: -1,
  note: (search) =>
    set(({ tried, at }) => {
      if (tried[at] === search) return { tried, at };
      const step = [at - 1, at + 1].find((other) => tried[other] === search);
      if (step !== undefined) return { tried, at: step };
      const next = [...tried.slice(0, at + 1), search].slice(-MOST_TRIED);
      return { tried: next, at: next.length - 1 };
    }),
  go: (to) => set({ at: to }),
}));
