import { expect, it } from "vitest";
import { scrollStep } from "./edge-scroll.ts";

it("scrolls at the window's edges, the faster the nearer, and nowhere else", () => {
  expect([200, 400, 700].map((y) => scrollStep(y, 800))).toEqual([0, 0, 0]);
  expect([60, 30, 0, -40].map((y) => scrollStep(y, 800))).toEqual([-3, -11, -18, -18]);
  expect([740, 770, 800, 900].map((y) => scrollStep(y, 800))).toEqual([3, 11, 18, 18]);
});
