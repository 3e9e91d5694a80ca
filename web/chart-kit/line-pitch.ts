/** Lines are drawn out to at most so much of what they need: beyond that a few bars would stand as blocks. */
const MOST_STRETCH = 2.6;

/**
 * How high each of a chart's lines is: as high as it needs, and higher where its place leaves room, so that the lines fill
 * it. `natural` is what a line needs, `room` the height there is for all of them.
 */
export function linePitch(natural: number, lines: number, room: number): number {
  if (lines === 0) return natural;
  return Math.max(natural, Math.min(natural * MOST_STRETCH, Math.floor(room / lines)));
}

/** How thick a bar on such a line is: with air above and below that grows with it. */
export function barThickness(pitch: number): number {
  return Math.round(pitch - Math.max(10, pitch * 0.38));
}
