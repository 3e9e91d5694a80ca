import { request as httpRequest, type RequestOptions } from "node:http";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import fc from "fast-check";
import { OPERATIONS } from "#contract/operations/index.ts";
import type { Operation } from "#contract/operations/operation.ts";
import { problemSchema } from "#contract/problem.ts";
import { connect } from "#server/db/connect.ts";
import { pino } from "pino";
import { baseApp } from "#server/http/base-app.ts";
import { servedHosts } from "#server/http/guards/origin.ts";
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
      '"ytd" is not a span. Choose month, quarter, quarter-to-date, year-to-date, full-year, full-year-with-outlook, month-to-date, trailing-12, or months such as 2026-01..2026-06.',
    ],
    [`${COVER}?basis=bugdet`, 422, "unknown-basis", 'Is "budget" meant?'],
    [`${COVER}?basis=actual`, 422, "unknown-basis", '"actual" is not a basis.'],
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
    [
      "/api/provenance?kpi=fuel&side=sideways",
      400,
      "invalid-request",
      '"side" is "sideways"; it can be actual, basis, prior-year, budget, forecast or target.',
    ],
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
  it("never answers 500, whatever stands in a body", async () => {
    const operations = Object.values<Operation>(OPERATIONS).filter((o) => o.method !== "get" && o.body);
    const text = fc.oneof(
      fc.string({ unit: "binary", maxLength: 20 }),
      fc.constantFrom(
        "fuel",
        "total_revenue",
        "route",
        "__proto__",
        "constructor",
        "2026-10",
        "NaN",
        "1e309",
        "-1",
        "0",
      ),
    );
    const body = fc.oneof(
      fc.json({ maxDepth: 4 }),
      fc.string({ unit: "binary", maxLength: 60 }),
      fc
        .dictionary(
          fc.constantFrom(
            "key",
            "version",
            "item",
            "panel",
            "definition",
            "do",
            "formula",
            "self",
            "name",
            "email",
            "password",
          ),
          fc.oneof(text, fc.integer(), fc.constant(null), fc.jsonValue({ maxDepth: 3 })),
        )
        .map((value) => JSON.stringify(value)),
    );
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...operations), body, text, async (operation, sent, name) => {
        const path = operation.path.replace(/:\w+/g, encodeURIComponent(name.toWellFormed()));
        const { status } = await api.send(operation.method.toUpperCase(), path, sent);
        expect([operation.path, sent, status < 500]).toEqual([operation.path, sent, true]);
      }),
      { numRuns: 250 },
    );
    // None of them signed the reader out.
    expect((await api.get("/api/session")).status).toBe(200);
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

