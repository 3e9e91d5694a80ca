import { useEffect, useRef, useState, type RefObject } from "react";

/** What lies this near to the edge of the window is about to be seen. */
const MARGIN = "120px";

/** Whether an element is in view, or about to be; until that is known it counts as such. */
export function useInView<E extends HTMLElement = HTMLElement>(): [boolean, RefObject<E | null>] {
  const holder = useRef<E>(null);
  const [isInView, setInView] = useState(true);
  useEffect(() => {
    const element = holder.current;
    if (!element || typeof IntersectionObserver === "undefined") return undefined;
    const observer = new IntersectionObserver((entries) => setInView(entries.at(-1)!.isIntersecting), {
      rootMargin: MARGIN,
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [isInView, holder];
}
