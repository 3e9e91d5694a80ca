import topology from "world-atlas/countries-50m.json" with { type: "json" };
import { describe, expect, it } from "vitest";
import { labelWidth } from "../../chart-kit/labels.ts";
import { countriesOf } from "./geometry.ts";
import { countriesShown, layoutCircles, layoutGround } from "./layout.ts";
import type { MapAnswer } from "#core/panels/map/schema.ts";

const countries = countriesOf(topology as never);
const answer = (places: readonly (readonly [string | null, number])[], name = "Somewhere"): MapAnswer =>
  ({
    places: places.map(([country, value], i) => ({
      member: { key: String(i), name, hasBelow: false, scope: {} },
      name,
      country,
      row: { actual: { value } },
    })),
  }) as unknown as MapAnswer;
const CASES: readonly (readonly [string, MapAnswer])[] = [
  ["one country", answer([["276", 5]])],
  ["none", answer([])],
  [
    "members without a country",
    answer([
      [null, 5],
      ["578", 3],
    ]),
  ],
  [
    "neighbours",
    answer([
      ["276", 5],
      ["528", 4],
      ["056", 3],
      ["250", -7],
      ["208", 0],
    ]),
  ],
  [
    "the whole world",
    answer([
      ["554", 1],
      ["840", 9],
      ["352", 2],
      ["032", 4],
    ]),
  ],
  [
    "a giant outlier",
    answer([
      ["276", 1e12],
      ["528", 1],
    ]),
  ],
  [
    "names of sixty letters",
    answer(
      [
        ["276", 1],
        ["528", 2],
      ],
      "A name of sixty letters that nobody would give to any country, ok",
    ),
  ],
  ["every country there is", answer([...countries.keys()].map((code, i) => [code, i] as const))],
];

describe("a map's layout", () => {
  it("knows the mainland of a country from its far islands", () => {
    const [longitude, latitude] = countries.get("250")!.middle;
    expect(longitude).toBeGreaterThan(-2);
    expect(longitude).toBeLessThan(6);
    expect(latitude).toBeGreaterThan(44);
    expect(latitude).toBeLessThan(49);
  });
  describe.each([240, 600, 1600])("%i px wide", (width) => {
    it.each(CASES)("keeps every circle and name of %s in sight, and no name over another", (_, data) => {
      const height = 300;
      const ground = layoutGround(countriesShown(data, countries), countries, { width, height });
      const circles = layoutCircles({ data, countries, width, height }, ground);
      expect(ground.land + ground.own).not.toMatch(/NaN/);
      const labels: { from: number; to: number; y: number }[] = [];
      for (const { cx, cy, r, label } of circles) {
        expect([cx, cy, r].every(Number.isFinite)).toBe(true);
        expect(cx).toBeGreaterThanOrEqual(0);
        expect(cx).toBeLessThanOrEqual(width);
        expect(cy).toBeGreaterThanOrEqual(0);
        expect(cy).toBeLessThanOrEqual(height);
        if (!label) continue;
        const w = labelWidth(label.text);
        const from = label.anchor === "start" ? label.x : label.x - w;
        expect(from).toBeGreaterThanOrEqual(0);
        expect(from + w).toBeLessThanOrEqual(width);
        for (const other of labels)
          expect(from >= other.to || other.from >= from + w || Math.abs(other.y - label.y) >= 12).toBe(true);
        labels.push({ from, to: from + w, y: label.y });
      }
      expect(circles).toHaveLength(data.places.filter(({ country }) => country !== null).length);
    });
  });
});
