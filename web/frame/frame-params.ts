import { useMemo } from "react";
import { useSearchParams } from "react-router";
import { FRAME_KEYS, presentIn, readFrame, type FrameAddress } from "#contract/frame-address.ts";
import { choiceName } from "#contract/page-answers.ts";
import { PANEL_CHOICES } from "#core/panels/schemas.ts";
import { useSearchChange } from "./address-changes.ts";
import type { PanelChoice } from "../client/asked-panel.ts";

/** The members that a click picked: the page follows them, or shows their part. */
const PICKED_KEYS = ["narrow", "weigh"] as const;

/** The two ways in which a page follows a click. */
export type PickWay = (typeof PICKED_KEYS)[number];
/** What was picked, in the form of a scope. */
export type Picked = Readonly<Partial<Record<PickWay, string | undefined>>>;

/** What a link to another page keeps: the frame, and what was picked. */
export function keepView(search: URLSearchParams, change: Picked = {}): string {
  const kept = { ...presentIn(search, FRAME_KEYS), ...presentIn(search, PICKED_KEYS), ...change };
  const params = new URLSearchParams(
    Object.entries(kept).filter((entry): entry is [string, string] => entry[1] !== undefined && entry[1] !== ""),
  );
  return params.size === 0 ? "" : `?${params.toString()}`;
}

/** What is open beside the page: whose origin, in which scope; whether it is arranged; which panel's settings. */
export type ViewKey = "figure" | "at" | "arrange" | "settings";

/** What a page is looked at with: its frame, what is picked, what was chosen of its panels. */
export interface PageLens {
  readonly frame: FrameAddress;
  readonly picked: Picked;
  readonly choice: (panel: string) => PanelChoice;
}

/** The frame and view as they stand in the address, which is their only home. */
export interface FrameParams extends PageLens {
  readonly setFrame: (change: FrameAddress | ((now: FrameAddress) => FrameAddress)) => void;
  /** Starts the frame anew from its defaults, with what is given; nothing is picked any more. */
  readonly resetFrame: (change?: FrameAddress) => void;
  readonly setPicked: (change: (now: Picked) => Picked) => void;
  readonly view: (key: ViewKey) => string | undefined;
  readonly setView: (change: Partial<Record<ViewKey, string | undefined>>) => void;
  readonly setChoice: (panel: string, change: PanelChoice) => void;
  /** Chooses of several panels at once. */
  readonly setChoices: (changes: Readonly<Record<string, PanelChoice>>) => void;
}

export function useFrameParams(): FrameParams {
  const [params] = useSearchParams();
  const text = params.toString();
  const lens = useMemo(() => readLens(new URLSearchParams(text)), [text]);
  const change = useSearchChange();
  const setters = useMemo(() => settersOf(change), [change]);
  return { ...lens, view: (key) => params.get(key) ?? undefined, ...setters };
}

/** What an address' search says of what is looked at. */
export function readLens(search: URLSearchParams): PageLens {
  return {
    frame: readFrame(search),
    picked: presentIn(search, PICKED_KEYS),
    choice: (panel) =>
      Object.fromEntries(
        PANEL_CHOICES.flatMap((part) => {
          const chosen = search.get(choiceName(panel, part));
          return chosen === null ? [] : [[part, chosen]];
        }),
      ),
  };
}

/** What changes the address. */
function settersOf(
  change: ReturnType<typeof useSearchChange>,
): Pick<FrameParams, "setFrame" | "resetFrame" | "setPicked" | "setView" | "setChoice" | "setChoices"> {
  const setChoices: FrameParams["setChoices"] = (changes) =>
    change(
      () =>
        Object.fromEntries(
          Object.entries(changes).flatMap(([panel, parts]) =>
            Object.entries(parts).map(([part, chosen]) => [choiceName(panel, part), chosen] as const),
          ),
        ),
      { replace: true },
    );
  return {
    setFrame: (changes) =>
      change((now) => ({ ...(typeof changes === "function" ? changes(readFrame(now)) : changes) }), { replace: false }),
    resetFrame: (changes = {}) =>
      change(
        () => ({ ...Object.fromEntries([...FRAME_KEYS, ...PICKED_KEYS].map((key) => [key, undefined])), ...changes }),
        { replace: false },
      ),
    setPicked: (next) => change((now) => next(presentIn(now, PICKED_KEYS)), { replace: false }),
    setView: (changes) => change(() => changes, { replace: true }),
    setChoice: (panel, changes) => setChoices({ [panel]: changes }),
    setChoices,
  };
}
