import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { VersionLine, VersionList } from "#contract/versions.ts";
import { ANALYST, SKERRY_MANAGER, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { forecastMany } from "./forecast-many.ts";
import type { BreakdownAnswer } from "#core/panels/breakdown/schema.ts";
import type { OutlookAnswer } from "#core/panels/outlook/schema.ts";
import type { ScorecardAnswer } from "#core/panels/scorecard/schema.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** Versions that are made from forecasts, on the sample. */
let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "versions");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const BY_AREA = { dimension: "route", level: null };
const post = async (body: object) => {
  const { status, body: answer } = await api.send("POST", "/api/versions", body);
  if (typeof answer !== "string") return { status, problem: answer as { detail: string }, lines: [] };
  const lines = answer
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as VersionLine);
  return { status, problem: null, lines };
};
const answer = async <A>(panel: object, frame: object = { asOf: "2026-10" }): Promise<A> => {
  const { body } = await api.send("POST", "/api/answers", {
    frame,
    panels: [{ panel: { key: "p", ...panel }, choice: {} }],
  });
  return (JSON.parse((body as unknown as string).trim()) as { answer: A }).answer;
};
const list = async () => ((await api.get("/api/versions")).body as VersionList).versions;
const change = (key: string, body: object) => api.send("POST", `/api/versions/${key}`, body);
const outlook = async (sources: readonly string[]) =>
  (await answer<OutlookAnswer>({ kind: "outlook", kpi: "total_revenue", sources })).rows;
const valueOf = (figure: object | undefined) => (figure && "value" in figure ? (figure.value as number) : null);

