import { describe, expect, it } from "vitest";
import { monthStatistics } from "#core/panels/season/statistics.ts";
import { fittedLine } from "#core/statistics/fitted-line.ts";
import { valueStyle } from "#core/formats/number-words.ts";
import { layoutSeason } from "./layout.ts";
import { SEASON_VIEWS, type SeasonAnswer, type SeasonYear } from "#core/panels/season/schema.ts";

const none = { absent: "no data", detail: "none" } as const;
const answer = (years: readonly (readonly (number | null)[])[]): SeasonAnswer => {
  const all = years.map((values, i): SeasonYear => ({
    key: `FY${20 + i}`,
    isStudied: i === years.length - 1,
    months: [],
    values: Array.from({ length: 12 }, (_, m) => {
      const value = values[m];
      return value === undefined || value === null ? none : { value };
    }),
  }));
  const statistics = monthStatistics(all.slice(0, -1).map(({ values }) => values));
  const pairs = all
    .at(-1)!
    .values.flatMap((figure, i) =>
      statistics[i] && "value" in figure ? [{ x: statistics[i].mean, y: figure.value }] : [],
    );
  return {
    kind: "season",
    frame: {} as SeasonAnswer["frame"],
    kpi: {} as SeasonAnswer["kpi"],
    headline: "",
    descriptor: "",
    view: "band",
    monthNames: [
      "April",
      "May",
      "June",
      "July",
      "August",
      "September",
      "October",
      "November",
      "December",
      "January",
      "February",
      "March",
    ],
    years: all,
    choices: [],
    statistics,
    next: { name: "FY99", months: monthStatistics(all.map(({ values }) => values)) },
    line: fittedLine(pairs),
    refusal: null,
    notes: [],
  };
};
const full = (base: number) => Array.from({ length: 12 }, (_, i) => base + Math.round(Math.sin(i) * base));
const CASES: readonly (readonly [string, SeasonAnswer])[] = [
  ["one year alone", answer([full(5)])],
  ["a year that has only begun", answer([full(5), full(7), [3]])],
  ["nothing at all", answer([[], []])],
  ["all negative", answer([full(-5), full(-500)])],
  ["mixed signs", answer([full(5), full(-5), full(50)])],
  ["a giant outlier", answer([full(5), [1, 2, 1e12]])],
  ["twelve years", answer(Array.from({ length: 12 }, (_, i) => full(i + 1)))],
  [
    "absent months",
    answer([
      [1, null, 3, null],
      [null, 2, null, 4],
      [1, 2, 3, 4],
    ]),
  ],
  ["tiny and huge", answer([full(0.001), full(1e12)])],
  ["all equal", answer([Array<number>(12).fill(7), Array<number>(12).fill(7)])],
];

describe("a season's layout", () => {
  describe.each([240, 600, 1600])("%i px wide", (width) => {
    describe.each(SEASON_VIEWS)("seen as %s", (view) => {
      it.each(CASES)("keeps every place of %s inside its plot", (_, data) => {
        const layout = layoutSeason({
          data: { ...data, view },
          width,
          height: 300,
          style: valueStyle({ kind: "money" }, 0, "units"),
        });
        for (const { plot, lines, band, mean } of layout.plots) {
          expect(plot.x + plot.width).toBeLessThanOrEqual(width + 0.01);
          for (const path of [band, mean, ...lines.map((line) => line.path)]) expect(path ?? "").not.toMatch(/NaN/);
          for (const place of lines.flatMap(({ places }) => places)) {
            if (!place) continue;
            expect(place.x).toBeGreaterThanOrEqual(plot.x - 0.01);
            expect(place.x).toBeLessThanOrEqual(plot.x + plot.width + 0.01);
            expect(place.y).toBeGreaterThanOrEqual(plot.y - 0.01);
            expect(place.y).toBeLessThanOrEqual(plot.y + plot.height + 0.01);
          }
          const labels = lines.flatMap(({ label }) => (label ? [label] : []));
          if (layout.plots.length === 1)
            for (const [i, a] of labels.entries())
              for (const b of labels.slice(i + 1))
                expect(Math.abs(a.y - b.y) >= 12 || Math.abs(a.x - b.x) >= 34).toBe(true);
        }
        for (const { x, y } of layout.against?.dots ?? []) {
          const { plot } = layout.against!;
          expect(x).toBeGreaterThanOrEqual(plot.x - 0.01);
          expect(x).toBeLessThanOrEqual(plot.x + plot.width + 0.01);
          expect(y).toBeGreaterThanOrEqual(plot.y - 0.01);
        }
        const line = layout.against?.line;
        if (line) expect(Object.values(line).every(Number.isFinite)).toBe(true);
      });
    });
  });
});
