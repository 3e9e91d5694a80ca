import { useLayoutEffect, useRef, useState, type RefObject } from "react";

/** The width of an element in whole pixels, followed as it changes; 0 until it is known. */
export function useWidth(): [number, RefObject<HTMLDivElement | null>] {
  const holder = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = holder.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [width, holder];
}