describe("a forecast that is posted", () => {
  it("becomes an open version whose figures are those of the chart, part by part and as a whole", async () => {
    const chart = await answer<TimeChartAnswer>({
      kind: "time-chart",
      kpi: "total_revenue",
      split: BY_AREA,
      ahead: { horizon: 9 },
    });
    const { lines } = await post({
      name: "Forecast 7+5",
      kpi: "total_revenue",
      split: BY_AREA,
      settings: { horizon: 9 },
    });
    const last = lines.at(-1)!;
    expect(last).toMatchObject({ version: "forecast-7-5", name: "Forecast 7+5" });
    const told = lines.flatMap((line) => ("done" in line ? [line] : []));
    expect(told.length).toBeGreaterThan(1);
    expect(told.map(({ done }) => done)).toEqual(told.map(({ done }) => done).toSorted((a, b) => a - b));
    const posted = await answer<TimeChartAnswer>(
      { kind: "time-chart", kpi: "total_revenue", last: 24, split: BY_AREA },
      { asOf: "2026-10", basis: "forecast-7-5" },
    );
    for (const { period, basis } of posted.points) {
      const step = chart.points.findIndex((point) => point.period === period) - chart.ahead!.from;
      if (step < 0) continue;
      // Each part is kept in whole cents.
      const cents = chart
        .ahead!.series.filter(({ key }) => key !== "")
        .map(({ forecast }) => ("points" in forecast ? Math.round(forecast.points[step]! * 100) : NaN));
      expect([period, Math.round(valueOf(basis)! * 100)]).toEqual([period, cents.reduce((all, one) => all + one)]);
    }
    // Its closed months of the year are the actuals, so that it is a whole year.
    const august = posted.points.find(({ period }) => period === "2026-08")!;
    expect(valueOf(august.basis)).toBeCloseTo(valueOf(august.actual)!, 2);
    const north = chart.ahead!.series.find(({ name }) => name === "Northreach")!;
    const narrow = await answer<TimeChartAnswer>(
      { kind: "time-chart", kpi: "total_revenue" },
      { asOf: "2026-10", basis: "forecast-7-5", scope: "route:northreach" },
    );
    const november = narrow.points.find(({ period }) => period === "2026-11")!;
    expect(valueOf(november.basis)).toBeCloseTo("points" in north.forecast ? north.forecast.points[0]! : NaN, 1);
  });

  it("says who made it, when and how, and is no latest forecast before it is frozen", async () => {
    const before = (await list()).find(({ key }) => key === "forecast-7-5")!;
    expect(before).toMatchObject({
      isOpen: true,
      isLatest: false,
      madeAfter: { month: "2026-10" },
      made: {
        by: "Maren Holt",
        kpi: { key: "total_revenue" },
        settings: { horizon: 9 },
        of: "for everything by sea area",
      },
    });
    expect(before.made!.models.map(({ name }) => name)).toHaveLength(3);
    const [open] = await outlook(["latest"]);
    expect(open!.name).toBe("Forecast 6+6");
    expect((await change("forecast-7-5", { isOpen: false })).status).toBe(200);
    const [frozen, own] = await outlook(["latest", "forecast-7-5"]);
    expect(frozen!.name).toBe("Forecast 7+5");
    expect(frozen!.figure).toEqual(own!.figure);
    // A KPI that the latest one does not have goes by the latest that has it.
    const { rows } = await answer<OutlookAnswer>({ kind: "outlook", kpi: "operating_result", sources: ["latest"] });
    expect(rows[0]!.note).toBe("7 closed months, then Forecast 6+6.");
    expect((await change("forecast-7-5", { isRetired: true, name: "Old 7+5" })).status).toBe(200);
    expect((await outlook(["latest"]))[0]!.name).toBe("Forecast 6+6");
    expect((await list()).find(({ key }) => key === "forecast-7-5")).toMatchObject({
      name: "Old 7+5",
      isRetired: true,
    });
  });

  it("begins after the last actual, also where the last periods were left out of it", async () => {
    const settings = { horizon: 6, without: 2 };
    const chart = await answer<TimeChartAnswer>({ kind: "time-chart", kpi: "fuel", ahead: settings });
    const { lines } = await post({ name: "Without two", kpi: "fuel", split: null, settings });
    expect(lines.at(-1)).toMatchObject({ version: "without-two" });
    const posted = await answer<TimeChartAnswer>(
      { kind: "time-chart", kpi: "fuel" },
      { asOf: "2026-10", basis: "without-two" },
    );
    for (const period of ["2026-11", "2026-12", "2027-01", "2027-02"]) {
      const [of, seen] = [chart, posted].map(({ points }) => points.find((point) => point.period === period)!);
      expect([period, valueOf(seen!.basis)]).toEqual([period, expect.closeTo(valueOf(of!.forecast)!, 1)]);
    }
    const [march, october] = ["2027-03", "2026-10"].map((key) => posted.points.find(({ period }) => period === key)!);
    expect(valueOf(march!.basis)).toBeNull();
    expect(valueOf(october!.basis)).toBeCloseTo(valueOf(october!.actual)!, 2);
  });

  it("is undone as any load is", async () => {
    const { lines } = await post({ name: "To be undone", kpi: "fuel", split: null, settings: { horizon: 3 } });
    expect(lines.at(-1)).toMatchObject({ version: "to-be-undone" });
    const [load] = (await list()).find(({ key }) => key === "to-be-undone")!.loads;
    expect((await api.send("POST", `/api/loads/${load!.id}/undo`)).status).toBe(200);
    expect((await list()).find(({ key }) => key === "to-be-undone")!.months).toBe("nothing yet");
  });

  it("is refused with a reason, and keeps nothing then", async () => {
    const count = (await list()).length;
    const refused = async (body: object) => {
      const { status, problem, lines } = await post({
        name: "X",
        kpi: "total_revenue",
        split: null,
        settings: {},
        ...body,
      });
      return [status, problem?.detail ?? lines.flatMap((line) => ("refused" in line ? [line.refused] : []))[0]];
    };
    expect(await refused({ name: "budget" })).toEqual([
      422,
      "There is a scenario budget already. Choose another name.",
    ]);
    expect((await refused({ kpi: "nothing" }))[0]).toBe(422);
    expect((await refused({ name: " " }))[0]).toBe(400);
    expect((await refused({ scope: "route:northreach,lantern-bay" }))[1]).toContain("for one member of a dimension");
    expect((await refused({ settings: { horizon: 0 } }))[0]).toBe(400);
    expect((await change("actual", { isRetired: true })).status).toBe(404);
    expect((await change("budget", { isOpen: true })).status).toBe(422);
    expect((await change("forecast-6-6", {})).status).toBe(400);
    expect((await change("forecast-6-6", { name: "Budget" })).status).toBe(422);
    expect((await list()).length).toBe(count);
  });
});

