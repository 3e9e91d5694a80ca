/** A page that is not shown draws no frames: it goes on by the clock. */
const HIDDEN_MS = 16;

/** Has callbacks run together before the next frame is drawn, in the order in which they came. */
export function inOneFrame(): (callback: () => void) => void {
  let waiting: (() => void)[] = [];
  const run = () => {
    const callbacks = waiting;
    waiting = [];
    for (const callback of callbacks) callback();
  };
  return (callback) => {
    waiting.push(callback);
    if (waiting.length > 1) return;
    if (document.hidden) setTimeout(run, HIDDEN_MS);
    else requestAnimationFrame(run);
  };
}
