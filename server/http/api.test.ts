import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import fc from "fast-check";
import { OPERATIONS, type Operation } from "#contract/operations.ts";
import { problemSchema } from "#contract/problem.ts";
import { connect } from "#server/db/connect.ts";
import { SAMPLE_PASSWORD } from "#launch/sample.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";

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

const COVER = "/api/packs/monthly-review/pages/cover/panels/scorecard";

async function problemOf(path: string): Promise<{ status: number; code: string; detail: string }> {
  const { status, body, headers } = await api.get(path);
  expect(headers.get("content-type")).toContain("application/problem+json");
  const { code, detail } = problemSchema.parse(body);
  return { status, code, detail };
}

describe("bad input is met with a sentence that names the thing, the value and the way out", () => {
  it.each([
    [
      `${COVER}?asOf=banana`,
      422,
      "unknown-period",
      '"banana" is not a month. Write it as year and month, such as 2026-10. The last closed month is October FY27 (2026-10).',
    ],
    [
      `${COVER}?asOf=1990-01`,
      422,
      "unknown-period",
      "There are no figures around January FY90 (1990-01). The last closed month is October FY27 (2026-10).",
    ],
    [
      `${COVER}?span=ytd`,
      422,
      "unknown-span",
      '"ytd" is not a span. Choose month, quarter, quarter-to-date, year-to-date, full-year, month-to-date or trailing-12.',
    ],
    [`${COVER}?basis=bugdet`, 422, "unknown-basis", 'Is "budget" meant?'],
    [`${COVER}?basis=actual`, 422, "unknown-basis", '"actual" is nothing to compare with.'],
    [
      `${COVER}?scope=route:skery-sound`,
      422,
      "unknown-scope",
      'There is no route "skery-sound". Is "skerry-sound" meant?',
    ],
    [`${COVER}?scope=planet:mars`, 422, "unknown-scope", 'There is no dimension "planet".'],
    [`${COVER}?scope=%3Cscript%3E`, 422, "unknown-scope", "cannot be read"],
    [`${COVER}?unit=dozens`, 422, "unknown-unit", "Choose units, thousand or million."],
    [`${COVER}?asOf=2026-10&asOf=2026-09`, 400, "invalid-request", 'In "asOf"'],
    ["/api/packs/monthly-review/pages/cover/panels/over-time?kpi=feul", 422, "unknown-kpi", 'Is "fuel" meant?'],
    ["/api/packs/monthly-review/pages/nowhere/panels/x", 404, "not-found", "Its pages are cover,"],
    ["/api/packs/november-review", 404, "not-found", 'There is no pack "november-review".'],
    ["/api/provenance?kpi=fuel&side=sideways", 400, "invalid-request", 'In "side"'],
    ["/api/provenance/lines?kpi=fuel&side=actual&input=7", 400, "invalid-request", "there is no input 7"],
    ["/api/provenance/lines?kpi=fuel&side=actual&limit=100000", 400, "invalid-request", 'In "limit"'],
    ["/api/nothing", 404, "not-found", "There is no operation GET /api/nothing."],
    ["/api/packs/%E0%A4%A", 400, "invalid-request", "well-formed address"],
  ])("%s", async (path, status, code, detail) => {
    const problem = await problemOf(path);
    expect(problem).toMatchObject({ status, code });
    expect(problem.detail).toContain(detail);
  });

  it("never answers 500, whatever stands in the address", async () => {
    const text = fc.oneof(
      fc.string({ unit: "binary", maxLength: 30 }),
      fc.constantFrom(
        "2026-10",
        "trailing-12",
        "route:",
        "route:skerry-sound;vessel:",
        "__proto__",
        "prior-year",
        "'; drop table fact; --",
      ),
    );
    await fc.assert(
      fc.asyncProperty(
        fc.record({ asOf: text, span: text, basis: text, scope: text, unit: text, kpi: text }, { requiredKeys: [] }),
        async (query) => {
          const { status } = await api.get(
            `/api/packs/monthly-review/pages/cover/panels/over-time?${new URLSearchParams(query).toString()}`,
          );
          expect(status).toBeLessThan(500);
        },
      ),
      { numRuns: 150 },
    );
  });
  it("refuses bodies that are no JSON, too large or not as the contract says", async () => {
    expect((await api.send("POST", "/api/session", "{oops")).status).toBe(400);
    expect((await api.send("POST", "/api/session", { email: "x".repeat(200_000) })).status).toBe(400);
    expect((await api.send("POST", "/api/session", { email: ANALYST })).body).toMatchObject({
      code: "invalid-request",
      detail: expect.stringContaining('"password"') as string,
    });
  });
});

