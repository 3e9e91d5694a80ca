import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { pageLineSchema, type PageLine } from "#contract/page-answers.ts";
import { PACK } from "#demo/company/pack.ts";
import { connect } from "#server/db/connect.ts";
import { ANALYST, IN_MEMORY, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";

let knex: Knex;
let bySql: ApiClient;
let inMemory: ApiClient;
let statements = 0;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  [bySql, inMemory] = await Promise.all([serveApi(knex), serveApi(knex, IN_MEMORY)]);
  await Promise.all([bySql.signIn(ANALYST), inMemory.signIn(ANALYST)]);
  knex.on("query", ({ sql }: { sql: string }) => {
    if (/group by dataset_id, scenario_id, account_id/.test(sql)) statements += 1;
  });
});
afterAll(async () => {
  await Promise.all([bySql.close(), inMemory.close()]);
  await knex.destroy();
});

const pageOf = (page: string) => `/api/packs/monthly-review/pages/${page}`;
async function linesOf(api: ApiClient, page: string, query = ""): Promise<PageLine[]> {
  const { status, body, headers } = await api.get(`${pageOf(page)}/answers${query}`);
  expect([status, headers.get("content-type")]).toEqual([200, "application/x-ndjson; charset=utf-8"]);
  // On a slow line most of the wait is for bytes.
  expect(headers.get("content-encoding")).toMatch(/^(br|gzip)$/);
  return (body as string)
    .trimEnd()
    .split("\n")
    .map((line) => pageLineSchema.parse(JSON.parse(line)));
}
const answers = (lines: readonly PageLine[]) =>
  Object.fromEntries(lines.map((line) => [line.panel, "answer" in line ? line.answer : line.problem.detail]));

describe("a page asked as one", () => {
  it.each(PACK.pages.map(({ key, panels }) => [key, panels.map((panel) => panel.key)] as const))(
    "%s: each panel has the figures it has alone, from memory as by SQL",
    async (page, panels) => {
      for (const query of ["", "?asOf=2026-08&span=quarter&basis=prior-year&scope=route:northreach"]) {
        const alone = Object.fromEntries(
          await Promise.all(
            panels.map(
              async (panel) => [panel, (await bySql.get(`${pageOf(page)}/panels/${panel}${query}`)).body] as const,
            ),
          ),
        );
        expect(answers(await linesOf(bySql, page, query))).toEqual(alone);
        expect(answers(await linesOf(inMemory, page, query))).toEqual(alone);
      }
    },
  );

  it("reads once what its panels have in common, and from memory nothing", async () => {
    const count = async (work: () => Promise<unknown>) => {
      const before = statements;
      await work();
      return statements - before;
    };
    const query = "?asOf=2026-07";
    const apart = await count(() =>
      Promise.all(["scorecard", "over-time"].map((panel) => bySql.get(`${pageOf("cover")}/panels/${panel}${query}`))),
    );
    const together = await count(() => linesOf(bySql, "cover", query));
    expect(together).toBeLessThan(apart);
    expect(await count(() => linesOf(inMemory, "cover", query))).toBe(0);
  });

  it("takes choices behind the panels' keys, and only the panels that are named", async () => {
    const lines = await linesOf(inMemory, "cover", "?panels=over-time&over-time.kpi=fuel&scorecard.kpi=none");
    const alone = await inMemory.get(`${pageOf("cover")}/panels/over-time?kpi=fuel`);
    expect(answers(lines)).toEqual({ "over-time": alone.body });
  });

  it("answers for each panel that can, and says of the others why not", async () => {
    const lines = await linesOf(inMemory, "cover", "?panels=scorecard,moon,over-time&over-time.kpi=no_such");
    const found = new Map(lines.map((line) => [line.panel, line]));
    expect(found.get("scorecard")).toHaveProperty("answer");
    expect(found.get("moon")).toMatchObject({ problem: { code: "not-found" } });
    expect(found.get("over-time")).toMatchObject({
      problem: { code: "unknown-kpi", detail: expect.stringContaining("no_such") as string },
    });
    const nowhere = await linesOf(inMemory, "cover", "?asOf=moon");
    expect(nowhere.map((line) => "problem" in line && line.problem.code)).toEqual(
      PACK.pages[0]!.panels.map(() => "unknown-period"),
    );
    expect((await inMemory.get(`${pageOf("moon")}/answers`)).status).toBe(404);
  });

  it("is confined to what its reader may see", async () => {
    const manager = await serveApi(knex, IN_MEMORY);
    await manager.signIn(SKERRY_MANAGER);
    const own = await linesOf(manager, "cover");
    const asked = await linesOf(inMemory, "cover", "?scope=route:skerry-sound");
    const figures = (lines: readonly PageLine[]) =>
      JSON.stringify(answers(lines)["scorecard"]).match(/"value":-?[\d.]+/g);
    expect(figures(own)).toEqual(figures(asked));
    await manager.close();
  });
});