describe("requests that no person of this product makes", () => {
  const raw = (options: RequestOptions, body?: string) =>
    new Promise<{ status: number; detail: string }>((resolve, reject) => {
      const request = httpRequest(api.origin, { ...options, headers: { cookie: api.cookie(), ...options.headers } });
      request.on("response", (response) => {
        let text = "";
        response.on("data", (chunk: Buffer) => (text += chunk.toString()));
        response.on("end", () => {
          const { detail = "" } = JSON.parse(text || "{}") as { detail?: string };
          resolve({ status: response.statusCode ?? 0, detail });
        });
      });
      request.on("error", reject);
      request.end(body);
    });
  const post = (path: string, body: string, headers: Record<string, string> = {}) =>
    raw({ method: "POST", path, headers: { "content-type": "application/json", ...headers } }, body);

  it.each([
    ["a name", "POST", "/api/session", '{"email":"a\\u0000b","password":"x"}', 'In "email" stands a character'],
    ["half a pair", "POST", "/api/session", '{"email":"a\\ud800b","password":"x"}', "(U+D800, character 2)"],
    ["a key", "POST", "/api/session", '{"a\\u0000":1}', "In a name in the request"],
    ["a place far down", "POST", "/api/formula", '{"frame":{"a":[1,"\\udc00"]}}', 'In "frame.a.1"'],
    ["the path", "GET", "/api/packs/a%00b", undefined, "In the address"],
    ["the query", "GET", `${COVER}?scope=route:%00`, undefined, "In the address"],
    ["a table", "POST", "/api/accounts/import", "key,name\na,\0", "stands a character"],
  ])("U+0000 and halves of a pair are refused in one sentence: %s", async (_where, method, path, body, sentence) => {
    const type = path.endsWith("import") ? "text/csv" : "application/json";
    const { status, detail } = await raw({ method, path, headers: { "content-type": type } }, body);
    expect([status, detail]).toEqual([400, expect.stringContaining(sentence)]);
    expect(detail).toContain("Take it out");
  });
  it("whole pairs and every other character are taken", async () => {
    const { status } = await post("/api/session", JSON.stringify({ email: "🚢@x.example", password: "\u0001\uffff" }));
    expect(status).toBe(401);
  });
  it("JSON nested by the million is refused before it is parsed", async () => {
    const deep = "[".repeat(1_000_000) + "]".repeat(1_000_000);
    for (const body of [deep, `{"email":${deep}}`, "[".repeat(3_000_000)]) {
      const { status, detail } = await post("/api/session", body);
      expect([status, detail]).toEqual([400, expect.stringContaining("nested more than 64 deep")]);
    }
    // Brackets in a text are letters.
    const { status } = await post("/api/session", JSON.stringify({ email: "[".repeat(200), password: '"[[\\' }));
    expect(status).toBe(401);
    expect((await post("/api/session", "{}", { "content-type": "application/json; charset=utf-16" })).detail).toContain(
      "Send it in UTF-8",
    );
  });
  it("changes asked for by another site are not made", async () => {
    const { host } = new URL(api.origin);
    for (const headers of [
      { origin: "https://elsewhere.example" },
      { origin: "null" },
      { origin: "http://127.0.0.1:1" },
      { "sec-fetch-site": "cross-site" },
      { "sec-fetch-site": "same-site" },
    ]) {
      const { status, detail } = await raw({ method: "DELETE", path: "/api/session", headers });
      expect([status, detail]).toEqual([403, expect.stringContaining("by another site")]);
    }
    expect((await api.get("/api/session")).status).toBe(200);
    const own = await raw({ method: "POST", path: "/api/session", headers: { origin: `http://${host}` } });
    expect(own.status).toBe(400);
    // Reading is not changing: the browser keeps the answer from the other page.
    expect((await raw({ path: "/api/session", headers: { origin: "https://elsewhere.example" } })).status).toBe(200);
  });
  it("are answered only for hosts the server was told to serve", async () => {
    const { status, detail } = await raw({ path: "/api/health", headers: { host: "rebound.example:80" } });
    expect([status, detail]).toEqual([403, expect.stringContaining("HACKLE_HOSTS=rebound.example")]);
    const port = new URL(api.origin).port;
    for (const host of [`localhost:${port}`, `[::1]:${port}`, "127.0.0.1"])
      expect((await raw({ path: "/api/health", headers: { host } })).status).toBe(200);
    expect([...servedHosts({ HOST: "10.0.0.5", HACKLE_HOSTS: "Review.example, other.example" })]).toEqual(
      expect.arrayContaining(["10.0.0.5", "review.example", "other.example", "localhost"]),
    );
    expect(servedHosts({ HOST: "0.0.0.0" }).has("0.0.0.0")).toBe(false);
  });
  it("signing in with one click works on the server's own machine, elsewhere only when switched on", async () => {
    const hosts = servedHosts({ HACKLE_HOSTS: "review.example" });
    const shut = await serveApi(knex, { hosts });
    const open = await serveApi(knex, { hosts, isOneClickOpen: true });
    for (const [client, expected] of [
      [shut, 403],
      [open, 200],
    ] as const) {
      const far = (path: string, method: string, body?: string) =>
        new Promise<{ status: number; text: string }>((resolve, reject) => {
          const headers = { host: "review.example", "content-type": "application/json" };
          httpRequest(client.origin + path, { method, headers }, (response) => {
            let text = "";
            response.on("data", (chunk: Buffer) => (text += chunk.toString()));
            response.on("end", () => resolve({ status: response.statusCode ?? 0, text }));
          })
            .on("error", reject)
            .end(body);
        });
      expect((await far("/api/session/sample", "POST", JSON.stringify({ email: ANALYST }))).status).toBe(expected);
      expect((await far("/api/sample-people", "GET")).text === "[]").toBe(expected === 403);
    }
    // A proxy on the same machine may name neither itself nor whom it asks for.
    expect((await shut.send("POST", "/api/session/sample", { email: ANALYST })).status).toBe(403);
    const proxied = await serveApi(knex, { proxies: ["127.0.0.1"] });
    expect((await proxied.send("POST", "/api/session/sample", { email: ANALYST })).status).toBe(403);
    expect((await proxied.send("POST", "/api/companies", {})).status).toBe(403);
    await proxied.close();
    const near = await serveApi(knex);
    expect((await near.send("POST", "/api/session/sample", { email: ANALYST })).status).toBe(200);
    for (const header of ["x-forwarded-for", "forwarded", "via", "x-real-ip"]) {
      const { status } = await near.send(
        "POST",
        "/api/session/sample",
        { email: ANALYST },
        { [header]: "203.0.113.9" },
      );
      expect([header, status]).toEqual([header, 403]);
    }
    await near.close();
    await shut.close();
    await open.close();
  });
});

