import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { PANEL_SCHEMAS } from "#core/panels/schemas.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { PACK } from "#demo/company/pack.ts";
import { connect } from "#server/db/connect.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { Agreement, AS_OFS, expectReadable, framesOf } from "#testing/frame-sweep.ts";
import { independentSums, readFactTable } from "#testing/independent.ts";

let knex: Knex;
let api: ApiClient;
let sums: ReturnType<typeof independentSums>;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  api = await serveApi(knex);
  sums = independentSums(await readFactTable(knex));
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await knex.destroy();
});

const tops = DIMENSIONS[0]!.members.filter((m) => m.parent === null).map((m) => m.key);
const SCOPES = [{}, ...tops.map((area) => ({ route: [area] }))];

describe("every panel of the pack, in every span and basis", () => {
  it.each(PACK.pages.map(({ key, panels }) => [key, panels.map((panel) => panel.key)] as const))(
    "%s says only what can be read",
    async (page, panels) => {
      for (const frame of framesOf("2026-09")) {
        const query = new URLSearchParams({ ...frame }).toString();
        for (const panel of panels)
          expectReadable(
            `${page} ${panel} ${query}`,
            await api.get(`/api/packs/monthly-review/pages/${page}/panels/${panel}?${query}`),
          );
      }
    },
  );
});

describe("all frames over HTTP and SQL, for everything and for each sea area", () => {
  it.each(AS_OFS)("as of %s", async (asOf) => {
    const agreement = new Agreement(sums, async (frame, scope) => {
      const query = new URLSearchParams({
        ...frame,
        ...(Object.keys(scope).length > 0 ? { scope: formatScope(scope) } : {}),
      });
      const { body } = await api.get(`/api/packs/monthly-review/pages/cover/panels/scorecard?${query.toString()}`);
      return PANEL_SCHEMAS.scorecard.answer.parse(body).groups.flatMap((g) => g.rows);
    });
    for (const scope of SCOPES) for (const frame of framesOf(asOf)) await agreement.check(frame, scope);
    if (asOf === "2023-03") expect(agreement.present).toBe(0);
    else expect(agreement.present).toBeGreaterThan(1000);
  });
});
