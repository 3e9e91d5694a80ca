import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { align, ALIGNMENTS } from "./align.ts";
import { closeUp, rowsOf } from "./close-up.ts";
import { applyPattern, PATTERNS } from "./patterns.ts";
import { GRID_COLUMNS, overlap, type Place, type Places } from "./place.ts";
import { flow, freePlace } from "./put.ts";
import { move, resize } from "./step.ts";

const place = fc.record({
  x: fc.integer({ min: -3, max: 30 }),
  y: fc.integer({ min: 0, max: 60 }),
  w: fc.integer({ min: 0, max: 30 }),
  h: fc.integer({ min: 1, max: 40 }),
});
const pages = fc.dictionary(fc.constantFrom("a", "b", "c", "d", "e", "f", "g"), place, { minKeys: 1, maxKeys: 7 });

function expectWellPlaced(places: Places): void {
  const all = Object.values(places);
  for (const [i, one] of all.entries()) {
    expect(one.x >= 0 && one.y >= 0 && one.w >= 1 && one.h >= 1 && one.x + one.w <= GRID_COLUMNS).toBe(true);
    for (const other of all.slice(i + 1)) expect(overlap(one, other)).toBe(false);
    // Nothing hangs in the air: it stands on the top, or on another.
    const isGrounded = all.some(
      (other) => other.y + other.h === one.y && other.x < one.x + one.w && one.x < other.x + other.w,
    );
    expect(one.y === 0 || isGrounded).toBe(true);
  }
}

describe("a page's places", () => {
  it("never overlap, close up upwards, and stay as they are once closed up", () => {
    fc.assert(
      fc.property(pages, (raw) => {
        const closed = closeUp(raw);
        expectWellPlaced(closed);
        expect(closeUp(closed)).toEqual(closed);
        expect(Object.keys(closed).sort()).toEqual(Object.keys(raw).sort());
      }),
    );
  });
  it("give way to what is put there", () => {
    const closed = closeUp({ a: { x: 0, y: 0, w: 24, h: 10 }, b: { x: 0, y: 0, w: 12, h: 5 } }, ["b"]);
    expect([closed["b"]!.y, closed["a"]!.y]).toEqual([0, 5]);
  });
  it("are moved and sized by a step, and keep their order of width", () => {
    fc.assert(
      fc.property(pages, fc.constantFrom("a", "b", "c"), fc.integer({ min: 0, max: 3 }), (raw, key, side) => {
        const closed = closeUp(raw);
        fc.pre(closed[key] !== undefined);
        const step = { dx: [1, -1, 0, 0][side]!, dy: [0, 0, 1, -1][side]! };
        for (const next of [move(closed, [key], step), resize(closed, [key], step)]) {
          expectWellPlaced(next);
          expect(Object.keys(next).length).toBe(Object.keys(closed).length);
        }
        expect(move(closed, [key], step)[key]!.w).toBe(closed[key]!.w);
      }),
    );
  });
  it("move past a neighbour below with one step down, and back with one up", () => {
    const page = { a: { x: 0, y: 0, w: 24, h: 30 }, b: { x: 0, y: 30, w: 24, h: 20 } };
    const down = move(page, ["a"], { dx: 0, dy: 1 });
    expect([down["a"]!.y, down["b"]!.y]).toEqual([20, 0]);
    expect(move(down, ["a"], { dx: 0, dy: -1 })).toEqual(page);
    expect(move(page, ["b"], { dx: 0, dy: 1 })).toEqual(page);
    expect(resize(page, ["a"], { dx: -1, dy: 0 })["a"]!.w).toBe(23);
    expect(resize(page, ["a"], { dx: 1, dy: 0 })["a"]!.w).toBe(24);
  });
  it("are brought into line without overlapping the others", () => {
    fc.assert(
      fc.property(pages, fc.subarray(["a", "b", "c"]), fc.constantFrom(...ALIGNMENTS), (raw, chosen, alignment) => {
        const closed = closeUp(raw);
        const keys = chosen.filter((key) => closed[key]);
        const next = align(closed, keys, alignment);
        expectWellPlaced(next);
        if (keys.length < 2) return;
        const all = keys.map((key) => next[key]!);
        const distinct = (values: readonly number[]) => new Set(values).size;
        if (alignment === "equal-width") expect(distinct(all.map((p) => p.w))).toBe(1);
        if (alignment === "equal-height" || alignment === "row") expect(distinct(all.map((p) => p.h))).toBe(1);
        if (alignment === "row") {
          expect(all.reduce((sum, p) => sum + p.w, 0)).toBe(GRID_COLUMNS);
          // Below ragged panels each rises as far as it can.
          if (Math.min(...keys.map((key) => closed[key]!.y)) === 0) expect(distinct(all.map((p) => p.y))).toBe(1);
        }
        if (alignment === "column") expect(distinct(all.map((p) => p.x))).toBe(1);
      }),
    );
  });
});

