import { useCallback, useEffect } from "react";
import { useSearchParams } from "react-router";

/** What is changed of an address' search; what is `undefined` is taken out. */
export type SearchChange = Readonly<Record<string, string | undefined>>;

/**
 * The search that was asked for last, and the one it was asked from. The router takes a moment to go there, and a
 * second change within that moment, as the second click of a double one makes, must stand on the first.
 */
let underWay: { readonly from: string; readonly to: string } | null = null;

/** Changes the address' search by what it will be then: several changes in one moment all hold. */
export function useSearchChange(): (
  change: (now: URLSearchParams) => SearchChange,
  options: { readonly replace: boolean },
) => void {
  const [params, setParams] = useSearchParams();
  const text = params.toString();
  useEffect(() => {
    underWay = null;
  }, [text]);
  return useCallback(
    (change, { replace }) => {
      const next = new URLSearchParams(underWay?.from === text ? underWay.to : text);
      for (const [key, value] of Object.entries(change(new URLSearchParams(next))))
        value === undefined || (value === "" && key !== "scope") ? next.delete(key) : next.set(key, value);
      underWay = { from: text, to: next.toString() };
      setParams(next, { replace, preventScrollReset: true });
    },
    [text, setParams],
  );
}
