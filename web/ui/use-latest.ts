import { useCallback, useEffect, useRef } from "react";

/** A callback that stays the same while what it does follows the last rendering: for handlers given to remembered parts. */
export function useLatest<A extends readonly unknown[]>(act: (...given: A) => void): (...given: A) => void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  return useCallback((...given: A) => latest.current(...given), []);
}
