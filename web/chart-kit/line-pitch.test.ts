import fc from "fast-check";
import { expect, it } from "vitest";
import { barThickness, linePitch } from "./line-pitch.ts";

it("lines fill the room there is, need no less than they need, and do not become blocks", () => {
  expect(linePitch(25, 10, 400)).toBe(40);
  expect(linePitch(25, 10, 100)).toBe(25);
  expect(linePitch(25, 2, 1000)).toBe(65);
  expect(linePitch(25, 0, 1000)).toBe(25);
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 80 }), fc.integer({ min: 0, max: 3000 }), (lines, room) => {
      const pitch = linePitch(25, lines, room);
      expect(pitch).toBeGreaterThanOrEqual(25);
      // Drawn out, they stay within their room.
      if (pitch > 25) expect(pitch * lines).toBeLessThanOrEqual(room);
      expect(barThickness(pitch)).toBeGreaterThanOrEqual(15);
      expect(barThickness(pitch)).toBeLessThan(pitch);
    }),
  );
});