describe("sessions", () => {
  it("are needed for everything but the open operations", async () => {
    const stranger = await serveApi(knex);
    for (const operation of Object.values<Operation>(OPERATIONS)) {
      if (operation.isOpen || operation.method !== "get") continue;
      const { status, body } = await stranger.get(operation.path.replace(/:\w+/g, "x"));
      expect([operation.path, status, (body as { code: string }).code]).toEqual([operation.path, 401, "not-signed-in"]);
    }
    await stranger.close();
  });
  it("open with the password and not without, and say no more than that", async () => {
    const visitor = await serveApi(knex);
    expect((await visitor.send("POST", "/api/session", { email: ANALYST, password: "wrong" })).body).toMatchObject({
      code: "wrong-password",
    });
    expect(
      (await visitor.send("POST", "/api/session", { email: "nobody@quillhaven.example", password: "wrong" })).body,
    ).toMatchObject({ code: "wrong-password" });
    expect(
      (await visitor.send("POST", "/api/session", { email: ANALYST.toUpperCase(), password: SAMPLE_PASSWORD })).status,
    ).toBe(200);
    expect((await visitor.get("/api/session")).body).toMatchObject({ email: ANALYST });
    expect((await visitor.send("DELETE", "/api/session")).status).toBe(204);
    expect((await visitor.get("/api/session")).status).toBe(401);
    await visitor.close();
  });
  it("keep passwords and tokens only as hashes", async () => {
    const [hash = ""] = await knex("person").pluck<string[]>("password_hash");
    expect(hash).toMatch(/^scrypt\$16384\$8\$1\$/);
    expect(hash).not.toContain(SAMPLE_PASSWORD);
  });
  it("end when their time is over, and the answer says so", async () => {
    const visitor = await serveApi(knex);
    await visitor.signIn("clara.oduya@quillhaven.example");
    await knex("session")
      .whereIn("person_id", knex("person").where({ email: "clara.oduya@quillhaven.example" }).select("id"))
      .update({ expires_at: knex.raw("now() - interval '1 second'") });
    expect((await visitor.get("/api/packs")).body).toMatchObject({
      code: "not-signed-in",
      detail: expect.stringContaining("has ended") as string,
    });
    await visitor.close();
  });
  it("ask for patience after too many failures", async () => {
    const visitor = await serveApi(knex, { signInLimit: 3 });
    const attempts = [];
    for (let i = 0; i < 4; i += 1)
      attempts.push((await visitor.send("POST", "/api/session", { email: ANALYST, password: "wrong" })).status);
    expect(attempts).toEqual([401, 401, 401, 429]);
    await visitor.close();
  });
});

describe("what the API says of itself", () => {
  it("describes every operation in OpenAPI", async () => {
    const { body } = await api.get("/api/openapi.json");
    const { paths, openapi } = body as {
      openapi: string;
      paths: Record<string, Record<string, { responses: object }>>;
    };
    expect(openapi).toBe("3.1.0");
    for (const { path, method } of Object.values<Operation>(OPERATIONS))
      expect(paths[path.replace(/:(\w+)/g, "{$1}")]?.[method]?.responses).toBeDefined();
  });
  it("answers by its own contract", async () => {
    for (const [path, operation] of [
      ["/api/frame", OPERATIONS.frameChoices],
      ["/api/packs", OPERATIONS.packs],
      ["/api/packs/monthly-review", OPERATIONS.pack],
      ["/api/loads", OPERATIONS.loads],
      [COVER, OPERATIONS.panel],
      ["/api/provenance?kpi=fuel&side=basis", OPERATIONS.provenance],
      ["/api/provenance/lines?kpi=fuel&side=basis", OPERATIONS.sourceLines],
    ] as const) {
      const { body, headers } = await api.get(path);
      expect(operation.answer.safeParse(body).error, path).toBeUndefined();
      expect(headers.get("server-timing"), path).toMatch(/^total;dur=/);
    }
  });
  it("is ready only while the database answers", async () => {
    expect((await api.get("/api/health")).body).toEqual({ product: "hackle", ready: true, database: "answers" });
    const away = connect("postgres://hackle:x@127.0.0.1:1/none");
    const orphan = await serveApi(away);
    expect(await orphan.get("/api/health")).toMatchObject({ status: 503, body: { ready: false } });
    expect(await orphan.get("/api/sample-people")).toMatchObject({
      status: 503,
      body: { code: "database-unavailable" },
    });
    await orphan.close();
    await away.destroy();
  });
  it("shows an area manager only their own members to choose from", async () => {
    const manager = await serveApi(knex);
    await manager.signIn("ines.varga@quillhaven.example");
    const { body } = await manager.get("/api/frame");
    const { dimensions, confinedTo } = body as {
      confinedTo: string;
      dimensions: { key: string; members: { key: string }[] }[];
    };
    expect(confinedTo).toBe("Northreach");
    expect(dimensions.find((d) => d.key === "route")!.members.map((m) => m.key)).toEqual([
      "northreach",
      "vardel-isenholm",
      "vardel-grey-ness",
      "isenholm-fallow-strand",
    ]);
    await manager.close();
  });
});