describe("a version that is worked on", () => {
  const send = (path: string, body: object = {}) => api.send("POST", `/api/versions/${path}`, body);
  const detail = ({ body }: { body: unknown }) => (body as { detail?: string }).detail;
  /** Revenue of a version by month, for everything or in a scope. */
  const months = async (key: string, scope = ""): Promise<Map<string, number | null>> => {
    const frame = { asOf: "2026-10", shown: key, span: "full-year", ...(scope === "" ? {} : { scope }) };
    const { points } = await answer<TimeChartAnswer>({ kind: "time-chart", kpi: "total_revenue" }, frame);
    return new Map(points.map(({ period, actual }) => [period, valueOf(actual)]));
  };
  const adjust = (key: string, body: object) =>
    send(`${key}/adjustments`, {
      kpi: "total_revenue",
      from: "2026-11",
      to: "2026-12",
      kind: "percent",
      value: 10,
      reason: "A charter is signed",
      ...body,
    });

  it("is copied from any other, month by month and part by part, and can be adjusted then", async () => {
    expect((await send("forecast-6-6/copy", { name: "Ours" })).status).toBe(200);
    expect(await months("ours")).toEqual(await months("forecast-6-6"));
    expect(await months("ours", "route:northreach")).toEqual(await months("forecast-6-6", "route:northreach"));
    expect((await list()).find(({ key }) => key === "ours")).toMatchObject({ isOpen: true, isLatest: false });
    expect(detail(await send("forecast-6-6/copy", { name: "ours" }))).toContain("There is a scenario ours already");
    expect(detail(await send("target/copy", { name: "Half" }))).toContain("kept by quarter");
    expect((await send("nothing/copy", { name: "X" })).status).toBe(404);
    expect(detail(await adjust("forecast-6-6", {}))).toContain("Forecast 6+6 is frozen");
  });

  it("is adjusted with a reason, beside what it was before, in its open months alone", async () => {
    const before = await months("ours");
    const north = await months("ours", "route:northreach");
    expect((await adjust("ours", { scope: "route:northreach", from: "2026-04" })).status).toBe(200);
    const after = await months("ours");
    const added = (month: string) => north.get(month)! * 0.1;
    // The copy was made after September; what is closed is no forecast.
    for (const [month, value] of before)
      expect([month, after.get(month)]).toEqual([
        month,
        expect.closeTo(value! + (month >= "2026-10" && month <= "2026-12" ? added(month) : 0), 1),
      ]);
    const ours = (await list()).find(({ key }) => key === "ours")!;
    expect(ours.adjustments).toMatchObject([{ reason: "A charter is signed", by: "Maren Holt" }]);
    expect(ours.adjustments[0]!.words).toBe("Revenue for Northreach, April–December FY27: +10.0%");
    expect(await months(ours.modelPart!)).toEqual(before);
    // To an amount, on top of it.
    expect((await adjust("ours", { kind: "set", value: 9_000_000.25, from: "2027-01", to: "2027-01" })).status).toBe(
      200,
    );
    expect((await months("ours")).get("2027-01")).toBe(9_000_000.25);
    const load = (await list()).find(({ key }) => key === "ours")!.loads[0]!;
    expect(detail(await api.send("POST", `/api/loads/${load.id}/undo`))).toContain("follows from its adjustments");
  });

  it("tells nobody of adjustments where they see nothing, nor why they were made", async () => {
    const told = async (email: string) => {
      await api.signIn(email);
      return (await list()).find(({ key }) => key === "ours")!.adjustments.map(({ words }) => words);
    };
    expect(await told(SKERRY_MANAGER)).toEqual([]);
    expect(await told("ines.varga@quillhaven.example")).toEqual([
      "Revenue for Northreach, April–December FY27: +10.0%",
    ]);
    expect(await told(ANALYST)).toHaveLength(2);
  });

  it("takes an adjustment back, and refuses in words what cannot be adjusted", async () => {
    const before = await months((await list()).find(({ key }) => key === "ours")!.modelPart!);
    const [first, second] = (await list()).find(({ key }) => key === "ours")!.adjustments;
    const back = (id: number) => api.send("DELETE", `/api/versions/ours/adjustments/${id}`);
    expect((await back(first!.id)).status).toBe(200);
    const left = await months("ours");
    expect(left.get("2026-11")).toBe(before.get("2026-11"));
    expect(left.get("2027-01")).toBe(9_000_000.25);
    expect((await back(first!.id)).status).toBe(404);
    expect((await back(second!.id)).status).toBe(200);
    expect(await months("ours")).toEqual(before);
    expect(detail(await adjust("ours", { kpi: "operating_margin" }))).toContain("adjust one of the amounts");
    expect(detail(await adjust("ours", { from: "2026-05", to: "2026-06" }))).toContain("has nothing of Revenue there");
    expect(detail(await adjust("ours", { scope: "route:atlantis" }))).toContain('no route "atlantis"');
    expect((await adjust("ours", { reason: " " })).status).toBe(400);
    expect((await adjust("ours", { to: "2026-10" })).status).toBe(400);
    expect((await list()).find(({ key }) => key === "ours")!.adjustments).toEqual([]);
  });

  it("is fitted anew, and keeps what was adjusted", async () => {
    const { lines } = await post({
      name: "Fitted",
      kpi: "total_revenue",
      split: null,
      asOf: "2026-07",
      settings: { horizon: 8 },
    });
    expect(lines.at(-1)).toMatchObject({ version: "fitted" });
    await adjust("fitted", { from: "2026-10", to: "2026-11" });
    const old = await months("fitted");
    const { status, body } = await send("fitted/refit");
    expect(status).toBe(200);
    const told = (body as unknown as string).trim().split("\n");
    expect(JSON.parse(told.at(-1)!)).toMatchObject({ version: "fitted", name: "Fitted" });
    const fitted = (await list()).find(({ key }) => key === "fitted")!;
    expect(fitted.madeAfter!.month).toBe("2026-10");
    const [model, now] = [await months(fitted.modelPart!), await months("fitted")];
    expect(model.get("2026-11")).not.toBeCloseTo(old.get("2026-11")! / 1.1, 0);
    expect(now.get("2026-11")).toBeCloseTo(model.get("2026-11")! * 1.1, 1);
    // October is closed since: nobody changes an actual.
    const actual = await answer<TimeChartAnswer>({ kind: "time-chart", kpi: "total_revenue" });
    const october = actual.points.find(({ period }) => period === "2026-10")!.actual;
    expect(now.get("2026-10")).toBeCloseTo(valueOf(october)!, 2);
    expect(detail(await send("ours/refit"))).toContain("was not made by models");
    expect(detail(await send("forecast-6-6/refit"))).toContain("is frozen");
  });
});

