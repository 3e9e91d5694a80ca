import { ROW_HEIGHT, type Places } from "#core/layout/place.ts";

/**
 * Rows between which some panel begins or ends, as one track each: a page of a hundred rows is laid out by a handful.
 * A track is at least as high as its rows, and grows with what stands in it. `lineOf` has the grid's line above a row.
 */
export function rowTracks(places: Places): { template: string; lineOf: ReadonlyMap<number, number> } {
  const edges = [...new Set([0, ...Object.values(places).flatMap(({ y, h }) => [y, y + h])])].sort((a, b) => a - b);
  return {
    template: edges
      .slice(1)
      .map((edge, i) => `minmax(${(edge - edges[i]!) * ROW_HEIGHT}px, auto)`)
      .join(" "),
    lineOf: new Map(edges.map((edge, i) => [edge, i + 1])),
  };
}
