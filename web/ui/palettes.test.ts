import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { PALETTES } from "#contract/session.ts";

const css = readFileSync(join(import.meta.dirname, "styles.css"), "utf8");

/** The colours that rules of a selector set, by name. */
function coloursOf(selector: string): Record<string, string> {
  const found: Record<string, string> = {};
  for (const [, head, body] of css.matchAll(/([^{}]+)\{([^{}]*)\}/g))
    if (head!.trim() === selector)
      for (const [, name, value] of body!.matchAll(/--([\w-]+):\s*(#[0-9a-f]{6})/g)) found[name!] = value!;
  return found;
}
const rgb = (hex: string) =>
  [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255) as [number, number, number];
const linear = (channel: number) => (channel <= 0.03928 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4);
/** Relative luminance and contrast as WCAG 2 defines them. */
const luminance = (hex: string) => {
  const [r, g, b] = rgb(hex).map(linear) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
const contrast = (a: string, b: string) => {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
};

const light = coloursOf(":root");
const dark = { ...light, ...coloursOf(':root[data-theme="dark"]') };
const looks = PALETTES.flatMap((palette) => [
  [`${palette}, light`, { ...light, ...coloursOf(`:root[data-palette="${palette}"]`) }] as const,
  [`${palette}, dark`, { ...dark, ...coloursOf(`:root[data-theme="dark"][data-palette="${palette}"]`) }] as const,
]);

describe("the company's palettes", () => {
  it.each(looks)("%s: text, marks and accents can be told from what they stand on", (_, colours) => {
    const colour = (name: string) => colours[name]!;
    for (const ground of ["ground", "panel", "chosen"].map(colour)) {
      for (const text of ["ink", "slate", "accent", "verdigris", "madder"].map(colour))
        expect([text, ground, contrast(text, ground) >= 4.5]).toEqual([text, ground, true]);
    }
    for (const mark of [
      "indigo",
      "weld",
      "heather",
      "walnut",
      ...Array.from({ length: 8 }, (__, i) => `dye-${i + 1}`),
    ].map(colour))
      expect([mark, contrast(mark, colour("panel")) >= 3]).toEqual([mark, true]);
  });
  it("leave the code of scenarios and judgements alone", () => {
    for (const palette of PALETTES)
      for (const selector of [
        `:root[data-palette="${palette}"]`,
        `:root[data-theme="dark"][data-palette="${palette}"]`,
      ])
        for (const name of ["indigo", "weld", "heather", "walnut", "verdigris", "madder", "ink"])
          expect(coloursOf(selector)).not.toHaveProperty(name);
  });
});

/** How a colour looks to somebody without red or green cones (Viénot, Brettel and Mollon 1999), in linear light. */
const SIGHT: Readonly<Record<string, readonly (readonly [number, number, number])[]>> = {
  "all colours": [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  "no red cones": [
    [0.11238, 0.88762, 0],
    [0.11238, 0.88762, 0],
    [0.00401, -0.00401, 1],
  ],
  "no green cones": [
    [0.29275, 0.70725, 0],
    [0.29275, 0.70725, 0],
    [-0.02234, 0.02234, 1],
  ],
};
/** CIE L*a*b*, in which distances are about as large as they look. */
function lab(linearRgb: readonly number[]): [number, number, number] {
  const [r, g, b] = linearRgb as [number, number, number];
  const f = (t: number) => (t > 0.008856 ? Math.cbrt(t) : 7.787 * t + 16 / 116);
  const x = f((0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505);
  const y = f(0.2126 * r + 0.7152 * g + 0.0722 * b);
  const z = f((0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

describe("the colours of members", () => {
  it("are none of the scenarios' or the judgements'", () => {
    for (const colours of [light, dark])
      for (let i = 1; i <= 8; i += 1)
        for (const name of ["indigo", "weld", "heather", "walnut", "verdigris", "madder", "slate"]) {
          const [a, b] = [colours[`dye-${i}`]!, colours[name]!].map((hex) => lab(rgb(hex).map(linear)));
          expect([i, name, Math.hypot(...a!.map((value, c) => value - b![c]!)) > 25]).toEqual([i, name, true]);
        }
  });
  it.each(Object.entries(SIGHT))("are told apart with %s, in light and dark", (_, matrix) => {
    for (const colours of [light, dark]) {
      const seen = Array.from({ length: 8 }, (__, i) => {
        const own = rgb(colours[`dye-${i + 1}`]!).map(linear);
        return lab(
          matrix.map((row) =>
            Math.max(
              0,
              row.reduce((sum, factor, c) => sum + factor * own[c]!, 0),
            ),
          ),
        );
      });
      for (const [i, a] of seen.entries())
        for (const [j, b] of seen.slice(i + 1).entries()) {
          const distance = Math.hypot(...a.map((value, c) => value - b[c]!));
          expect([i + 1, i + 2 + j, distance > 20]).toEqual([i + 1, i + 2 + j, true]);
        }
    }
  });
});
