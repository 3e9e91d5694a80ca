import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { inWriting } from "#core/formats/writing.ts";
import { WRITING } from "#core/testing/writing.ts";
import { deltaStyle, valueStyle } from "#core/formats/number-words.ts";
import { readablePanels, type Pack } from "#contract/pack.ts";
import type { AnswerOf, PanelAnswer } from "#core/panels/schemas.ts";
import { connect } from "#server/db/connect.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import type { Knex } from "knex";
import { layoutBreakdown } from "../../web/panels/breakdown/layout.ts";
import { layoutBridge } from "../../web/panels/bridge/layout.ts";
import { shapeCrossTab } from "../../web/panels/cross-tab/shape.ts";
import { layoutGrowth } from "../../web/panels/growth/layout.ts";
import { layoutHeat } from "../../web/panels/heat/layout.ts";
import { layoutScatter } from "../../web/panels/scatter/layout.ts";
import { layoutSeason } from "../../web/panels/season/layout.ts";
import { layoutTimeChart } from "../../web/panels/time-chart/layout.ts";
import type { KpiHead } from "#core/panels/parts/schema.ts";

/** Every chart of the sample's own pages, laid out in any frame: nothing is thrown, and no mark lies outside. */
let knex: Knex;
let api: ApiClient;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  api = await serveApi(knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await knex.destroy();
});

const RUNS = Number(process.env["HACKLE_RUNS"] ?? 4);
const HEIGHT = 320;
const stylesOf = (kpi: KpiHead) => ({
  style: valueStyle(kpi.unit, kpi.decimals, "thousand"),
  deltaStyle: deltaStyle(kpi.unit, kpi.decimals, "thousand"),
});
type Layouts = { readonly [K in PanelAnswer["kind"]]?: (data: AnswerOf<K>, width: number) => unknown };
const LAYOUTS: Layouts = {
  bridge: (data, width) => layoutBridge({ data, width, ...stylesOf(data.kpi) }),
  breakdown: (data, width) => layoutBreakdown({ data, width, ...stylesOf(data.kpi) }),
  growth: (data, width) => layoutGrowth({ data, width, height: HEIGHT, hasLabels: true, ...stylesOf(data.kpi) }),
  heat: (data, width) => layoutHeat({ data, width, hasLabels: true, ...stylesOf(data.kpi) }),
  season: (data, width) => layoutSeason({ data, width, height: HEIGHT, ...stylesOf(data.kpi) }),
  scatter: (data, width) =>
    layoutScatter({ data, width, height: HEIGHT, xStyle: stylesOf(data.x).style, yStyle: stylesOf(data.y).style }),
  "time-chart": (data, width) =>
    layoutTimeChart({
      ...data,
      width,
      height: HEIGHT,
      marks: "columns",
      hasLabels: true,
      ...stylesOf(data.kpi),
      right: null,
    }),
  "cross-tab": (data, width) => void shapeCrossTab(data, width),
};
const layOut = (data: PanelAnswer, width: number) =>
  inWriting(WRITING, () =>
    (LAYOUTS[data.kind] as ((data: PanelAnswer, width: number) => unknown) | undefined)?.(data, width),
  );

interface Mark {
  readonly x: number;
  readonly y: number;
  readonly width?: number;
  readonly height?: number;
}
/** Every box and place in a layout, wherever it lies, and every number that is none. */
function marksIn(
  layout: unknown,
  found: Mark[] = [],
  broken: string[] = [],
  path = "",
): { marks: Mark[]; broken: string[] } {
  if (typeof layout === "number" && !Number.isFinite(layout)) broken.push(path);
  if (typeof layout === "object" && layout !== null) {
    const { x, y, width } = layout as Partial<Mark>;
    if (typeof x === "number" && typeof y === "number" && (width === undefined || typeof width === "number"))
      found.push(layout as Mark);
    for (const [key, value] of Object.entries(layout))
      // What a mark is of is no mark, nor is the room in which it is pointed at.
      if (!["point", "step", "row", "cell", "end", "band"].includes(key))
        marksIn(value, found, broken, `${path}.${key}`);
  }
  return { marks: found, broken };
}

const frames = fc.record({
  asOf: fc.constantFrom("2023-06", "2025-02", "2026-07", "2026-10", "2026-11"),
  span: fc.constantFrom("month", "quarter", "year-to-date", "trailing-12", "full-year"),
  basis: fc.constantFrom("budget", "prior-year", "prior-period", "forecast", "target"),
  scope: fc.constantFrom("", "route:northreach", "service:freight", "vessel:gannet", "route:"),
});

describe("the charts of the sample's pages", () => {
  it("are laid out in any frame and width, with every mark inside", async () => {
    const { pages } = (await api.get("/api/packs/monthly-review")).body as Pack;
    const charts = pages.flatMap((page) =>
      readablePanels(page)
        .filter(({ definition }) => definition.kind in LAYOUTS)
        .map(({ key }) => `/api/packs/monthly-review/pages/${page.key}/panels/${key}`),
    );
    expect(charts.length).toBeGreaterThan(25);
    let marked = 0;
    await fc.assert(
      fc.asyncProperty(frames, async (frame) => {
        for (const chart of charts) {
          const { status, body } = await api.get(`${chart}?${new URLSearchParams(frame).toString()}`);
          expect([chart, frame, status]).toEqual([chart, frame, 200]);
          for (const width of [300, 620, 1200]) {
            const { marks, broken } = marksIn(layOut(body as PanelAnswer, width));
            expect([chart, frame, width, broken]).toEqual([chart, frame, width, []]);
            marked += marks.length;
            const outside = marks.filter(
              (mark) =>
                mark.x < -0.5 || mark.x + (mark.width ?? 0) > width + 0.5 || mark.y < -0.5 || (mark.height ?? 0) < 0,
            );
            expect([chart, frame, width, outside.slice(0, 3)]).toEqual([chart, frame, width, []]);
          }
        }
      }),
      { numRuns: RUNS },
    );
    expect(marked).toBeGreaterThan(1000);
  });
});
