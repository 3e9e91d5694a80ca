import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import { forecastHistory } from "#core/ahead/forecast-history.ts";
import { told } from "#core/forecast/told.ts";
import { lookAhead } from "#core/panels/time-chart/ahead.ts";
import { timeChartTable } from "#core/panels/time-chart/table.ts";
import { valueStyle, deltaStyle } from "#core/formats/number-words.ts";
import { connect } from "#server/db/connect.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { inWriting } from "#core/formats/writing.ts";
import { WRITING } from "#core/testing/writing.ts";
import { layoutRange } from "../../web/panels/expected-range/layout.ts";
import { layoutTimeChart } from "../../web/panels/time-chart/layout.ts";
import type { AccuracyAnswer } from "#core/panels/accuracy/schema.ts";
import type { ExpectedRangeAnswer } from "#core/panels/expected-range/schema.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** Charts over time that look ahead, on the sample. */
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

type Part = Readonly<Record<string, unknown>>;
async function chart(panel: Part, choice: Part = {}, frame: Part = { asOf: "2026-10" }): Promise<TimeChartAnswer> {
  const { status, body } = await api.send("POST", "/api/answers", {
    frame,
    panels: [{ panel: { key: "c", kind: "time-chart", kpi: "total_revenue", ...panel }, choice }],
  });
  expect(status).toBe(200);
  return (JSON.parse((body as unknown as string).trim()) as { answer: TimeChartAnswer }).answer;
}
const periodsOf = (points: TimeChartAnswer["points"]) => points.map(({ period }) => period);
const valuesOf = (figures: TimeChartAnswer["points"]) =>
  figures.map(({ forecast }) => ("value" in forecast ? forecast.value : null));