describe("a version in the place of the actual", () => {
  const scorecard = (frame: object) =>
    answer<ScorecardAnswer>(
      {
        kind: "scorecard",
        groups: [{ title: "All", kpis: ["total_revenue", "operating_margin"] }],
        columns: ["actual", "basis", "delta", "delta-percent"],
      },
      { asOf: "2026-10", span: "full-year", ...frame },
    );
  const rowsOf = ({ groups }: ScorecardAnswer) => groups.flatMap(({ rows }) => rows);
  it("is compared with another one over the whole year, as each is by itself, in any panel", async () => {
    const both = await scorecard({ shown: "forecast-6-6", basis: "budget" });
    expect(both.frame.words).toMatchObject({ shown: "Forecast 6+6", spanMonths: "April–March FY27", isOpen: false });
    const turned = await scorecard({ shown: "budget", basis: "forecast-6-6" });
    for (const [i, row] of rowsOf(both).entries()) {
      const other = rowsOf(turned)[i]!;
      expect([valueOf(row.actual), valueOf(row.basis)]).toEqual([valueOf(other.basis), valueOf(other.actual)]);
      expect(valueOf(row.variance.delta)).toBeCloseTo(-valueOf(other.variance.delta)!, 6);
    }
    const frame = { asOf: "2026-10", span: "full-year", shown: "forecast-6-6", basis: "budget" };
    const chart = await answer<TimeChartAnswer>({ kind: "time-chart", kpi: "total_revenue" }, frame);
    const [revenue] = rowsOf(both);
    const added = (pick: (point: TimeChartAnswer["points"][number]) => object) =>
      chart.points.reduce((sum, point) => sum + valueOf(pick(point))!, 0);
    expect(added(({ actual }) => actual)).toBeCloseTo(valueOf(revenue!.actual)!, 2);
    expect(added(({ variance }) => variance.delta)).toBeCloseTo(valueOf(revenue!.variance.delta)!, 2);
    const byArea = await answer<BreakdownAnswer>(
      {
        kind: "breakdown",
        kpis: ["total_revenue"],
        by: BY_AREA,
        cluster: null,
        stacking: "clustered",
        order: "set",
        isReversed: false,
        top: null,
      },
      frame,
    );
    expect(byArea.rows.reduce((sum, { row }) => sum + valueOf(row.variance.delta)!, 0)).toBeCloseTo(
      valueOf(revenue!.variance.delta)!,
      2,
    );
    // The forecast of it is its own months, and no other version's.
    expect(chart.forecastName).toBeNull();
    expect(chart.points.every(({ actual }) => valueOf(actual) !== null)).toBe(true);
  });

  it("leaves histories, outlooks and the prior year to the actual, and is refused by name where there is none", async () => {
    const frame = { asOf: "2026-10", shown: "budget", basis: "prior-year", span: "year-to-date" };
    const chart = await answer<TimeChartAnswer>({ kind: "time-chart", kpi: "total_revenue", ahead: {} }, frame);
    const plain = await answer<TimeChartAnswer>({ kind: "time-chart", kpi: "total_revenue", ahead: {} });
    expect(chart.ahead!.series[0]!.history).toEqual(plain.ahead!.series[0]!.history);
    // What was expected of the actual is not held against a version.
    const marked = { kind: "scorecard", groups: [{ title: "All", kpis: ["on_time_rate"] }], marksOutside: true };
    const september = { asOf: "2026-09", span: "month" };
    const [own] = rowsOf(await answer<ScorecardAnswer>(marked, september));
    expect(own!.outside).toMatchObject({ month: "2026-09", name: "September FY27" });
    const [other] = rowsOf(await answer<ScorecardAnswer>(marked, { ...september, shown: "budget" }));
    expect(other!.outside).toBeNull();
    const banded = await answer<TimeChartAnswer>({ kind: "time-chart", kpi: "total_revenue", range: 95 }, frame);
    expect([banded.band, banded.notes.join(" ")]).toEqual([
      null,
      expect.stringContaining("not drawn for a forecast version"),
    ]);
    const { status, body } = await api.get("/api/frame?shown=forcast-6-6");
    expect(status).toBe(422);
    expect((body as { detail: string }).detail).toContain('Is "forecast-6-6" meant?');
  });
});

