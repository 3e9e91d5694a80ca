import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import { formatMonth, monthOf } from "#core/calendar/month.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { connect } from "#server/db/connect.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { KpiRow } from "#core/panels/parts/kpi-row.ts";
import { PANEL_CONTRACTS } from "#contract/panels/index.ts";
import type { WireFigure } from "#contract/figure.ts";
import { ANALYST, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { INDEPENDENT_KPIS, isExact, reckonIndependently, type Independent } from "#testing/independent.ts";

const SPANS = ["month", "quarter", "quarter-to-date", "year-to-date", "full-year", "trailing-12", "month-to-date"];
const BASES = ["budget", "forecast", "target", "prior-year", "prior-period"];
/** The last closed month, both sides of the fiscal year's boundary, a quarter's end, the open month, the first months, and one before anything. */
const AS_OFS = ["2026-10", "2026-04", "2026-03", "2026-09", "2026-11", "2023-04", "2023-06", "2023-03"];

let knex: Knex;
let api: ApiClient;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  api = await serveApi(knex);
});
afterAll(async () => {
  await api.close();
  await knex.destroy();
});

const lastDay = (asOf: string) =>
  asOf === "2026-11"
    ? 17
    : asOf < "2023-04" || asOf > "2026-11"
      ? 31
      : new Date(Date.UTC(Number(asOf.slice(0, 4)), Number(asOf.slice(5)), 0)).getUTCDate();
const value = (figure: WireFigure) => ("value" in figure ? figure.value : null);

async function scorecard(query: Record<string, string>): Promise<KpiRow[]> {
  const { status, body } = await api.get(
    `/api/packs/monthly-review/pages/cover/panels/scorecard?${new URLSearchParams(query).toString()}`,
  );
  expect(status).toBe(200);
  return PANEL_CONTRACTS.scorecard.answer.parse(body).groups.flatMap((g) => g.rows);
}

async function expectAgreement(
  query: Record<string, string>,
  independent: Independent,
  frame: { asOf: string; span: string; basis: string },
): Promise<number> {
  const rows = await scorecard({ ...query, ...frame });
  let present = 0;
  for (const kpi of INDEPENDENT_KPIS) {
    const row = rows.find((r) => r.kpi.key === kpi)!;
    const wanted = independent.figure(kpi, frame);
    const found = { actual: value(row.actual), basis: value(row.basis), delta: value(row.variance.delta) };
    for (const side of ["actual", "basis", "delta"] as const) {
      const place = `${kpi} ${side} ${JSON.stringify({ ...frame, ...query })}: ${JSON.stringify(row[side === "delta" ? "words" : side])}`;
      if (found[side] !== null) present += 1;
      if (wanted[side] === null || found[side] === null) expect(found[side], place).toBe(wanted[side]);
      else if (isExact(kpi) && side !== "delta") expect(found[side], place).toBe(wanted[side]);
      else
        expect(Math.abs(found[side] - wanted[side]), place).toBeLessThanOrEqual(
          1e-9 * Math.max(1, Math.abs(wanted[side]) * 1e-3),
        );
    }
  }
  return present;
}

