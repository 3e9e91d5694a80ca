import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import { formatMonth, monthOf } from "#core/calendar/month.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { connect } from "#server/db/connect.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { inWriting } from "#core/formats/writing.ts";
import { WRITING } from "#core/testing/writing.ts";
import { resolveFrame } from "#core/frame/resolve-frame.ts";
import { compareKpi } from "#core/compare/compare-kpi.ts";
import { computeOutlook } from "#core/panels/outlook/compute.ts";
import { measureContext } from "#core/panels/panel-question.ts";
import { computeScorecard } from "#core/panels/scorecard/compute.ts";
import { readablePanels } from "#contract/pack.ts";
import { PANEL_SCHEMAS } from "#core/panels/schemas.ts";
import type { Figure } from "#core/figures/schema.ts";
import { structureReader } from "#server/db/structure.ts";
import { readPack } from "#server/packs/packs.ts";
import { ANALYST, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { memoryBook } from "#testing/fact-cells.ts";
import { Agreement, AS_OFS, BASES, framesOf, pairwiseFrames, SPANS, valueOf } from "#testing/frame-sweep.ts";
import { INDEPENDENT_KPIS, independentSums, readFactTable } from "#testing/independent.ts";
import type { KpiRow } from "#core/panels/parts/schema.ts";

let knex: Knex;
let api: ApiClient;
let sums: ReturnType<typeof independentSums>;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  api = await serveApi(knex);
  sums = independentSums(await readFactTable(knex));
});
afterAll(async () => {
  await api.close();
  await knex.destroy();
});

const PANEL = "/api/packs/monthly-review/pages/cover/panels/scorecard";
async function scorecard(query: Record<string, string>): Promise<KpiRow[]> {
  const { status, body } = await api.get(`${PANEL}?${new URLSearchParams(query).toString()}`);
  expect(status).toBe(200);
  return PANEL_SCHEMAS.scorecard.answer.parse(body).groups.flatMap((g) => g.rows);
}
const overHttp = () =>
  new Agreement(sums, (frame, scope) =>
    scorecard({ ...frame, ...(Object.keys(scope).length > 0 ? { scope: formatScope(scope) } : {}) }),
  );
/** The same panel without server and database: cells from the facts in memory. */
const inProcess = async () => {
  const company = await structureReader(knex)();
  const { pages } = await readPack(knex, "monthly-review", "");
  const panel = readablePanels(pages[0]!)
    .map(({ definition }) => definition)
    .find(({ kind }) => kind === "scorecard");
  if (panel?.kind !== "scorecard") throw new Error("the cover has no scorecard");
  return new Agreement(sums, (frame, scope) => {
    const asked = resolveFrame({ ...frame, scope: formatScope(scope) || undefined }, company, {}, {});
    const answer = inWriting(WRITING, () => computeScorecard(panel, { company, access: {}, asked, cells }));
    return Promise.resolve(answer.groups.flatMap((g) => g.rows));
  });
};
const cells = memoryBook();
const months = fc.integer({ min: monthOf(2023, 2), max: monthOf(2027, 3) }).map((month) => formatMonth(month));
const scopes = fc
  .uniqueArray(
    fc.oneof(
      ...DIMENSIONS.map((d) =>
        fc.record({
          dimension: fc.constant(d.key),
          keys: fc.subarray(
            d.members.map((m) => m.key),
            { minLength: 1, maxLength: 3 },
          ),
        }),
      ),
    ),
    { selector: (s) => s.dimension, minLength: 1, maxLength: 2 },
  )
  .map((list) => Object.fromEntries(list.map((s) => [s.dimension, s.keys])));

