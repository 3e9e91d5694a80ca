import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { CompanyList } from "#contract/companies.ts";
import type { Session } from "#contract/session.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

/** Companies of one's own beside the sample: started, entered, left, taken along, removed; nothing of one in the other. */
let database: OwnDatabase;
let api: ApiClient;
/** The cookies of a browser, by name. */
const jar = new Map<string, string>();
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "companies");
  api = await serveApi(database.knex, { signInLimit: 1000 });
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

async function ask<T = unknown>(
  method: string,
  path: string,
  body?: unknown,
  browser = jar,
): Promise<{ status: number; body: T }> {
  const response = await fetch(api.origin + path, {
    method,
    headers: {
      cookie: [...browser].map(([name, value]) => `${name}=${value}`).join("; "),
      ...(body === undefined ? {} : { "content-type": "application/json" }),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  for (const set of response.headers.getSetCookie()) {
    const [name, value] = set.split(";")[0]!.split("=") as [string, string];
    if (value === "") browser.delete(name);
    else browser.set(name, value);
  }
  const text = await response.text();
  return {
    status: response.status,
    body: (/json/.test(response.headers.get("content-type") ?? "") ? JSON.parse(text) : text) as T,
  };
}
const detail = ({ body }: { body: unknown }) => (body as { detail: string }).detail;
const START = {
  name: "Brightwater Tiles",
  currency: "usd",
  startMonth: 1,
  administrator: { name: "Ida Moor", email: "Ida@Brightwater.example", password: "a long password" },
};

describe("a company of one's own", () => {
  it("is started empty beside the sample, with nothing of the sample in it", async () => {
    const before = await ask<CompanyList>("GET", "/api/companies");
    expect(before.body).toEqual({
      companies: [{ key: "sample", name: "Quillhaven Ferries", isSample: true }],
      entered: null,
      mayStart: true,
    });
    const started = await ask<Session>("POST", "/api/companies", START);
    expect([started.status, started.body]).toMatchObject([
      200,
      {
        email: "ida@brightwater.example",
        role: "administrator",
        company: { name: "Brightwater Tiles", isSample: false },
      },
    ]);
    expect((await ask("GET", "/api/company")).body).toEqual({
      name: "Brightwater Tiles",
      currency: "USD",
      startMonth: 1,
      numbers: "1,234.5",
      dates: "30 November 2026",
      weekStart: 1,
      isSample: false,
    });
    for (const [path, empty] of [
      ["/api/packs", []],
      ["/api/loads", { broken: [], loads: [], rows: 0, total: 0 }],
      ["/api/drafts", []],
      ["/api/sample-people", []],
      ["/api/feeds", []],
      ["/api/intakes", []],
    ] as const)
      expect([path, (await ask("GET", path)).body]).toEqual([path, empty]);
    for (const path of [
      "/api/home",
      "/api/structure",
      "/api/kpis",
      "/api/language",
      "/api/versions",
      "/api/exportable",
      "/api/people",
      "/api/frame",
      "/api/alerts",
    ]) {
      const { status, body } = await ask("GET", path);
      expect([path, status < 500, JSON.stringify(body)]).toEqual([
        path,
        true,
        expect.not.stringMatching(/quillhaven|ferr|route|vessel|passenger/i),
      ]);
    }
  });

  it("is refused a second time by the same name, and where something is missing", async () => {
    expect(detail(await ask("POST", "/api/companies", START))).toContain(
      'There is a company "Brightwater Tiles" here already',
    );
    const short = { ...START, name: "Other", administrator: { ...START.administrator, password: "short" } };
    expect((await ask("POST", "/api/companies", short)).status).toBe(400);
    expect((await ask("POST", "/api/companies", { ...START, name: "Other", currency: "dollars" })).status).toBe(400);
    expect((await ask("POST", "/api/companies", { ...START, name: "Other", startMonth: 13 })).status).toBe(400);
    expect((await ask<CompanyList>("GET", "/api/companies")).body.companies).toHaveLength(2);
    // Who looks at the list meanwhile sees it whole: a company that is being made is in it once it is there.
    const looking = (async () => {
      for (let i = 0; i < 40; i += 1)
        expect((await ask("GET", "/api/companies", undefined, new Map())).status).toBe(200);
    })();
    const [one, other] = await Promise.all([
      ask("POST", "/api/companies", { ...START, name: "At Once" }, new Map()),
      ask("POST", "/api/companies", { ...START, name: "At Once" }, new Map()),
    ]);
    expect([one.status, other.status].toSorted((a, b) => a - b)).toEqual([200, 422]);
    await looking;
  });

  it("is left and come back to without signing in again, and each keeps its own data", async () => {
    expect((await ask<CompanyList>("PUT", "/api/companies/entered", { company: "sample" })).body.entered).toBe(
      "sample",
    );
    expect((await ask("GET", "/api/session")).status).toBe(401);
    expect((await ask<Session>("POST", "/api/session/sample", { email: ANALYST })).body.company).toEqual({
      name: "Quillhaven Ferries",
      isSample: true,
      currency: "EUR",
      numbers: "1,234.5",
      dates: "30 November 2026",
    });
    expect((await ask<{ loads: unknown[] }>("GET", "/api/loads")).body.loads.length).toBeGreaterThan(5);
    await ask("PUT", "/api/companies/entered", { company: "brightwater-tiles" });
    expect((await ask<Session>("GET", "/api/session")).body.email).toBe("ida@brightwater.example");
    expect((await ask("GET", "/api/loads")).body).toMatchObject({ loads: [] });
    expect((await ask("PUT", "/api/companies/entered", { company: "atlantis" })).status).toBe(404);
    // A session of one company opens nothing of the other.
    const stolen = new Map([
      ["hackle_company", "sample"],
      ["hackle_session", jar.get("hackle_session_brightwater-tiles")!],
    ]);
    expect((await ask("GET", "/api/loads", undefined, stolen)).status).toBe(401);
  });

  it("has people whom the administrator adds, and who choose their own password first", async () => {
    const person = {
      name: "Rolf Anders",
      email: "rolf@brightwater.example",
      title: "Analyst",
      role: "analyst",
      password: "first password",
    };
    const people = (await ask<{ id: number; name: string; hasFirstPassword: boolean }[]>("POST", "/api/people", person))
      .body;
    expect(people.map(({ name, hasFirstPassword }) => [name, hasFirstPassword])).toEqual([
      ["Ida Moor", false],
      ["Rolf Anders", true],
    ]);
    expect(detail(await ask("POST", "/api/people", person))).toContain("rolf@brightwater.example is already in use");
    const rolf = new Map([["hackle_company", "brightwater-tiles"]]);
    const signed = await ask<Session>("POST", "/api/session", { email: person.email, password: person.password }, rolf);
    expect([signed.status, signed.body.mustChoosePassword]).toEqual([200, true]);
    expect(detail(await ask("GET", "/api/loads", undefined, rolf))).toContain("Change your initial password first");
    const choose = (current: string, password: string) =>
      ask<Session>("PUT", "/api/session/password", { current, password }, rolf);
    expect(detail(await choose("wrong", "another password"))).toContain("current password is wrong");
    expect(detail(await choose(person.password, person.password))).toContain("the same as the current one");
    const elsewhere = new Map([["hackle_company", "brightwater-tiles"]]);
    await ask("POST", "/api/session", { email: person.email, password: person.password }, elsewhere);
    expect((await ask("GET", "/api/session", undefined, elsewhere)).status).toBe(200);
    expect((await choose(person.password, "another password")).body.mustChoosePassword).toBe(false);
    // Whoever had the old password is out; who chose the new one stays.
    expect((await ask("GET", "/api/session", undefined, elsewhere)).status).toBe(401);
    expect((await ask("GET", "/api/loads", undefined, rolf)).status).toBe(200);
    expect((await ask("GET", "/api/people", undefined, rolf)).status).toBe(403);
    expect((await ask("PUT", "/api/company", { name: "Mine" }, rolf)).status).toBe(403);
    const [ida, other] = [people[0]!, people[1]!];
    expect(detail(await ask("PUT", `/api/people/${ida.id}`, { role: "analyst" }))).toContain(
      "is the only administrator",
    );
    expect(detail(await ask("DELETE", `/api/people/${ida.id}`))).toContain("cannot remove yourself");
    expect((await ask("PUT", `/api/people/${other.id}`, { password: "a first one again" })).status).toBe(200);
    expect((await ask("GET", "/api/session", undefined, rolf)).status).toBe(401);
    expect((await ask<unknown[]>("DELETE", `/api/people/${other.id}`)).body).toHaveLength(1);
    expect((await ask("DELETE", `/api/people/${other.id}`)).status).toBe(404);
  });

  it("tells two people who set the same, and lets those be who set different things", async () => {
    const set = (body: object) => ask<{ both?: object }>("PUT", "/api/company", body);
    const was = { name: "Brightwater Tiles", numbers: "1,234.5", weekStart: 1 };
    expect((await set({ numbers: "1.234,5", was })).status).toBe(200);
    expect((await set({ weekStart: 7, was })).status).toBe(200);
    const refused = await set({ numbers: "1 234,5", was });
    expect([refused.status, refused.body]).toMatchObject([
      409,
      { code: "changed-meanwhile", both: { current: { numbers: "1.234,5" }, yours: { numbers: "1 234,5" } } },
    ]);
    // What is so already stands against nobody; on top of what is there it is set.
    expect((await set({ numbers: "1.234,5", was })).status).toBe(200);
    expect((await set({ numbers: "1,234.5", weekStart: 1, was: { numbers: "1.234,5", weekStart: 7 } })).status).toBe(
      200,
    );
    const month = (startMonth: number, seen: number) =>
      ask("PUT", "/api/structure/calendar", { startMonth, was: { startMonth: seen } });
    expect([(await month(4, 1)).status, (await month(7, 1)).status, (await month(1, 4)).status]).toEqual([
      200, 409, 200,
    ]);
  });

  it("says its name wherever it is listed, opens to tokens of its own, and is taken along whole", async () => {
    await ask("PUT", "/api/company", { name: "Brightwater Tiles Ltd" });
    expect((await ask<CompanyList>("GET", "/api/companies")).body.companies.map(({ name }) => name)).toContain(
      "Brightwater Tiles Ltd",
    );
    const { token } = (await ask<{ token: string }>("POST", "/api/tokens", { name: "notebook" })).body;
    const byToken = await fetch(`${api.origin}/api/session`, { headers: { authorization: `Bearer ${token}` } });
    expect(((await byToken.json()) as Session).email).toBe("ida@brightwater.example");
    const file = await fetch(`${api.origin}/api/company/export.zip`, {
      headers: { cookie: [...jar].map((pair) => pair.join("=")).join("; ") },
    });
    const bytes = Buffer.from(await file.arrayBuffer());
    expect([file.status, bytes.subarray(0, 2).toString(), file.headers.get("content-disposition")]).toEqual([
      200,
      "PK",
      expect.stringContaining('filename="brightwater-tiles.zip"') as string,
    ]);
    const names = bytes.toString("latin1").match(/tables\/[a-z_]+\.csv/g) ?? [];
    expect(names).toEqual(expect.arrayContaining(["tables/company.csv", "tables/fact.csv", "tables/person.csv"]));
    expect(names).not.toContain("tables/session.csv");
  });

  it("is not there any more for whoever asks while it is being removed elsewhere", async () => {
    const browser = new Map<string, string>();
    const knex = database.knex;
    const startAnew = async () => {
      browser.clear();
      const start = { ...START, name: "Passing Trade" };
      expect((await ask("POST", "/api/companies", start, browser)).status).toBe(200);
      const { schema } = await knex("hackle_companies.space")
        .where({ key: "passing-trade" })
        .first<{ schema: string }>();
      return schema;
    };
    const removeIn = async (trx: Knex, schema: string) => {
      await trx.raw("drop schema ?? cascade", [schema]);
      await trx("hackle_companies.space").where({ schema }).delete();
    };

    // It is open here when it is removed.
    const open = await startAnew();
    expect((await ask("GET", "/api/company", undefined, browser)).status).toBe(200);
    await removeIn(knex, open);
    const gone = await ask("GET", "/api/company", undefined, browser);
    expect([gone.status, detail(gone)]).toEqual([
      401,
      "This company was removed. Choose another one, or start your own company.",
    ]);

    // It is just being opened here.
    const opening = await startAnew();
    const trx = await knex.transaction();
    await trx.raw("lock table ??.knex_migrations in access exclusive mode", [opening]);
    const asked = ask("GET", "/api/company", undefined, browser);
    await expect
      .poll(async () => {
        const { rows } = await knex.raw<{ rows: unknown[] }>(
          "select 1 from pg_stat_activity where wait_event_type = 'Lock' and query like '%knex_migrations%'",
        );
        return rows.length;
      })
      .toBe(1);
    await removeIn(trx, opening);
    await trx.commit();
    expect((await asked).status).toBe(401);
    expect((await ask("POST", "/api/companies", { ...START, name: "Passing Trade" }, browser)).status).toBe(200);
    expect((await ask("POST", "/api/company/remove", { name: "Passing Trade" }, browser)).status).toBe(204);
  });

  it("is removed whole by who writes its name, and nothing else with it", async () => {
    expect(detail(await ask("POST", "/api/company/remove", { name: "Brightwater" }))).toContain("Nothing was deleted");
    expect((await ask("POST", "/api/company/remove", { name: "Brightwater Tiles Ltd" })).status).toBe(204);
    const { rows } = await database.knex.raw<{ rows: unknown[] }>(
      "select 1 from information_schema.schemata where schema_name = (select schema from hackle_companies.space where key = 'brightwater-tiles')",
    );
    expect(rows).toEqual([]);
    expect((await ask<CompanyList>("GET", "/api/companies")).body.companies.map(({ key }) => key)).toEqual([
      "sample",
      "at-once",
    ]);
    expect((await ask<Session>("GET", "/api/session")).body.company.isSample).toBe(true);
    expect((await ask("POST", "/api/session/sample", { email: "ines.varga@quillhaven.example" })).status).toBeLessThan(
      500,
    );
  });
});
