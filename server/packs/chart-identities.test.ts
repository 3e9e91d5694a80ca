import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { AnswerOf, PanelDefinition } from "#contract/panels/index.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

/** What holds of charts on the sample in any frame. */
let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "chart_identities");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
  for (const panel of BRIDGES) expect((await api.putOn(PANELS, panel)).status).toBe(200);
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
