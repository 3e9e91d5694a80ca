import { closeUp, rowsOf } from "./close-up.ts";
import { GRID_COLUMNS, inside, type Place, type Places } from "./place.ts";

/** A step of the keyboard: a cell to one side. */
export interface Step {
  readonly dx: number;
  readonly dy: number;
}

/** Moves panels by a step, past whatever stands there. A panel that closes up at once again has not moved. */
export function move(places: Places, keys: readonly string[], step: Step): Places {
  return stepped(places, keys, step, ({ x, y, w, h }, { dx, dy }) => ({ x: x + dx, y: y + dy, w, h }));
}

/** Sizes panels by a step. */
export function resize(places: Places, keys: readonly string[], step: Step): Places {
  return stepped(places, keys, step, ({ x, y, w, h }, { dx, dy }) => ({
    x,
    y,
    w: Math.min(w + dx, GRID_COLUMNS - x),
    h: h + dy,
  }));
}

function stepped(places: Places, keys: readonly string[], step: Step, next: (place: Place, step: Step) => Place) {
  const steps = (by: Step) =>
    closeUp(
      { ...places, ...Object.fromEntries(keys.map((key) => [key, inside(next(places[key]!, by))])) },
      step.dy < 0 ? keys : [],
    );
  // A row is lower than any panel: upwards and downwards a step goes on until something gives way.
  const limit = step.dy === 0 ? 1 : rowsOf(places) + 1;
  for (let n = 1; n <= limit; n += 1) {
    const found = steps({ dx: step.dx, dy: step.dy * n });
    if (keys.some((key) => isMoved(places[key]!, found[key]!))) return found;
  }
  return places;
}

function isMoved(a: Place, b: Place): boolean {
  return a.x !== b.x || a.y !== b.y || a.w !== b.w || a.h !== b.h;
}
