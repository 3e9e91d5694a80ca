import { useCallback, useLayoutEffect } from "react";
import { useLocation, useNavigate } from "react-router";

/** What is changed of an address' search; what is `undefined` is taken out. */
export type SearchChange = Readonly<Record<string, string | undefined>>;

/**
 * The search that is shown, and the one that was asked for last and is not shown yet. The router takes a moment to go
 * there, and a second change within that moment, as the second click of a double one makes, must stand on the first.
 */
let shown = "";
let underWay: string | null = null;

const listeners = new Set<(next: URLSearchParams) => void>();

/** Hears of a search as soon as it is asked for, before the page is drawn for it. */
export function useAskedSearch(listener: (next: URLSearchParams) => void): void {
  useLayoutEffect(() => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  }, [listener]);
}

/** The address' search as it will be once what was asked for has happened. */
export function searchNow(): URLSearchParams {
  return new URLSearchParams(underWay ?? shown);
}

/**
 * Changes the address' search by what it will be then: several changes in one moment all hold. Always the same
 * function, so that what is handed down with it need not be drawn anew.
 */
export function useSearchChange(): (
  change: (now: URLSearchParams) => SearchChange,
  options: { readonly replace: boolean },
) => void {
  const { search } = useLocation();
  const navigate = useNavigate();
  useLayoutEffect(() => {
    shown = search;
    underWay = null;
  }, [search]);
  return useCallback(
    (change, { replace }) => {
      const next = searchNow();
      for (const [key, value] of Object.entries(change(searchNow())))
        if (value === undefined || (value === "" && key !== "scope")) next.delete(key);
        else next.set(key, value);
      underWay = next.toString();
      for (const listener of listeners) listener(searchNow());
      // At once rather than in slices: who clicks sees that something happens, and the question is on its way.
      void navigate(`?${underWay}`, { replace, preventScrollReset: true, flushSync: true });
    },
    [navigate],
  );
}
