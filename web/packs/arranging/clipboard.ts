import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { PanelToPut } from "../editing/page-edits.ts";

interface PanelClipboard {
  readonly panels: readonly PanelToPut[];
  readonly put: (panels: readonly PanelToPut[]) => void;
}

/** Panels that were copied or cut, to be pasted on any page of any pack, in this window or another. */
export const usePanelClipboard = create<PanelClipboard>()(
  persist((set) => ({ panels: [], put: (panels) => set({ panels }) }), { name: "hackle-clipboard" }),
);
