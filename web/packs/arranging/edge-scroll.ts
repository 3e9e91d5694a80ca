/** So near to the window's edge the page begins to scroll, in pixels; the nearer, the faster. */
const EDGE = 70;
const FASTEST = 18;

/** How far the page scrolls in a frame where the pointer is at this height of the window; 0 away from its edges. */
export function scrollStep(y: number, height: number): number {
  if (y < EDGE) return -Math.ceil((Math.min(EDGE, EDGE - y) / EDGE) * FASTEST);
  if (y > height - EDGE) return Math.ceil((Math.min(EDGE, y - height + EDGE) / EDGE) * FASTEST);
  return 0;
}

/**
 * Scrolls the page while something is dragged to the edge of the window, until the returned function is called. What is
 * dragged hears of it as of a movement of the pointer.
 */
export function scrollAtEdges(): () => void {
  let pointer: { readonly x: number; readonly y: number } | null = null;
  let frame = 0;
  const look = (event: MouseEvent) => {
    if (event.isTrusted) pointer = { x: event.clientX, y: event.clientY };
  };
  const tick = () => {
    frame = requestAnimationFrame(tick);
    if (!pointer) return;
    const step = scrollStep(pointer.y, window.innerHeight);
    const before = window.scrollY;
    if (step !== 0) window.scrollBy(0, step);
    if (window.scrollY === before) return;
    document.dispatchEvent(
      new MouseEvent("mousemove", { clientX: pointer.x, clientY: pointer.y, bubbles: true, buttons: 1 }),
    );
  };
  window.addEventListener("mousemove", look, { capture: true });
  frame = requestAnimationFrame(tick);
  return () => {
    window.removeEventListener("mousemove", look, { capture: true });
    cancelAnimationFrame(frame);
  };
}