describe("a chart over time that looks ahead", () => {
  it("says in its headline what is expected, beside the same months a year before", async () => {
    const answer = await chart({ ahead: { horizon: 5 } });
    const sum = valuesOf(answer.points).reduce((all: number, value) => all + (value ?? 0), 0);
    const { history } = answer.ahead!.series[0]!;
    const start = history.keys.indexOf("2025-11");
    const before = history.values.slice(start, start + 5).reduce((all: number, value) => all + value!, 0);
    const percent = `${Math.abs((sum / before - 1) * 100).toFixed(1)}%`;
    expect(answer.headline.replaceAll("\u00a0", " ")).toBe(
      `Revenue: € ${Math.round(sum / 1000).toLocaleString("en-GB")}k expected for November FY27 to March FY27, ${percent} ${sum < before ? "less" : "more"} than a year before.`,
    );
    expect((await chart({ ahead: {}, title: "Where we end" })).headline).toBe("Where we end");
    // A balance does not add up over months, nor does a rate.
    for (const kpi of ["cash_position", "operating_margin"])
      expect((await chart({ kpi, ahead: { horizon: 3 } })).headline).toMatch(/expected for January FY27\.$/);
  });

  it("goes on where the actuals end, as far as is asked for, and says what it is", async () => {
    const answer = await chart({ ahead: { horizon: 14 } });
    const ahead = answer.ahead!;
    expect(answer.closedTo).toBe("2026-10");
    expect(answer.points[ahead.from]!.period).toBe("2026-11");
    expect(answer.points).toHaveLength(ahead.from + 14);
    expect(valuesOf(answer.points).filter((value) => value !== null)).toHaveLength(14);
    expect(answer.forecastName).toBe("Forecast by model");
    expect(answer.descriptor).toContain("December FY28");
    // Open periods are compared with the budget where there is one.
    const march = answer.points.find(({ period }) => period === "2027-03")!;
    expect(march.varianceOf).toBe("forecast");
    expect((march.variance.delta as { value: number }).value).toBeCloseTo(
      (march.forecast as { value: number }).value - (march.budget as { value: number }).value,
      6,
    );
  });

  it("says in a browser what the server says, whatever is dragged", async () => {
    const changes = [{ horizon: 5 }, { horizon: 30, without: 4 }, { level: 90 }, { season: 1 }, { method: "theta" }];
    for (const panel of [{}, { kpi: "on_time_rate" }, { split: { dimension: "route", level: null } }]) {
      const first = await chart({ ...panel, ahead: {} });
      for (const change of changes) {
        const asked = await chart({ ...panel, ahead: change });
        const settings = asked.ahead!.settings;
        const preview = inWriting(WRITING, () =>
          lookAhead(
            first,
            first.ahead!.beyond,
            first.ahead!.series.map((series) => ({
              ...series,
              forecast: told(forecastHistory(series.history, settings)),
            })),
            settings,
          ),
        );
        expect([panel, change, preview.points]).toEqual([panel, change, asked.points]);
        expect(preview.parts).toEqual(asked.parts);
        expect(periodsOf(preview.ahead!.beyond)).toEqual(periodsOf(asked.ahead!.beyond));
        expect(preview.ahead!.sum).toEqual(asked.ahead!.sum);
      }
    }
  });

  it("has a model for every part of a split, and says how far their sum is from the whole's", async () => {
    const { ahead, parts } = await chart({ split: { dimension: "route", level: null }, ahead: { horizon: 6 } });
    expect(ahead!.series.map(({ name }) => name)).toEqual(["Revenue", ...parts.map(({ name }) => name)]);
    const pointsOf = (key: string) => {
      const { forecast } = ahead!.series.find((series) => series.key === key)!;
      return "points" in forecast ? forecast.points.map((point) => point!) : [];
    };
    const sum = pointsOf("").map((_, i) => parts.reduce((all, { key }) => all + pointsOf(key)[i]!, 0));
    ahead!.sum!.points.forEach((point, i) => expect(point).toBeCloseTo(sum[i]!, 3));
    // One model each, not one broken down: they differ from the whole's.
    expect(ahead!.sum!.points[0]).not.toBeCloseTo(pointsOf("")[0]!, 0);
    expect(ahead!.sum!.words).toContain("Skerry Sound, Lantern Bay and Northreach add up to");
    // Rates do not add up.
    const rates = await chart({ kpi: "on_time_rate", split: { dimension: "route", level: null }, ahead: {} });
    expect(rates.ahead!.sum).toBeNull();
    expect(rates.ahead!.series[1]!.judged!.rows[0]!.name).toBe("By its inputs");
  });

  it("follows what a reader chooses, over what is arranged", async () => {
    expect((await chart({})).ahead).toBeNull();
    expect((await chart({ ahead: {} }, { ahead: "off" })).ahead).toBeNull();
    expect((await chart({}, { ahead: "on", horizon: "3", without: "2" })).ahead!.settings).toEqual({
      horizon: 3,
      without: 2,
    });
    expect((await chart({ ahead: { horizon: 9, level: 70 } }, { horizon: "4" })).ahead!.settings).toEqual({
      horizon: 4,
      level: 70,
    });
  });

  it("never knows what came after its as-of month", async () => {
    const answer = await chart({ ahead: {} }, {}, { asOf: "2026-05" });
    expect(answer.closedTo).toBe("2026-05");
    expect(answer.ahead!.series[0]!.history.keys.at(-1)).toBe("2026-05");
    const narrowed = await chart({ ahead: {} }, {}, { asOf: "2026-10", scope: "route:northreach" });
    const whole = await chart({ ahead: {} });
    expect(narrowed.ahead!.series[0]!.history.values[0]).toBeLessThan(whole.ahead!.series[0]!.history.values[0]!);
  });

  it("is told in days, weeks, quarters and years, each with its own horizon, and laid out inside its room", async () => {
    for (const [grain, kpi, horizon] of [
      ["day", "carried", 28],
      ["week", "cancelled", 13],
      ["quarter", "total_revenue", 4],
      ["year", "total_revenue", 2],
    ] as const) {
      const answer = await chart({ kpi, grain, ahead: {} });
      expect(answer.points).toHaveLength(answer.ahead!.from + horizon);
      for (const marks of ["columns", "lines"] as const) {
        const layout = inWriting(WRITING, () =>
          layoutTimeChart({
            ...answer,
            width: 620,
            height: 320,
            marks,
            hasLabels: true,
            style: valueStyle(answer.kpi.unit, answer.kpi.decimals, "thousand"),
            deltaStyle: deltaStyle(answer.kpi.unit, answer.kpi.decimals, "thousand"),
            right: null,
          }),
        );
        const [fan] = layout.fans;
        expect(fan!.steps).toHaveLength(horizon);
        for (const { x, stretches } of fan!.steps) {
          expect(x).toBeGreaterThan(layout.plot.x);
          expect(x).toBeLessThan(620);
          for (const { top, bottom } of stretches) {
            expect(top).toBeGreaterThanOrEqual(layout.plot.y - 0.5);
            expect(bottom).toBeLessThanOrEqual(layout.plot.y + layout.plot.height + 0.5);
          }
        }
      }
    }
  });

  it("hands out its bounds with its numbers", async () => {
    const answer = await chart({ ahead: { horizon: 2 } });
    const { columns, rows } = inWriting(WRITING, () => timeChartTable(answer));
    const place = (head: string) => columns.findIndex((column) => column.head === head);
    const last = rows.at(-1)!;
    const [lower, point, upper] = ["Lower bound of 95%", "Forecast by model", "Upper bound of 95%"].map(
      (head) => last[place(head)] as number,
    );
    expect(lower!).toBeLessThan(point!);
    expect(point!).toBeLessThan(upper!);
    expect(rows[0]![place("Lower bound of 95%")]).toBeNull();
  });

  it("refuses what it cannot be, in a sentence", async () => {
    for (const choice of [
      { ahead: "on", horizon: "0" },
      { ahead: "on", level: "100" },
      { ahead: "on", method: "magic" },
    ]) {
      const { status, body } = await api.send("POST", "/api/answers", {
        frame: {},
        panels: [{ panel: { key: "c", kind: "time-chart", kpi: "total_revenue" }, choice }],
      });
      const text = JSON.stringify(body);
      expect([choice, status, text.includes('"answer"')]).toEqual([choice, status, false]);
      expect(status).toBeLessThan(500);
    }
  });
});

