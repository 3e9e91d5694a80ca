import { describe, expect, it } from "vitest";
import { rowTracks } from "./row-tracks.ts";

describe("the rows of a page's grid", () => {
  it("are one track between two edges, as high as their rows", () => {
    const { template, lineOf } = rowTracks({
      a: { x: 0, y: 0, w: 12, h: 30 },
      b: { x: 12, y: 0, w: 12, h: 10 },
      c: { x: 12, y: 10, w: 12, h: 20 },
    });
    expect(template).toBe("minmax(80px, auto) minmax(160px, auto)");
    expect([lineOf.get(0), lineOf.get(10), lineOf.get(30)]).toEqual([1, 2, 3]);
  });
  it("begin at the top, though no panel stands there", () => {
    expect(rowTracks({ a: { x: 0, y: 4, w: 6, h: 2 } }).template).toBe("minmax(32px, auto) minmax(16px, auto)");
    expect(rowTracks({}).template).toBe("");
  });
});
