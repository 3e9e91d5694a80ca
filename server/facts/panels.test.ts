import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import { inWriting } from "#core/formats/writing.ts";
import { WRITING } from "#core/testing/writing.ts";
import { formatMonth, monthOf } from "#core/calendar/month.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { Company } from "#core/frame/company.ts";
import { QuestionRefused } from "#core/frame/question-refused.ts";
import { resolveFrame } from "#core/frame/resolve-frame.ts";
import { PANEL_COMPUTATIONS } from "#core/panels/index.ts";
import type { PanelKind } from "#core/panels/schemas.ts";
import type { PanelQuestion } from "#core/panels/panel-question.ts";
import type { PanelAnswer, PanelDefinition } from "#core/panels/schemas.ts";
import { connect } from "#server/db/connect.ts";
import { structureReader } from "#server/db/structure.ts";
import { memoryBook } from "#testing/fact-cells.ts";
import { RECALCULATED, type Ground, type Held } from "#testing/independent-panels.ts";
import { independentSums, readFactTable, type FactTable } from "#testing/independent.ts";

/** Every kind of panel, its figures worked out a second time from the facts: over random settings, frames and people. */
let knex: Knex;
let company: Company;
let table: FactTable;
let sums: ReturnType<typeof independentSums>;
const cells = memoryBook();
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  company = await structureReader(knex)();
  table = await readFactTable(knex);
  sums = independentSums(table);
});
afterAll(() => knex.destroy());

const FLOWS = ["total_revenue", "tickets", "freight", "fuel", "maintenance", "passenger_count", "operating_result"];
const RATES = ["operating_margin", "onboard_spend", "on_time_rate", "load_factor"];
const flow = fc.constantFrom(...FLOWS);
const kpi = fc.constantFrom(...FLOWS, ...RATES, "cash_position");
const by = fc.constantFrom(
  { dimension: "route", level: "Sea area" },
  { dimension: "route", level: "Route" },
  { dimension: "vessel", level: null },
  { dimension: "service", level: null },
  { dimension: "home-market", level: null },
);
const order = fc.constantFrom("value", "delta", "name", "tree") as fc.Arbitrary<never>;
const periodic = fc.record({
  kind: fc.constant("time"),
  grain: fc.constantFrom("month", "quarter", "year"),
  last: fc.constant(null),
});
const member = by.map((own) => ({ kind: "member", ...own }));
const axis = fc.oneof(
  by.map((own) => ({ kind: "member", ...own, hasTotal: true })),
  fc.constantFrom(
    { kind: "period", grain: "month", hasTotal: true },
    { kind: "period", grain: "quarter", hasTotal: true },
    { kind: "kpi" },
    { kind: "scenario" },
  ),
);

/** Settings of each kind, of which any may be drawn. */
const DEFINITIONS: { readonly [K in PanelKind]: fc.Arbitrary<object> } = {
  scorecard: fc.record({
    groups: fc.uniqueArray(kpi, { minLength: 1, maxLength: 5 }).map((kpis) => [{ title: "", kpis }]),
    columns: fc.constant(["actual", "basis", "delta", "prior-year", "growth", "to-date", "trend"]),
  }),
  tiles: fc.record({
    kpis: fc.uniqueArray(kpi, { minLength: 1, maxLength: 3 }),
    second: fc.constantFrom(undefined, "total_revenue"),
    repeatBy: fc.oneof(fc.constant(null), by),
    order: fc.constant("tree"),
    isReversed: fc.boolean(),
    top: fc.constantFrom(null, 3),
  }),
  "time-chart": fc.record({
    kpi,
    grain: fc.constantFrom("month", "quarter", "year"),
    split: fc.oneof(fc.constant(undefined), by),
    right: fc.constantFrom(undefined, "on_time_rate"),
  }),
  bridge: fc.record({
    kpi: flow,
    from: fc.constantFrom("basis", "prior-year", "prior-period", "to-date"),
    by: fc.oneof(
      fc.constant({ kind: "account" }),
      fc.constant({ kind: "month" }),
      member,
      fc.constant({ kind: "effects", quantity: "passenger_count", dimension: "route", level: "Route" }),
    ),
    order: fc.constantFrom("tree", "effect"),
    top: fc.constantFrom(null, 3),
    hasSubtotals: fc.boolean(),
  }),
  breakdown: fc.record({
    kpis: kpi.map((own) => [own, "fuel", "freight"]),
    by,
    cluster: fc.constantFrom<object | null>(
      null,
      { kind: "scenarios" },
      { kind: "kpis" },
      { kind: "dimension", dimension: "service", level: null },
    ),
    stacking: fc.constant("clustered"),
    order,
    isReversed: fc.boolean(),
    top: fc.constantFrom(null, 3),
  }),
  heat: fc.record({
    kpi,
    rows: fc.oneof(member, fc.constant({ kind: "year" })),
    columns: fc.constant({ kind: "month" }),
    shade: fc.constantFrom("value", "judgement"),
    years: fc.constantFrom(1, 2),
  }),
  scatter: fc.record({
    x: kpi,
    y: kpi,
    size: fc.constant(null),
    by: fc.oneof(
      member,
      fc.record({
        kind: fc.constant("period"),
        grain: fc.constantFrom("month", "quarter"),
        last: fc.integer({ min: 3, max: 12 }),
      }),
    ),
    quadrants: fc.constant("none"),
    hasLine: fc.constant(true),
  }),
  "expected-range": fc.record({ kpi: flow, grain: fc.constant("month"), last: fc.constant(6) }),
  accuracy: fc.record({ kpi: flow }),
  growth: fc.record({
    kpi,
    on: fc.constantFrom("prior-year", "prior-period"),
    by: fc.oneof(periodic, member),
    ranges: fc.constant(null),
  }),
  outlook: fc.record({ kpi, sources: fc.constant(["latest", "budget", "run-rate", "prior-year"]) }),
  season: fc.record({
    kpi,
    view: fc.constant("overlay"),
    years: fc.integer({ min: 1, max: 3 }),
    countsStudied: fc.boolean(),
  }),
  share: fc.record({ kpi: flow, by, of: fc.constantFrom("whole", "basis"), shape: fc.constant("ring") }),
  map: fc.record({ kpi, by: fc.constant({ dimension: "home-market", level: null }), colour: fc.constant("value") }),
  "cross-tab": fc.record({
    kpis: fc.uniqueArray(flow, { minLength: 2, maxLength: 3 }),
    rows: fc.array(axis, { minLength: 1, maxLength: 2 }),
    columns: fc.array(axis, { minLength: 1, maxLength: 1 }),
    measures: fc.constant(["value"]),
    shade: fc.constant("none"),
  }),
  text: kpi.map((own) => ({ text: `Of {${own}}: {${own} basis}, {${own} variance}, {${own} attainment}.` })),
  chooser: fc.constant({ sets: "kpi", options: ["fuel", "freight"], panels: null }),
};

