import { useCallback, useMemo } from "react";
import { useSearchParams } from "react-router";
import type { FrameParams } from "../app/questions.ts";

const FRAME_KEYS = ["asOf", "span", "basis", "scope", "unit"] as const;

/** What is looked at beside the frame: the chosen KPI, how it is drawn, and whose origin is open. */
export type ViewKey = "kpi" | "marks" | "table" | "figure" | "arrange";

/** The frame and view as they stand in the address, which is their only home. */
export function useFrameParams(): {
  frame: FrameParams;
  setFrame: (change: FrameParams) => void;
  /** Starts the frame anew from its defaults, with what is given. */
  resetFrame: (change?: FrameParams) => void;
  view: (key: ViewKey) => string | undefined;
  setView: (change: Partial<Record<ViewKey, string | undefined>>) => void;
} {
  const [params, setParams] = useSearchParams();
  const text = params.toString();
  const frame = useMemo(() => {
    const read = new URLSearchParams(text);
    return Object.fromEntries(FRAME_KEYS.flatMap((key) => (read.has(key) ? [[key, read.get(key)!]] : [])));
  }, [text]);
  const change = useCallback(
    (changes: Readonly<Record<string, string | undefined>>, replace: boolean) => {
      setParams(
        (current) => {
          const next = new URLSearchParams(current);
          for (const [key, value] of Object.entries(changes))
            value === undefined ? next.delete(key) : next.set(key, value);
          return next;
        },
        { replace },
      );
    },
    [setParams],
  );
  return {
    frame,
    setFrame: (changes) => change(changes, false),
    resetFrame: (changes = {}) =>
      change({ ...Object.fromEntries(FRAME_KEYS.map((key) => [key, undefined])), ...changes }, false),
    view: (key) => params.get(key) ?? undefined,
    setView: (changes) => change(changes, true),
  };
}
