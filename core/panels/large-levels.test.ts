import { describe, expect, it } from "vitest";
import type { Dimension } from "../dimensions/dimension.ts";
import { isPresent } from "../figures/figure.ts";
import { YEAR_TO_DATE, questionOf } from "../testing/small-question.ts";
import type { SmallFact } from "../testing/small-company.ts";
import { computeGrowth } from "./growth/compute.ts";
import { computeHeat } from "./heat/compute.ts";
import type { PanelQuestion } from "./panel-question.ts";
import { computeScatter } from "./scatter/compute.ts";
import { computeTiles } from "./tiles/compute.ts";
import { computeTimeChart } from "./time-chart/compute.ts";
import type { Figure } from "../figures/schema.ts";

const facts = ["mill", "gate", "quay"].flatMap((shop, i) =>
  YEAR_TO_DATE.map((month): SmallFact => ({
    scenario: "actual",
    account: "bread",
    shop,
    month,
    amount: 1000 * (i + 1),
  })),
);
const WHOLE = (7 * 1000 * (1 + 2 + 3)) / 100;
const SHOP = { dimension: "shop", level: "Shop" };

/** The small company with 120 kiosks before its shops: they that have figures come after the first hundred. */
function largeQuestion(): PanelQuestion {
  const plain = questionOf(facts);
  const [shops] = plain.company.dimensions as [Dimension];
  const kiosks = Array.from({ length: 120 }, (_, i) => ({ key: `kiosk-${i}`, name: `Kiosk ${i}`, parent: "north" }));
  const dimensions = [{ ...shops, members: [...kiosks, ...shops.members] }];
  return { ...plain, company: { ...plain.company, dimensions }, asked: { ...plain.asked, dimensions } };
}
const question = largeQuestion();
const value = (figure: Figure) => (isPresent(figure) ? figure.value : 0);
const sum = (figures: readonly Figure[]) => figures.reduce((all, figure) => all + value(figure), 0);
const NOTE = /^Only the first (100|60) of 123 shops are shown individually/;

describe("a level with more members than a panel shows individually", () => {
  it("is gathered whole in the others of a split chart and of tiles", () => {
    const chart = computeTimeChart({ key: "c", kind: "time-chart", kpi: "turnover", split: SHOP }, {}, question);
    expect(chart.parts.reduce((all, { figures }) => all + sum(figures), 0)).toBeCloseTo(WHOLE, 6);
    expect(chart.parts.at(-1)!.name).toBe("The other 23");
    expect(chart.notes[0]).toMatch(NOTE);

    const tiles = computeTiles(
      { key: "t", kind: "tiles", kpis: ["turnover"], repeatBy: SHOP, order: "set", isReversed: false, top: null },
      {},
      question,
    );
    expect(tiles.others!.count).toBe(23);
    expect(sum([...tiles.tiles, tiles.others!.tile].map(({ row }) => row.actual))).toBeCloseTo(WHOLE, 6);
  });

  it("is said to be cut where members stand by themselves", () => {
    const growth = { key: "g", kind: "growth", kpi: "turnover", on: "prior-year", ranges: null } as const;
    expect(computeGrowth({ ...growth, by: { kind: "member", ...SHOP } }, {}, question).notes[0]).toMatch(NOTE);
    const scatter = { key: "s", kind: "scatter", x: "turnover", y: "profit", size: null } as const;
    const plain = { quadrants: "none", hasLine: false } as const;
    expect(computeScatter({ ...scatter, ...plain, by: { kind: "member", ...SHOP } }, {}, question).notes[0]).toMatch(
      NOTE,
    );
    const heat = { key: "h", kind: "heat", kpi: "turnover", shade: "value", years: 1 } as const;
    const answer = computeHeat(
      { ...heat, rows: { kind: "member", ...SHOP }, columns: { kind: "month" } },
      {},
      question,
    );
    expect([answer.rows.entries.length, answer.notes[0]]).toEqual([60, expect.stringMatching(NOTE)]);
  });
});