describe("a new panel", () => {
  it("takes the first place that is free", () => {
    fc.assert(
      fc.property(pages, fc.integer({ min: 1, max: 24 }), fc.integer({ min: 1, max: 40 }), (raw, w, h) => {
        const closed = closeUp(raw);
        const found = freePlace(closed, { w, h });
        expect(found.w).toBeLessThanOrEqual(w);
        expect(found.w).toBeGreaterThanOrEqual(Math.min(w, 7, Math.ceil(w * 0.65)));
        expect(closeUp({ ...closed, new: found })).toEqual({ ...closed, new: found });
      }),
    );
    expect(freePlace({ a: { x: 0, y: 0, w: 14, h: 40 } }, { w: 10, h: 20 })).toEqual({ x: 14, y: 0, w: 10, h: 20 });
  });
  it("puts what is new beside what is there, a little narrower and as high, before it goes below", () => {
    const chart = { a: { x: 0, y: 0, w: 14, h: 58 } };
    expect(freePlace(chart, { w: 12, h: 56 })).toEqual({ x: 14, y: 0, w: 10, h: 58 });
    expect(freePlace(chart, { w: 12, h: 20 })).toEqual({ x: 14, y: 0, w: 10, h: 20 });
    expect(freePlace(chart, { w: 24, h: 40 })).toEqual({ x: 0, y: 58, w: 24, h: 40 });
    expect(freePlace({ a: { x: 0, y: 0, w: 20, h: 40 } }, { w: 5, h: 20 })).toEqual({ x: 0, y: 40, w: 5, h: 20 });
  });
  it("stands beside the one before while there is room in the row", () => {
    const placed = flow(["a", "b", "c"].map((key) => ({ key, size: { w: 12, h: 10 } })));
    expect(Object.values(placed).map((p: Place) => [p.x, p.y])).toEqual([
      [0, 0],
      [12, 0],
      [0, 10],
    ]);
  });
});

describe("a pattern", () => {
  it.each(PATTERNS.map((pattern) => [pattern.key, pattern] as const))(
    "%s has places that fit together",
    (_, { places }) => {
      const named = Object.fromEntries(places.map((open, i) => [`p${i}`, open.place]));
      expectWellPlaced(named);
      expect(closeUp(named)).toEqual(named);
      // No row is half empty: the places fill the page's columns down to the last row.
      const cells = Object.values(named).reduce((sum, p) => sum + p.w * p.h, 0);
      expect(cells).toBe(GRID_COLUMNS * rowsOf(named));
    },
  );
  it("keeps all panels, whatever there are more of", () => {
    const panels = fc.array(fc.record({ kind: fc.constantFrom("scorecard", "tiles", "text", "breakdown"), place }), {
      maxLength: 9,
    });
    fc.assert(
      fc.property(panels, fc.constantFrom(...PATTERNS), (raw, pattern) => {
        const keyed = raw.map((panel, i) => ({ ...panel, key: `p${i}` }));
        const { places, open } = applyPattern(pattern.places, keyed);
        expect(Object.keys(places).sort()).toEqual(keyed.map((panel) => panel.key).sort());
        expect(open.length).toBe(Math.max(0, pattern.places.length - keyed.length));
        const all = { ...places, ...Object.fromEntries(open.map((one, i) => [`open${i}`, one.place])) };
        expect(closeUp(all)).toEqual(all);
      }),
    );
  });
  it("puts a panel where its kind belongs", () => {
    const cover = PATTERNS.find((pattern) => pattern.key === "cover")!;
    const own = { x: 0, y: 0, w: 5, h: 5 };
    const { places, open } = applyPattern(cover.places, [
      { key: "chart", kind: "time-chart", place: own },
      { key: "card", kind: "scorecard", place: { ...own, y: 5 } },
    ]);
    expect([places["card"]!.x, places["chart"]!.x]).toEqual([0, 14]);
    expect(open.map((one) => one.wants)).toEqual([["text"]]);
  });
});