describe("every figure of the cover equals the independent calculation", () => {
  it.each(AS_OFS)("as of %s, all spans and bases, for everything and for one sea area", async (asOf) => {
    await api.signIn(ANALYST);
    let present = 0;
    for (const area of [undefined, "northreach"]) {
      const plain = await reckonIndependently(knex, { scope: area ? { route: [area] } : {} });
      const days = await reckonIndependently(knex, {
        scope: area ? { route: [area] } : {},
        throughDay: lastDay(asOf),
      });
      for (const span of SPANS) {
        for (const basis of BASES) {
          present += await expectAgreement(
            area ? { scope: `route:${area}` } : {},
            span === "month-to-date" ? days : plain,
            { asOf, span, basis },
          );
        }
      }
    }
    // The agreement would say nothing if everything were absent: that is so only before the first month.
    if (asOf === "2023-03") expect(present).toBe(0);
    else expect(present).toBeGreaterThan(500);
  });

  it("in any scope over any dimensions, as of any month", async () => {
    await api.signIn(ANALYST);
    const months = fc.integer({ min: monthOf(2023, 2), max: monthOf(2027, 3) }).map((month) => formatMonth(month));
    const members = DIMENSIONS.map((d) =>
      fc.record({
        dimension: fc.constant(d.key),
        keys: fc.subarray(
          d.members.map((m) => m.key),
          { minLength: 1, maxLength: 3 },
        ),
      }),
    );
    const scopes = fc
      .uniqueArray(fc.oneof(...members), { selector: (s) => s.dimension, maxLength: 2 })
      .map((list) => Object.fromEntries(list.map((s) => [s.dimension, s.keys])));
    let present = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.record({ asOf: months, span: fc.constantFrom(...SPANS), basis: fc.constantFrom(...BASES) }),
        scopes,
        async (frame, scope) => {
          const independent = await reckonIndependently(knex, {
            scope,
            ...(frame.span === "month-to-date" ? { throughDay: lastDay(frame.asOf) } : {}),
          });
          present += await expectAgreement({ scope: formatScope(scope) }, independent, frame);
        },
      ),
      { numRuns: 30, endOnFailure: true },
    );
    expect(present).toBeGreaterThan(100);
  });

  it("confines an area manager to their sea area, whatever they ask for", async () => {
    await api.signIn(SKERRY_MANAGER);
    const own = await reckonIndependently(knex, { scope: { route: ["skerry-sound"] } });
    const frame = { asOf: "2026-10", span: "year-to-date", basis: "budget" };
    await expectAgreement({}, own, frame);
    await expectAgreement({ scope: "route:skerry-sound,northreach" }, own, frame);
    for (const row of await scorecard({ ...frame, scope: "route:northreach" }))
      expect(row.actual).toMatchObject({ absent: "no access" });
  });

  it("shows an empty scope as absent, with the way out", async () => {
    await api.signIn(ANALYST);
    for (const row of await scorecard({ scope: "route:" })) {
      expect(row.actual).toEqual({
        absent: "no data",
        detail: "The scope is empty: choose at least one route, or all of them.",
      });
      expect(row.variance.judgement).toBeNull();
    }
  });
});

describe("provenance", () => {
  it("has source lines that add up to the figure, and only the reader's own", async () => {
    await api.signIn(SKERRY_MANAGER);
    const query = "kpi=fuel&side=actual&asOf=2026-10&span=year-to-date";
    const figure = (await api.get(`/api/provenance?${query}`)).body as {
      figure: WireFigure;
      inputs: { figure: WireFigure }[];
      months: string[];
    };
    const lines = (await api.get(`/api/provenance/lines?${query}&limit=500`)).body as {
      total: number;
      sum: number;
      lines: { members: string[]; amount: number; load: string; line: number }[];
    };
    expect(figure.months).toHaveLength(7);
    expect(lines.sum).toBe(value(figure.figure));
    expect(lines.lines).toHaveLength(lines.total);
    expect(Math.round(lines.lines.reduce((s, l) => s + l.amount * 100, 0))).toBe(Math.round(lines.sum * 100));
    for (const line of lines.lines) expect(line.members.join()).toMatch(/Quillhaven|Tarn Point/);
  });
  it("counts the months a rate kept by quarter reads, and says that it reads whole quarters", async () => {
    await api.signIn(ANALYST);
    const { body } = await api.get("/api/provenance?kpi=on_time_rate&side=basis&basis=target");
    const { months, asked, notes } = body as { months: string[]; asked: number; notes: string[] };
    expect([months.length, asked, months.at(-1)]).toEqual([9, 9, "2026-12"]);
    expect(notes).toEqual(["Target is kept by quarter: its rate is that of April–December FY27."]);
  });
  it("finds the invoice that was posted twice on top of October's maintenance", async () => {
    await api.signIn(ANALYST);
    const { body } = await api.get("/api/provenance/lines?kpi=maintenance&side=actual&span=month&limit=2");
    const { lines } = body as { lines: { reference: string; amount: number }[] };
    expect(lines.map((l) => [l.reference, l.amount])).toEqual([
      ["INV-20618", 184_000],
      ["INV-20618", 184_000],
    ]);
  });
});