describe("every figure of the cover equals the independent calculation", () => {
  it.each(AS_OFS)("as of %s, in all spans and bases, for everything and for one sea area", async (asOf) => {
    const agreement = await inProcess();
    for (const scope of [{}, { route: ["northreach"] }])
      for (const frame of framesOf(asOf)) await agreement.check(frame, scope);
    // The agreement would say nothing if everything were absent: that is so only before the first month.
    if (asOf === "2023-03") expect(agreement.present).toBe(0);
    else expect(agreement.present).toBeGreaterThan(700);
  });

  it("over HTTP and SQL, in each pair of as-of month, span and basis", async () => {
    await api.signIn(ANALYST);
    const agreement = overHttp();
    for (const [i, frame] of pairwiseFrames().entries())
      await agreement.check(frame, i % 2 === 0 ? {} : { route: ["northreach"] });
    expect(agreement.present).toBeGreaterThan(900);
  });

  it("in any scope over any dimensions, as of any month", async () => {
    await api.signIn(ANALYST);
    const agreement = overHttp();
    await fc.assert(
      fc.asyncProperty(
        fc.record({ asOf: months, span: fc.constantFrom(...SPANS), basis: fc.constantFrom(...BASES) }),
        scopes,
        (frame, scope) => agreement.check(frame, scope),
      ),
      { numRuns: 30, endOnFailure: true },
    );
    expect(agreement.present).toBeGreaterThan(100);
  });

  it("has an outlook, its Δ and the gap per month by every source, in any scope, as of any month", async () => {
    await api.signIn(ANALYST);
    const company = await structureReader(knex)();
    const sources = ["latest", "budget", "forecast-3-9", "forecast-6-6", "run-rate", "prior-year"] as const;
    let present = 0;
    fc.assert(
      fc.property(
        fc.record({ asOf: months, basis: fc.constantFrom(...BASES.slice(0, 4)) }),
        fc.oneof(fc.constant({}), scopes),
        (frame, scope) => {
          const asked = resolveFrame({ ...frame, scope: formatScope(scope) || undefined }, company, {}, {});
          const question = { company, access: {}, asked, cells };
          for (const kpi of INDEPENDENT_KPIS) {
            const panel = { kind: "outlook", key: "outlook", kpi, sources } as const;
            const answer = inWriting(WRITING, () => computeOutlook(panel, {}, question));
            for (const source of sources) {
              const row = answer.rows.find(({ key }) => key === source)!;
              const wanted = sums(scope).outlook(kpi, { ...frame, source });
              const found = {
                figure: valueOf(row.figure),
                basis: valueOf(answer.basis),
                delta: valueOf(row.variance.delta),
                gap: answer.gap ? valueOf(answer.gap.needed) : null,
              };
              for (const part of ["figure", "basis", "delta", "gap"] as const) {
                const place = `${kpi} ${part} by ${source} ${JSON.stringify({ ...frame, scope })}: ${JSON.stringify(row)}`;
                if (found[part] !== null) present += 1;
                if (wanted[part] === null || found[part] === null) expect(found[part], place).toBe(wanted[part]);
                else
                  expect(Math.abs(found[part] - wanted[part]), place).toBeLessThanOrEqual(
                    1e-9 * Math.max(1, Math.abs(wanted[part])),
                  );
              }
              // The span with this outlook is the same figure.
              if (source === "run-rate" || source === "prior-year") continue;
              const span = resolveFrame(
                { ...frame, span: "full-year-with-outlook", outlook: source, scope: formatScope(scope) || undefined },
                company,
                {},
                {},
              );
              const compared = compareKpi(
                company.kpis.get(kpi)!,
                span.frame,
                measureContext({ ...question, asked: span }),
              );
              expect([kpi, source, frame, scope, valueOf(compared.actual.figure)]).toEqual([
                kpi,
                source,
                frame,
                scope,
                found.figure,
              ]);
            }
          }
        },
      ),
      { numRuns: 40, endOnFailure: true },
    );
    expect(present).toBeGreaterThan(1000);
  });

  it("confines an area manager to their sea area, whatever they ask for", async () => {
    await api.signIn(SKERRY_MANAGER);
    const agreement = overHttp();
    const own = { route: ["skerry-sound"] };
    const frame = { asOf: "2026-10", span: "year-to-date", basis: "budget" };
    await agreement.check(frame, {}, own);
    await agreement.check(frame, { route: ["skerry-sound", "northreach"] }, own);
    expect(agreement.present).toBeGreaterThan(50);
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
      figure: Figure;
      inputs: { figure: Figure }[];
      months: string[];
    };
    const lines = (await api.get(`/api/provenance/lines?${query}&limit=500`)).body as {
      total: number;
      sum: number;
      lines: { members: string[]; amount: number; load: string; line: number }[];
    };
    expect(figure.months).toHaveLength(7);
    expect(lines.sum).toBe(valueOf(figure.figure));
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
