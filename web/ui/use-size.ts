import { useLayoutEffect, useRef, useState, type RefObject } from "react";

/** The size of an element in whole pixels, followed as it changes; 0 until it is known. */
export function useSize<E extends HTMLElement = HTMLDivElement>(): [
  { readonly width: number; readonly height: number },
  RefObject<E | null>,
] {
  const holder = useRef<E>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = holder.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      const next = { width: Math.floor(width), height: Math.floor(height) };
      setSize((now) => (now.width === next.width && now.height === next.height ? now : next));
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [size, holder];
}