describe("failed sign-ins", () => {
  const wrong = (email: string) => ({ email, password: "wrong" });
  it("of one person leave the others behind the same proxy free, who are told apart by what it says of them", async () => {
    const proxied = await serveApi(knex, { signInLimit: 3, proxies: ["loopback"] });
    const from = (address: string, email: string) =>
      proxied.send("POST", "/api/session", wrong(email), { "x-forwarded-for": address }).then(({ status }) => status);
    for (let i = 0; i < 3; i += 1) expect(await from("203.0.113.9", "a@quillhaven.example")).toBe(401);
    expect(await from("203.0.113.9", "a@quillhaven.example")).toBe(429);
    expect(await from("203.0.113.9", "b@quillhaven.example")).toBe(401);
    expect(await from("203.0.113.10", "a@quillhaven.example")).toBe(401);
    for (let i = 0; i < 42; i += 1) await from("203.0.113.9", `someone${i}@quillhaven.example`);
    expect(await from("203.0.113.9", "new@quillhaven.example")).toBe(429);
    await proxied.close();
  });
  it("are counted by the connection where no proxy is trusted, whatever a request says of itself", async () => {
    const plain = await serveApi(knex, { signInLimit: 2 });
    const as = (address: string) =>
      plain
        .send("POST", "/api/session", wrong("a@quillhaven.example"), { "x-forwarded-for": address })
        .then(({ status }) => status);
    expect([await as("203.0.113.1"), await as("203.0.113.2"), await as("203.0.113.3")]).toEqual([401, 401, 429]);
    await plain.close();
  });
  it("do not hinder a start: those that were refused count nothing against who starts a company", async () => {
    const starting = await serveApi(knex, { startLimit: 1 });
    for (let i = 0; i < 3; i += 1) expect((await starting.send("POST", "/api/companies", {})).status).toBe(400);
    await starting.close();
  });
  it("name what is no address of a proxy", () => {
    expect(() => baseApp({ logger: pino({ level: "silent" }), hosts: new Set(), proxies: ["proxy-1"] })).toThrow(
      'HACKLE_PROXIES is "proxy-1"',
    );
  });
});

describe("sessions", () => {
  it("are needed for everything but the open operations", async () => {
    const stranger = await serveApi(knex);
    for (const operation of Object.values<Operation>(OPERATIONS)) {
      if (operation.access === "anyone" || operation.method !== "get") continue;
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
    expect((await api.get("/api/health")).body).toEqual({
      product: "hackle",
      ready: true,
      database: "answers",
      memory: { is: "off" },
      engines: 0,
      process: process.pid,
    });
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
  it("takes a page's own scope for its frame, until another one is asked for", async () => {
    const page = "pack=monthly-review&page=skerry-sound";
    const scopeOf = async (query: string) =>
      ((await api.get(`/api/frame?${query}`)).body as { frame: { scope: object } }).frame.scope;
    expect(await scopeOf(page)).toEqual({ route: ["skerry-sound"] });
    expect(await scopeOf(`${page}&scope=`)).toEqual({});
    expect(await scopeOf(`${page}&scope=route:northreach`)).toEqual({ route: ["northreach"] });
    expect((await api.get("/api/frame?pack=monthly-review&page=skerry")).body).toMatchObject({
      code: "not-found",
      detail: expect.stringContaining('no page "skerry"') as string,
    });
    const asked = "kpi=fuel&side=actual";
    expect((await api.get(`/api/provenance?${page}&${asked}`)).body).toEqual(
      (await api.get(`/api/provenance?scope=route:skerry-sound&${asked}`)).body,
    );
    expect((await api.get(`/api/provenance/lines?${page}&${asked}`)).body).toEqual(
      (await api.get(`/api/provenance/lines?scope=route:skerry-sound&${asked}`)).body,
    );
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
