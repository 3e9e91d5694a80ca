import fc from "fast-check";
import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { PACK } from "#demo/company/pack.ts";
import { KPIS } from "#demo/company/kpis.ts";
import type { PanelDefinition } from "#core/panels/schemas.ts";
import { splitsBy } from "#core/panels/panel-frame.ts";
import { connect } from "#server/db/connect.ts";
import { ANALYST, IN_MEMORY, serveApi, type ApiClient } from "#testing/api.ts";

let knex: Knex;
let api: ApiClient;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  api = await serveApi(knex, IN_MEMORY);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await knex.destroy();
});

const keys = KPIS.map(({ key }) => key);
const level = fc.constantFrom(
  ...DIMENSIONS.flatMap(({ key, levels }) => levels.map((own, i) => ({ dimension: key, level: i === 0 ? null : own }))),
);
const kpis = fc.uniqueArray(fc.constantFrom(...keys), { minLength: 1, maxLength: 4 });
const panel: fc.Arbitrary<PanelDefinition> = fc.oneof(
  kpis.map((own): PanelDefinition => ({ key: "p", kind: "scorecard", groups: [{ title: "", kpis: own }] })),
  fc.constantFrom(...keys).map((kpi): PanelDefinition => ({ key: "p", kind: "time-chart", kpi })),
  fc.record({ own: kpis, by: fc.option(level, { nil: null }) }).map(({ own, by }): PanelDefinition => ({
    key: "p",
    kind: "tiles",
    kpis: own,
    repeatBy: by,
    order: "set",
    isReversed: false,
    top: null,
  })),
  fc.record({ own: kpis, by: level }).map(({ own, by }): PanelDefinition => ({
    key: "p",
    kind: "breakdown",
    kpis: own,
    by,
    cluster: null,
    stacking: "clustered",
    order: "value",
    isReversed: false,
    top: null,
  })),
  fc
    .constantFrom(...keys)
    .map((kpi): PanelDefinition => ({ key: "p", kind: "text", text: `{${kpi}} and {${kpi} words}` })),
);
const members = fc.constantFrom(...DIMENSIONS).chain((dimension) =>
  fc
    .subarray(
      dimension.members.map(({ key }) => key),
      { minLength: 1, maxLength: 2 },
    )
    .map((chosen) => ({ [dimension.key]: chosen })),
);
const frame = fc.record({
  asOf: fc.constantFrom("2026-10", "2026-05", "2025-12"),
  span: fc.constantFrom("month", "year-to-date", "trailing-12", "2026-02..2026-04"),
  basis: fc.constantFrom("budget", "prior-year", "forecast"),
});

async function answersOf(panels: readonly PanelDefinition[], query: Record<string, string>): Promise<unknown[]> {
  const { status, body } = await api.send("POST", "/api/answers", {
    frame: query,
    panels: panels.map((own, i) => ({ panel: { ...own, key: `p${i}` } })),
  });
  expect(status).toBe(200);
  const lines = (body as string)
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as { panel: string });
  return lines.sort((a, b) => Number(a.panel.slice(1)) - Number(b.panel.slice(1)));
}

describe("a page that is narrowed", () => {
  it("has the figures of the same scope chosen in the frame; panels by the same members stay whole", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(panel, { minLength: 1, maxLength: 5 }),
        frame,
        members,
        async (panels, base, narrow) => {
          const [dimension] = Object.keys(narrow) as [string];
          const narrowed = await answersOf(panels, { ...base, narrow: formatScope(narrow) });
          const chosen = await answersOf(panels, { ...base, scope: formatScope(narrow) });
          const whole = await answersOf(panels, base);
          for (const [i, own] of panels.entries())
            expect(narrowed[i]).toEqual((splitsBy(own).includes(dimension) ? whole : chosen)[i]);
        },
      ),
      { numRuns: 60 },
    );
  });
  it("stays inside what the page is for, and a panel that stands apart or holds its own is not reached", async () => {
    const chart: PanelDefinition = { key: "p", kind: "time-chart", kpi: "total_revenue" };
    const panels = [
      chart,
      { ...chart, isApart: true },
      { ...chart, holds: { scope: "route:lantern-bay", span: "full-year" } },
    ];
    const [follows, apart, held] = await answersOf(panels, {
      scope: "route:northreach,lantern-bay",
      narrow: "route:northreach",
    });
    const [north] = await answersOf([chart], { scope: "route:northreach" });
    const [both] = await answersOf([chart], { scope: "route:northreach,lantern-bay" });
    const said = (line: unknown) =>
      (line as { answer: { frame: { words: { scope: string; span: string } } } }).answer.frame.words;
    expect(JSON.stringify(follows)).toBe(JSON.stringify(north));
    expect(JSON.stringify((apart as { answer: unknown }).answer)).toBe(
      JSON.stringify((both as { answer: unknown }).answer),
    );
    expect(said(held).span).toBe("year so far");
    // What it holds and what the page is narrowed to have nothing in common: that is said, and no figure made up.
    expect(JSON.stringify(held)).toContain("absent");
  });
  it("says of a member that is gone which it is, and how to go on", async () => {
    const { body } = await api.get("/api/packs/monthly-review/pages/cover/panels/over-time?narrow=route:northreech");
    expect(body).toMatchObject({
      code: "unknown-scope",
      detail: expect.stringContaining('Is "northreach" meant?') as string,
    });
  });
  it("asks every page of the sample without a fault", async () => {
    for (const { key } of PACK.pages) {
      const { status, body } = await api.get(`/api/packs/monthly-review/pages/${key}/answers?narrow=service:freight`);
      expect(status).toBe(200);
      expect(body).not.toContain('"problem":{');
    }
  });
});