describe("many forecasts", () => {
  const history = (seed: number) => ({
    grain: "month" as const,
    values: Array.from({ length: 43 }, (_, t) => 100 + 20 * Math.sin((t * Math.PI) / 6) + ((t * seed) % 7)),
    first: { month: 24_279, day: null },
    keys: [],
    known: { confirmed: [], dismissed: [] },
    isFlow: true,
    isShare: false,
    made: null,
  });
  it("come in their order, with how far they are, and stop when they are given up", async () => {
    const histories = Array.from({ length: 12 }, (_, i) => history(i + 1));
    let last: unknown;
    for await (const news of forecastMany(histories, { horizon: 3 })) last = news;
    const { forecasts } = last as { forecasts: { points: number[] }[] };
    expect(forecasts).toHaveLength(12);
    expect(forecasts.every(({ points }) => points.length === 3)).toBe(true);
    const controller = new AbortController();
    const begun: unknown[] = [];
    const run = async () => {
      for await (const news of forecastMany(
        Array.from({ length: 400 }, (_, i) => history(i)),
        {},
        controller.signal,
      )) {
        begun.push(news);
        if (begun.length === 3) controller.abort(new Error("given up"));
      }
    };
    await expect(run()).rejects.toThrow();
    expect(begun.length).toBeLessThan(10);
  });
});
