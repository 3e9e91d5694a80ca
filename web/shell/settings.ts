import { create } from "zustand";
import { persist } from "zustand/middleware";

export type Theme = "light" | "dark";

interface Settings {
  /** `null` follows the system. */
  readonly theme: Theme | null;
  readonly setTheme: (theme: Theme) => void;
}

/** What a reader has set for themselves, kept in the browser. */
export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      theme: null,
      setTheme: (theme) => set({ theme }),
    }),
    { name: "hackle-settings" },
  ),
);

interface Overlays {
  readonly open: "palette" | "shortcuts" | null;
  readonly show: (open: "palette" | "shortcuts" | null) => void;
}

/** Which overlay is open. */
export const useOverlays = create<Overlays>()((set) => ({ open: null, show: (open) => set({ open }) }));

/** The theme in force. */
export function useTheme(): Theme {
  const chosen = useSettings((s) => s.theme);
  return chosen ?? (window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light");
}
