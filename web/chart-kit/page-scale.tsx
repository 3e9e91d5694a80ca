import { createContext, use, useEffect, useId, useState, type ReactNode } from "react";
import { useStore } from "zustand";
import { createStore, type StoreApi } from "zustand/vanilla";

/** From the lowest to the highest value that an axis shows. */
export type Extent = readonly [low: number, high: number];

interface Extents {
  /** By what is measured, then by the chart: what each would show alone. */
  readonly of: Readonly<Record<string, Readonly<Record<string, Extent>>>>;
}

const PageScale = createContext<StoreApi<Extents> | null>(null);

/** Where a page wants it, charts of one unit below it share one scale, so that they can be compared by eye. */
export function PageScaleProvider({ isShared, children }: { isShared: boolean; children: ReactNode }) {
  const [store] = useState(() => createStore<Extents>()(() => ({ of: {} })));
  return <PageScale value={isShared ? store : null}>{children}</PageScale>;
}

const NOTHING: StoreApi<Extents> = createStore<Extents>()(() => ({ of: {} }));

/** What an axis must show: its own values, and where the page shares scales those of all charts of `unit`. */
export function useSharedExtent(unit: string, values: readonly number[]): Extent | undefined {
  const store = use(PageScale);
  const id = useId();
  const low = values.length === 0 ? undefined : Math.min(...values);
  const high = values.length === 0 ? undefined : Math.max(...values);
  useEffect(() => {
    if (!store || low === undefined || high === undefined) return undefined;
    store.setState(({ of }) => ({ of: { ...of, [unit]: { ...of[unit], [id]: [low, high] } } }));
    return () =>
      store.setState(({ of }) => {
        const { [id]: _, ...others } = of[unit] ?? {};
        return { of: { ...of, [unit]: others } };
      });
  }, [store, unit, id, low, high]);
  const known = useStore(store ?? NOTHING, ({ of }) => of[unit]);
  if (!store || !known) return undefined;
  const all = Object.values(known);
  return [Math.min(...all.map(([own]) => own)), Math.max(...all.map(([, own]) => own))];
}
