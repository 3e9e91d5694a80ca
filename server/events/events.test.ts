import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { ANALYST, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import type { ExpectedRangeAnswer } from "#core/panels/expected-range/schema.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** What is said of the sample's storm, and what follows from it. */
let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "events");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const answer = async <A>(panel: object, frame: object = { asOf: "2026-10" }): Promise<A> => {
  const { body } = await api.send("POST", "/api/answers", {
    frame,
    panels: [{ panel: { key: "p", ...panel }, choice: {} }],
  });
  return (JSON.parse((body as unknown as string).trim()) as { answer: A }).answer;
};
const range = () =>
  answer<ExpectedRangeAnswer>({
    kind: "expected-range",
    kpi: "carried",
    grain: "day",
    split: { dimension: "route", level: "Route" },
  });
const history = async (scope: string, kpi = "carried") =>
  (await answer<TimeChartAnswer>({ kind: "time-chart", kpi, ahead: {} }, { asOf: "2026-10", scope })).ahead!.series[0]!
    .history;
const STORM = {
  kpi: "carried",
  from: "2026-09-09",
  to: "2026-09-20",
  at: { dimension: "route", members: ["vardel-isenholm", "vardel-grey-ness"] },
  isOfWhole: true,
  verdict: "confirmed",
  reason: "Storm Ylva kept two routes in port",
};
const say = (more: object = {}) => api.send("POST", "/api/events", { ...STORM, ...more });

describe("an event that is confirmed", () => {
  let id = 0;
  it("is shown with the reason and who said so, and forecasts of where it was leave its month out", async () => {
    const before = (await range()).events;
    expect(before).toHaveLength(1);
    expect(before[0]).toMatchObject({ days: { from: STORM.from, to: STORM.to }, said: null });
    expect(before[0]!.members.map(({ key }) => key)).toEqual(STORM.at.members);
    const { status, body } = await say();
    expect(status).toBe(200);
    ({ id } = body as { id: number });
    const { events, headline } = await range();
    expect(events[0]!.said).toMatchObject({ id, verdict: "confirmed", by: "Maren Holt", reason: STORM.reason });
    expect(headline).toContain("9 to 20 September");
    const september = (keys: readonly string[]) => keys.indexOf("2026-09");
    const hit = await history("route:vardel-isenholm");
    expect(hit.known).toEqual({ confirmed: [september(hit.keys)], dismissed: [] });
    expect((await history("")).known.confirmed).toEqual([september((await history("")).keys)]);
    expect((await history("route:lantern-bay")).known.confirmed).toEqual([]);
    expect((await history("route:vardel-isenholm", "total_revenue")).known.confirmed).toEqual([]);
  });

  it("is forgotten once it is taken back, which can be done once", async () => {
    expect((await api.send("DELETE", `/api/events/${id}`)).status).toBe(204);
    expect((await range()).events[0]!.said).toBeNull();
    expect((await history("route:vardel-isenholm")).known.confirmed).toEqual([]);
    expect((await api.send("DELETE", `/api/events/${id}`)).status).toBe(404);
    expect((await api.send("DELETE", "/api/events/storm")).status).toBe(400);
  });
});

describe("an event that is dismissed", () => {
  it("is told apart, calls for nobody, and is left in forecasts; for every KPI where that is said", async () => {
    const { body } = await say({ verdict: "dismissed", isForAll: true, reason: "Every autumn is so" });
    const { events, headline } = await range();
    expect(events[0]!.said).toMatchObject({ verdict: "dismissed", isForAll: true });
    expect(headline).toContain("nothing unusual");
    const other = await history("route:vardel-isenholm", "total_revenue");
    expect(other.known).toEqual({ confirmed: [], dismissed: [other.keys.indexOf("2026-09")] });
    await api.send("DELETE", `/api/events/${(body as { id: number }).id}`);
  });
});

it("what cannot be said is refused in words", async () => {
  const refused = async (more: object) => {
    const { status, body } = await say(more);
    return [status, (body as { detail: string }).detail] as const;
  };
  expect(await refused({ at: { dimension: "route", members: ["atlantis"] } })).toEqual([
    422,
    'There is no "atlantis" among the routes looked at here.',
  ]);
  expect((await refused({ scope: "route:lantern-bay" }))[1]).toContain('no "vardel-isenholm" among the routes');
  expect((await refused({ at: { dimension: "ports", members: ["x"] } }))[0]).toBe(422);
  expect((await refused({ kpi: "nothing" }))[0]).toBe(422);
  expect((await refused({ reason: "  " }))[0]).toBe(400);
  expect((await refused({ from: "2026-02-30" }))[1]).toContain("2026-09-20");
  expect((await refused({ from: "2026-09-21" }))[1]).toContain("ends before it begins");
  await api.signIn(SKERRY_MANAGER);
  expect((await say()).status).toBe(403);
  await api.signIn(ANALYST);
});
