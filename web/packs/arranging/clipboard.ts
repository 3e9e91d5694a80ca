import { create } from "zustand";
import type { PanelToPut } from "../editing/page-edits.ts";

/** Panels that were copied or cut, to be pasted on any page of any pack. */
export const usePanelClipboard = create<{
  readonly panels: readonly PanelToPut[];
  readonly put: (panels: readonly PanelToPut[]) => void;
}>()((set) => ({ panels: [], put: (panels) => set({ panels }) }));
