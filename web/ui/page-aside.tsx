import type { ReactNode } from "react";
import { createPortal } from "react-dom";
import { create } from "zustand";
import { Drawer } from "./drawer.tsx";

/** The place at a page's side; `null` while the page holds none. */
const usePlace = create<{ readonly place: HTMLElement | null }>(() => ({ place: null }));

const hold = (place: HTMLElement | null) => usePlace.setState({ place });

/** Where a page holds a place at its side for what its panels open there. */
export function PageAsidePlace() {
  return <div ref={hold} className="contents" />;
}

/** A drawer that a panel opens at its page's side. */
export function PageAside(props: { label: string; subject: string; onClose: () => void; children: ReactNode }) {
  const { place } = usePlace();
  return place && createPortal(<Drawer {...props} />, place);
}