describe("the expected range", () => {
  const range = async (panel: Part, frame: Part = { asOf: "2026-10" }): Promise<ExpectedRangeAnswer> => {
    const { status, body } = await api.send("POST", "/api/answers", {
      frame,
      panels: [{ panel: { key: "r", kind: "expected-range", ...panel }, choice: {} }],
    });
    expect(status).toBe(200);
    return (JSON.parse((body as unknown as string).trim()) as { answer: ExpectedRangeAnswer }).answer;
  };
  const byRoute = { kpi: "carried", grain: "day", split: { dimension: "route", level: "Route" } };

  it("names the storm as one event on the two routes it stopped, and nothing else in its month", async () => {
    const { events, headline, points } = await range(byRoute, { asOf: "2026-09" });
    const september = events.filter(({ to }) => to >= "2026-09-01");
    expect(september).toHaveLength(1);
    expect(september[0]).toMatchObject({ from: "2026-09-09", to: "2026-09-20", side: "below", isOfWhole: true });
    expect(september[0]!.members.map(({ name }) => name)).toEqual(["Vardel–Isenholm", "Vardel–Grey Ness"]);
    expect(headline).toContain("9 to 20 September FY27 below the range");
    expect(headline).toMatch(/passengers fewer than expected/);
    expect(points).toHaveLength(61);
    const outside = points.filter(({ isOutside }) => isOutside);
    for (const { period } of outside) expect(period >= "2026-09-09" && period <= "2026-09-20").toBe(true);
    for (const { value, lower, upper, isOutside } of points)
      expect(isOutside).toBe(value !== null && (value < lower! || value > upper!));
  });

  it("is laid out inside its room, by day, week and month, and never above 100 % for a share", async () => {
    for (const grain of ["day", "week", "month"] as const) {
      const data = await range({ kpi: "on_time_rate", grain });
      expect(data.points.every(({ upper }) => upper! <= 1)).toBe(true);
      for (const width of [300, 900]) {
        const layout = inWriting(WRITING, () =>
          layoutRange({ data, width, height: 240, style: valueStyle(data.kpi.unit, 1, "thousand") }),
        );
        for (const { x, range: within } of layout.marks) {
          expect(x > 0 && x < width && within!.top >= 0 && within!.bottom <= 240).toBe(true);
        }
        for (const event of layout.events) expect(event.x + event.width).toBeLessThanOrEqual(width + 0.5);
      }
    }
  });

  it("says why nothing can be expected where there is no history", async () => {
    const early = await range({ kpi: "carried", grain: "week" }, { asOf: "2023-04" });
    expect(early.notFitted).toContain("No expected range yet");
    expect(early.headline).toBe("No expected range for Passengers carried yet.");
  });
});

