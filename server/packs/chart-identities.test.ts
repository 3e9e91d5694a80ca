import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { inWriting } from "#core/formats/writing.ts";
import { WRITING } from "#core/testing/writing.ts";
import type { AnswerOf, PanelDefinition } from "#core/panels/schemas.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { valueStyle } from "#core/formats/number-words.ts";
import { shapeCrossTab } from "../../web/panels/cross-tab/shape.ts";
import { layoutTimeChart } from "../../web/panels/time-chart/layout.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

/** What holds of charts on the sample in any frame. */
let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "chart_identities");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
  for (const panel of [...BRIDGES, CROSS_TAB, SPLIT]) expect((await api.putOn(PANELS, panel)).status).toBe(200);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const PANELS = "/api/packs/monthly-review/pages/outlook/panels";
const RUNS = Number(process.env["HACKLE_RUNS"] ?? 12);
const frames = fc.record({
  asOf: fc.constantFrom("2025-06", "2026-05", "2026-10"),
  span: fc.constantFrom("month", "quarter-to-date", "year-to-date", "trailing-12", "full-year"),
  basis: fc.constantFrom("budget", "prior-year", "prior-period", "forecast"),
  scope: fc.constantFrom("", "route:northreach", "service:freight", "route:skerry-sound;service:passengers"),
});
const queryOf = (frame: Readonly<Record<string, string>>) =>
  new URLSearchParams(Object.entries(frame).filter(([, value]) => value !== "")).toString();
const answerOf = async <K extends PanelDefinition["kind"]>(key: string, frame: Readonly<Record<string, string>>) => {
  const { status, body } = await api.get(`${PANELS}/${key}?${queryOf(frame)}`);
  expect([key, frame, status]).toEqual([key, frame, 200]);
  return body as AnswerOf<K>;
};

const CROSS_TAB = {
  key: "cross-tab",
  kind: "cross-tab",
  kpis: ["freight"],
  rows: [
    { kind: "member", dimension: "route", level: null, hasTotal: true },
    { kind: "member", dimension: "route", level: "Route", hasTotal: true },
  ],
  columns: [{ kind: "period", grain: "month", hasTotal: true }],
  measures: ["value", "delta", "share-of-total"],
  shade: "value",
} as const satisfies PanelDefinition;
const SPLIT = {
  key: "split",
  kind: "time-chart",
  kpi: "total_revenue",
  split: { dimension: "route", level: "Route" },
  stacking: "stacked",
} as const satisfies PanelDefinition;

const base = { kind: "bridge", from: "basis", order: "effect", top: 4, hasSubtotals: true } as const;
const route = { dimension: "route", level: "Route" };
const BRIDGES = [
  { ...base, key: "by-account", kpi: "operating_result", by: { kind: "account" }, order: "tree", top: null },
  { ...base, key: "by-route", kpi: "total_revenue", by: { kind: "member", ...route } },
  { ...base, key: "by-month", kpi: "fuel", by: { kind: "month" } },
  { ...base, key: "by-effect", kpi: "freight", by: { kind: "effects", quantity: "freight_carried", ...route } },
  { ...base, key: "to-the-end", kpi: "total_revenue", from: "to-date", by: { kind: "month" }, top: null },
] as const satisfies readonly PanelDefinition[];

describe.each(BRIDGES.map(({ key }) => key))("the bridge %s", (key) => {
  it("leads from its start to its end to the cent, in any frame", async () => {
    let bridged = 0;
    await fc.assert(
      fc.asyncProperty(frames, async (frame) => {
        const { start, steps, end, beyond, refusal } = await answerOf<"bridge">(key, frame);
        expect(start === null).toBe(refusal !== null);
        if (!start || !end) return;
        bridged += 1;
        const led = start.value + steps.reduce((sum, { value }) => sum + value, 0);
        expect(Math.abs(led - end.value)).toBeLessThan(0.005);
        if (beyond) expect(Math.abs(end.value + beyond.gap.value - beyond.end.value)).toBeLessThan(0.005);
      }),
      { numRuns: RUNS },
    );
    expect(bridged).toBeGreaterThan(0);
  });
});

describe("the cross-tab", () => {
  it("has subtotals and totals that its rows and months add up to, in any frame, and room for all of them", async () => {
    let summed = 0;
    await fc.assert(
      fc.asyncProperty(frames, async (frame) => {
        const answer = await answerOf<"cross-tab">("cross-tab", frame);
        expect(answer.rows.lines.length === 0).toBe(answer.refusal !== null);
        for (const width of [240, 900]) inWriting(WRITING, () => shapeCrossTab(answer, width));
        const [total] = answer.columns.lines.flatMap((line, c) => (line[0] === null ? [c] : []));
        for (const [r, [area, route]] of answer.rows.lines.entries()) {
          const inRow = (c: number) => answer.cells[c]!.figures.value!.values[r] ?? 0;
          if (total !== undefined) {
            const months = answer.columns.lines.flatMap((line, c) => (line[0] === null ? [] : [inRow(c)]));
            expect(Math.abs(months.reduce((sum, value) => sum + value, 0) - inRow(total))).toBeLessThan(0.005);
          }
          if (route !== null || area === null) continue;
          for (const { figures } of answer.cells) {
            const inArea = answer.rows.lines.flatMap((line, own) =>
              line[0] === area && line[1] !== null ? [figures.value!.values[own] ?? 0] : [],
            );
            const sum = inArea.reduce((all, value) => all + value, 0);
            expect(Math.abs(sum - (figures.value!.values[r] ?? 0))).toBeLessThan(0.005);
            summed += 1;
          }
        }
      }),
      { numRuns: RUNS },
    );
    expect(summed).toBeGreaterThan(0);
  });
});

describe("a chart over time that is split", () => {
  it("has parts that add up to the whole in each period, and columns that stay inside, in any frame", async () => {
    await fc.assert(
      fc.asyncProperty(frames, async (frame) => {
        const { parts, points, closedTo, ...data } = await answerOf<"time-chart">("split", frame);
        const closed = points.findIndex(({ period }) => period === closedTo);
        for (const [i, { actual }] of points.entries()) {
          if (i > closed || !("value" in actual) || parts.length === 0) continue;
          const sum = parts.reduce((all, { figures }) => all + ("value" in figures[i]! ? figures[i].value : 0), 0);
          expect(Math.abs(sum - actual.value)).toBeLessThan(0.005);
        }
        const style = inWriting(WRITING, () => valueStyle(data.kpi.unit, 0, "thousand"));
        for (const width of [240, 1200]) {
          const { series, plot } = inWriting(WRITING, () =>
            layoutTimeChart({
              parts,
              points,
              closedTo,
              width,
              height: 300,
              style,
              deltaStyle: style,
              marks: "columns",
              stacking: data.stacking,
              references: [],
              hasLabels: true,
              strip: data.strip,
            }),
          );
          for (const box of series.boxes.flat())
            if (box) {
              expect(box.y).toBeGreaterThanOrEqual(plot.y - 0.01);
              expect(box.y + box.height).toBeLessThanOrEqual(plot.y + plot.height + 0.01);
              expect(box.x + box.width).toBeLessThanOrEqual(plot.x + plot.width + 0.01);
            }
        }
      }),
      { numRuns: RUNS },
    );
  });
});
