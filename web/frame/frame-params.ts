import { useCallback, useMemo } from "react";
import { useSearchParams } from "react-router";
import { choiceName } from "#contract/page-answers.ts";
import { PANEL_CHOICES } from "#contract/panels/index.ts";
import type { FrameAddress, PanelChoice } from "../app/questions.ts";

const FRAME_KEYS = ["asOf", "span", "basis", "scope", "unit"] as const;

/** The frame of a page: it starts from what the pack and the page say, and goes on from there by the address. */
export function frameOfPage(
  place: { readonly pack: string; readonly page: string },
  frame: FrameAddress,
): FrameAddress {
  return { ...place, ...frame };
}

/** The frame that an address's search has. */
export function readFrame(search: URLSearchParams): FrameAddress {
  return Object.fromEntries(FRAME_KEYS.flatMap((key) => (search.has(key) ? [[key, search.get(key)!]] : [])));
}

/** What is open beside the page: whose origin, in which scope, or which panel's arrangement. */
export type ViewKey = "figure" | "at" | "arrange";

/** The frame and view as they stand in the address, which is their only home. */
export function useFrameParams(): {
  frame: FrameAddress;
  setFrame: (change: FrameAddress) => void;
  /** Starts the frame anew from its defaults, with what is given. */
  resetFrame: (change?: FrameAddress) => void;
  view: (key: ViewKey) => string | undefined;
  setView: (change: Partial<Record<ViewKey, string | undefined>>) => void;
  /** What was chosen of a panel, and how to choose otherwise. */
  choice: (panel: string) => PanelChoice;
  setChoice: (panel: string, change: PanelChoice) => void;
} {
  const [params, setParams] = useSearchParams();
  const text = params.toString();
  const frame = useMemo(() => readFrame(new URLSearchParams(text)), [text]);
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
    choice: (panel) =>
      Object.fromEntries(
        PANEL_CHOICES.flatMap((part) => {
          const chosen = params.get(choiceName(panel, part));
          return chosen === null ? [] : [[part, chosen]];
        }),
      ),
    setChoice: (panel, changes) =>
      change(
        Object.fromEntries(Object.entries(changes).map(([part, chosen]) => [choiceName(panel, part), chosen])),
        true,
      ),
  };
}