describe("accuracy of versions", () => {
  const accuracy = async (choice: Part = {}, kpi = "total_revenue"): Promise<AccuracyAnswer> => {
    const { status, body } = await api.send("POST", "/api/answers", {
      frame: { asOf: "2026-10" },
      panels: [{ panel: { key: "a", kind: "accuracy", kpi }, choice }],
    });
    expect(status).toBe(200);
    return (JSON.parse((body as unknown as string).trim()) as { answer: AccuracyAnswer }).answer;
  };

  it("is that of the months after each was made, as a chart against it shows them", async () => {
    const { rows, headline } = await accuracy({ alike: "off" });
    expect(rows.map(({ key, months }) => [key, months])).toEqual([
      ["forecast-6-6", 1],
      ["forecast-3-9", 4],
      ["budget", 4],
      ["prior-year", 4],
    ]);
    const against = await chart({}, {}, { asOf: "2026-10", basis: "forecast-3-9" });
    const months = against.points.filter(({ period }) => period >= "2026-07" && period <= "2026-10");
    const errors = months.map(({ actual, basis }) =>
      "value" in actual && "value" in basis ? [actual.value - basis.value, actual.value] : [NaN, NaN],
    );
    const sum = (of: (error: readonly number[]) => number) => errors.reduce((all, error) => all + of(error), 0);
    const own = rows.find(({ key }) => key === "forecast-3-9")!;
    expect(own.bias).toBeCloseTo(sum(([error]) => error!) / 4, 4);
    expect(own.mae).toBeCloseTo(sum(([error]) => Math.abs(error!)) / 4, 4);
    expect(own.share).toBeCloseTo(sum(([error]) => Math.abs(error!)) / sum(([, seen]) => seen!), 10);
    expect(own.byAhead.map(({ ahead }) => ahead)).toEqual([1, 2, 3, 4]);
    for (const row of rows) if (!row.isForecast) expect(row.byAhead).toEqual([]);
    expect(headline).toMatch(/^Revenue: Forecast 6\+6 was \d+\.\d% off over October FY27; Forecast 3\+9/);
  });

  it("takes the months that all have, like for like, unless it is told otherwise", async () => {
    const { rows, notes } = await accuracy();
    expect(await accuracy({ alike: "on" })).toEqual(await accuracy());
    expect(rows.map(({ months }) => months)).toEqual([1, 1, 1, 1]);
    expect(new Set(rows.map(({ over }) => over!.name))).toEqual(new Set(["October FY27"]));
    expect(notes).toEqual(["All are judged by October FY27."]);
  });

  it("says so where no forecast has met a closed month", async () => {
    const { rows, headline } = await accuracy({}, "on_time_rate");
    expect(rows.filter(({ isForecast }) => isForecast)).toEqual([]);
    expect(headline).toBe("No forecast of On-time rate can be compared with a closed month yet.");
  });
});