const frames = fc.record({
  asOf: fc.integer({ min: monthOf(2024, 6), max: monthOf(2026, 10) }).map((month) => formatMonth(month)),
  span: fc.constantFrom("month", "quarter", "quarter-to-date", "year-to-date", "full-year", "trailing-12"),
  basis: fc.constantFrom("budget", "forecast", "target", "prior-year", "prior-period"),
});
const scopes = fc.constantFrom<Record<string, string[]>>(
  {},
  { route: ["northreach"] },
  { vessel: ["razorbill", "eider"] },
);
/** Who may see everything, and who one sea area. */
const people = fc.constantFrom<Record<string, string[]>>({}, {}, { route: ["skerry-sound"] });

describe("the figures of every kind of panel", () => {
  it.each(Object.entries(DEFINITIONS))("%s", (kind, settings) => {
    let present = 0;
    fc.assert(
      fc.property(settings, frames, scopes, people, (own, frame, scope, access) => {
        const definition = { kind, key: kind, ...own } as PanelDefinition;
        let answer: PanelAnswer;
        try {
          const asked = resolveFrame({ ...frame, scope: formatScope(scope) || undefined }, company, access, {});
          const { compute } = PANEL_COMPUTATIONS[definition.kind] as unknown as {
            compute(definition: PanelDefinition, choice: object, question: PanelQuestion): PanelAnswer;
          };
          answer = inWriting(WRITING, () => compute(definition, {}, { company, access, asked, cells }));
        } catch (error) {
          if (error instanceof QuestionRefused) return;
          throw error;
        }
        // The two places in which a scope can be narrowed twice are apart by construction: one of them is by route.
        const inside = { ...scope, ...(scope["route"] && access["route"] ? { route: [] } : access) };
        if (scope["route"] && access["route"]) return;
        const ground: Ground = { frame, scope: inside, table, sums };
        const held = (
          RECALCULATED[definition.kind] as (
            answer: PanelAnswer,
            ground: Ground,
            definition: PanelDefinition,
          ) => readonly Held[]
        )(answer, ground, definition);
        for (const { place, found, wanted } of held) {
          const where = `${kind} ${place}: ${JSON.stringify({ ...frame, scope, access })} ${JSON.stringify(own)}`;
          if (found === null || wanted === null) expect(found, where).toBe(wanted);
          else
            expect(Math.abs(found - wanted), `${where}: ${found} instead of ${wanted}`).toBeLessThanOrEqual(
              1e-9 * Math.max(1, Math.abs(wanted)),
            );
          if (found !== null) present += 1;
        }
      }),
      { numRuns: kind === "cross-tab" ? 12 : 30 },
    );
    if (kind !== "chooser") expect(present).toBeGreaterThan(kind === "accuracy" ? 8 : 30);
  });
});
