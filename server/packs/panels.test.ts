import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { PANEL_SCHEMAS, type AnswerOf, type DefinitionOf } from "#core/panels/schemas.ts";
import { frameChoicesSchema, type FrameChoices } from "#contract/frame-choices.ts";
import type { Figure } from "#core/figures/schema.ts";
import { PACK } from "#demo/company/pack.ts";
import { connect } from "#server/db/connect.ts";
import { ANALYST, IN_MEMORY, serveApi, type ApiClient } from "#testing/api.ts";
import { FULL_YEAR_WITH_OUTLOOK } from "#core/frame/frame-answer.ts";
import { BASES, expectReadable, SPANS } from "#testing/frame-sweep.ts";
import type { KpiRow } from "#core/panels/parts/schema.ts";

let knex: Knex;
let api: ApiClient;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  api = await serveApi(knex, IN_MEMORY);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await knex.destroy();
});

type Query = Readonly<Record<string, string>>;
const address = (page: string, panel: string, query: Query) =>
  `/api/packs/monthly-review/pages/${page}/panels/${panel}?${new URLSearchParams(query).toString()}`;

async function rowsOf(query: Query, page = "cover"): Promise<Map<string, KpiRow>> {
  const { body } = await api.get(address(page, "scorecard", query));
  return new Map(
    PANEL_SCHEMAS.scorecard.answer
      .parse(body)
      .groups.flatMap((g) => g.rows)
      .map((row) => [row.kpi.key, row]),
  );
}
async function chartOf(query: Query, page = "cover"): Promise<AnswerOf<"time-chart">> {
  return PANEL_SCHEMAS["time-chart"].answer.parse((await api.get(address(page, "over-time", query))).body);
}
async function structureOf(query: Query): Promise<FrameChoices> {
  return frameChoicesSchema.parse((await api.get(`/api/frame?${new URLSearchParams(query).toString()}`)).body);
}
function valueOf(figure: Figure): number {
  if (!("value" in figure)) throw new Error(`${figure.absent}: ${figure.detail}`);
  return figure.value;
}
const cents = (figure: Figure) => Math.round(valueOf(figure) * 100);

describe("every panel of the pack", () => {
  it.each(PACK.pages.map(({ key, panels }, place) => ({ key, place, panels: panels.map((panel) => panel.key) })))(
    "$key says only what can be read, in every span and in every basis",
    async ({ key: page, place, panels }) => {
      // Over the pages every span meets every basis; all of them on every page is what the sweep asks.
      for (const [i, span] of [...SPANS, FULL_YEAR_WITH_OUTLOOK].entries()) {
        const basis = BASES[(i + place) % BASES.length]!;
        for (const panel of panels)
          expectReadable(
            `${page} ${panel} ${span} ${basis}`,
            await api.get(address(page, panel, { span, basis, asOf: "2026-09" })),
          );
      }
    },
  );
});

describe("a chart's arrangement", () => {
  const chart = `/api/packs/monthly-review/pages/cover/panels/over-time`;
  it("has reference lines from the same figures, a unit of its own, and is refused where it is wrong", async () => {
    await api.signIn(ANALYST);
    const { place: _, ...own } = PACK.pages[0]!.panels.find(
      ({ key }) => key === "over-time",
    ) as DefinitionOf<"time-chart"> & { place: unknown };
    const arranged: DefinitionOf<"time-chart"> = {
      ...own,
      title: "Revenue holds",
      unit: "million",
      references: [
        { kind: "statistic", of: "average", side: "actual", over: "last-year" },
        { kind: "statistic", of: "highest", side: "budget", over: "this-year" },
        { kind: "constant", name: "Break-even", value: 9_000_000 },
      ],
    };
    expect((await api.arrange(chart, arranged)).status).toBe(200);
    const answer = await chartOf({});
    const lastYear = (await rowsOf({ asOf: "2026-03", span: "full-year" })).get("total_revenue")!;
    const budgets = answer.points.slice(0, 7).map((p) => valueOf(p.budget));
    expect(answer.references.map((line) => line.name)).toEqual([
      "Average, April–March FY26",
      "Highest of Budget, April–October FY27",
      "Break-even",
    ]);
    const [average, highest, constant] = answer.references.map((line) => valueOf(line.figure));
    expect(average).toBeCloseTo(valueOf(lastYear.actual) / 12, 6);
    expect([highest, constant]).toEqual([Math.max(...budgets), 9_000_000]);
    expect(answer.frame.unit).toBe("million");
    expect((await chartOf({ unit: "units" })).frame.unit).toBe("units");
    // A constant is in the unit of the chart's own KPI: for another one it would say nothing.
    expect((await chartOf({ kpi: "on_time_rate" })).references).toHaveLength(2);
    const file = (await api.get(`${chart}.csv`)).body as string;
    expect(file.split("\r\n")[0]).toContain("Break-even");
    for (const wrong of [
      { decimals: 9 },
      { references: [{ kind: "constant", name: "", value: 1 }] },
      { hides: ["moon"] },
    ])
      expect((await api.arrange(chart, { ...own, ...wrong })).status).toBe(400);
    expect((await api.arrange(chart, own)).status).toBe(200);
  });
});

describe("decimals of a panel's own", () => {
  const decimalsIn = (body: unknown): number[] =>
    [...JSON.stringify(body).matchAll(/"decimals":(\d)/g)].map(([, digits]) => Number(digits));

  it.each([
    ["cover", "scorecard"],
    ["cover", "over-time"],
    ["revenue", "markets"],
    ["revenue", "season"],
  ])("hold for all that %s/%s says, and for nothing else", async (page, key) => {
    await api.signIn(ANALYST);
    const path = `/api/packs/monthly-review/pages/${page}/panels/${key}`;
    const { place: _, ...own } = PACK.pages.find((one) => one.key === page)!.panels.find((one) => one.key === key)!;
    const before = (await api.get(path)).body;
    expect((await api.arrange(path, { ...own, decimals: 3 })).status).toBe(200);
    const after = (await api.get(path)).body;
    expect((await api.arrange(path, own)).status).toBe(200);
    expect(new Set(decimalsIn(before)).has(3)).toBe(false);
    expect(new Set(decimalsIn(after))).toEqual(new Set([3]));
    expect((await api.get(path)).body).toEqual(before);
  });
});

describe("identities over the wire", () => {
  const flows = [
    "total_revenue",
    "tickets",
    "freight",
    "fuel",
    "overtime",
    "maintenance",
    "passenger_count",
    "operating_result",
  ];
  const span = (asOf: string, kind: string, extra: Query = {}) => rowsOf({ asOf, span: kind, ...extra });

  it("months sum to the quarter and quarters to the year, for actual, basis and Δ", async () => {
    const months = await Promise.all(["2025-10", "2025-11", "2025-12"].map((asOf) => span(asOf, "month")));
    const quarter = await span("2025-12", "quarter");
    const quarters = await Promise.all(
      ["2025-06", "2025-09", "2025-12", "2026-03"].map((asOf) => span(asOf, "quarter")),
    );
    const year = await span("2026-03", "full-year");
    for (const kpi of flows) {
      for (const pick of [
        (row: KpiRow) => row.actual,
        (row: KpiRow) => row.basis,
        (row: KpiRow) => row.variance.delta,
      ]) {
        const total = (parts: readonly Map<string, KpiRow>[]) =>
          parts.reduce((sum, part) => sum + cents(pick(part.get(kpi)!)), 0);
        expect(total(months), kpi).toBe(cents(pick(quarter.get(kpi)!)));
        expect(total(quarters), kpi).toBe(cents(pick(year.get(kpi)!)));
      }
    }
  });
  it("year to date of the last month is the full year, and so are twelve trailing months", async () => {
    const [toDate, year, trailing] = await Promise.all(
      ["year-to-date", "full-year", "trailing-12"].map((kind) => span("2026-03", kind)),
    );
    for (const [kpi, row] of year!) {
      expect([kpi, toDate!.get(kpi)!.actual, trailing!.get(kpi)!.actual]).toEqual([kpi, row.actual, row.actual]);
      expect(toDate!.get(kpi)!.basis).toEqual(row.basis);
    }
  });
  it("sea areas sum to the whole, and routes to their area, where everything is kept by route", async () => {
    const of = (members: string) => span("2026-10", "year-to-date", { scope: `route:${members}` });
    const whole = await span("2026-10", "year-to-date");
    const areas = await Promise.all(["skerry-sound", "lantern-bay", "northreach"].map(of));
    const routes = await Promise.all(["vardel-isenholm", "vardel-grey-ness", "isenholm-fallow-strand"].map(of));
    for (const kpi of ["total_revenue", "fuel", "maintenance", "passenger_count"]) {
      const delta = (rows: Map<string, KpiRow>) => cents(rows.get(kpi)!.variance.delta);
      expect(
        areas.reduce((sum, rows) => sum + delta(rows), 0),
        kpi,
      ).toBe(delta(whole));
      expect(
        routes.reduce((sum, rows) => sum + delta(rows), 0),
        kpi,
      ).toBe(delta(areas[2]!));
    }
  });
  it("all members chosen is the same as none chosen, where everything is kept by them", async () => {
    const all = await span("2026-10", "year-to-date", { scope: "route:skerry-sound,lantern-bay,northreach" });
    const none = await span("2026-10", "year-to-date");
    for (const kpi of ["total_revenue", "fuel", "on_time_rate"])
      expect(all.get(kpi)!.actual).toEqual(none.get(kpi)!.actual);
  });
  it("the chart's months are the scorecard's month, on the same path", async () => {
    const chart = await chartOf({ kpi: "fuel", asOf: "2026-10" });
    for (const month of ["2026-04", "2026-07", "2026-10"]) {
      const point = chart.points.find((p) => p.period === month)!;
      const row = (await span(month, "month")).get("fuel")!;
      expect([point.actual, point.budget, point.variance, point.priorYear]).toEqual([
        row.actual,
        row.basis,
        row.variance,
        row.priorYear,
      ]);
    }
  });
  it("the unit changes words and no figure", async () => {
    const [thousand, million] = await Promise.all(["thousand", "million"].map((unit) => rowsOf({ unit })));
    for (const [kpi, row] of thousand!) expect(million!.get(kpi)!.actual).toEqual(row.actual);
    expect(thousand!.get("fuel")!.words).toBe("€ 1,082k (8.5%) above Budget, unfavourable");
    expect(million!.get("fuel")!.words).toBe("€ 1.08m (8.5%) above Budget, unfavourable");
  });
});

describe("the sample's stories, as a reader meets them", () => {
  it("port overtime is on plan in every month and unfavourable to date", async () => {
    const { points } = await chartOf({ kpi: "overtime" });
    expect(points.filter((p) => p.inSpan).map((p) => p.variance.judgement)).toEqual(Array<string>(7).fill("on plan"));
    expect((await rowsOf({})).get("overtime")!.variance.judgement).toBe("unfavourable");
  });
  it("revenue is ahead to date while the forecast ends the year below budget in operating result", async () => {
    expect((await rowsOf({})).get("total_revenue")!.variance.judgement).toBe("favourable");
    const { points } = await chartOf({ kpi: "operating_result" });
    const ahead = points.filter((p) => "value" in p.forecast);
    expect(ahead).toHaveLength(5);
    const whole = points.reduce(
      (sum, p) => sum + valueOf("value" in p.actual ? p.actual : p.forecast) - valueOf(p.budget),
      0,
    );
    expect(whole).toBeLessThan(-1_000_000);
  });
  it("freight brings more at a lower price where the contract is", async () => {
    const rows = await rowsOf({ asOf: "2026-10", span: "quarter-to-date" }, "northreach");
    expect(valueOf(rows.get("freight")!.variance.deltaPercent)).toBeGreaterThan(0.15);
    expect(valueOf(rows.get("freight_price")!.variance.delta)).toBeLessThan(0);
  });
  it("advertising misleads by month and is on plan for the year", async () => {
    const rows = await rowsOf({ asOf: "2026-03", span: "full-year" }, "costs-and-fuel");
    expect(rows.get("advertising_spend")!.variance.judgement).toBe("on plan");
    const { points } = await chartOf({ kpi: "advertising_spend", asOf: "2026-03" });
    expect(points.filter((p) => p.variance.judgement !== "on plan").length).toBeGreaterThan(8);
  });
  it("the storm shows in the two routes it stopped", async () => {
    const row = (await rowsOf({ asOf: "2026-09", span: "month", scope: "route:vardel-isenholm" })).get("on_time_rate")!;
    expect(valueOf(row.actual)).toBeLessThan(0.65);
    // Targets are set by sea area: for one route alone there is none.
    expect(row.basis).toMatchObject({ detail: "Target does not keep On-time sailings by route." });
    const area = (await rowsOf({ asOf: "2026-09", span: "month", scope: "route:northreach" })).get("on_time_rate")!;
    expect(area.variance.judgement).toBe("unfavourable");
  });
  it("charter is gone and stays in the books as zero, not as a hole", async () => {
    const rows = await rowsOf({ scope: "service:charter", span: "month" });
    expect(rows.get("total_revenue")!.actual).toEqual({ value: 0 });
    expect(rows.get("fuel")!.actual).toMatchObject({ absent: "not covered" });
  });
});

describe("words around the figures", () => {
  it("do not let a part pass for the whole", async () => {
    const chart = await chartOf({ kpi: "total_revenue", span: "full-year" });
    expect(chart.headline).toMatch(/^Revenue for the year so far is /);
    expect(chart.notes).toEqual([]);
    expect((await chartOf({ span: "full-year", asOf: "2026-03" })).headline).toMatch(/^Revenue for the full year is /);
  });
  it("name the KPI's own basis where the frame's does not have it", async () => {
    const row = (await rowsOf({})).get("on_time_rate")!;
    expect([row.isFallback, row.basisName]).toEqual([true, "Target"]);
    expect(row.notes[0]).toBe("Budget does not have this KPI: compared with Target.");
  });
  it("say that plans are not kept by vessel", async () => {
    const row = (await rowsOf({ scope: "vessel:gannet" })).get("fuel")!;
    expect("value" in row.actual).toBe(true);
    expect(row.basis).toEqual({ absent: "not covered", detail: "Budget does not keep Fuel by vessel." });
    expect(row.variance.delta).toMatchObject({ absent: "no base" });
  });
  it("describe every choice of the frame as it would be there", async () => {
    const structure = await structureOf({ asOf: "2026-08", span: "quarter-to-date" });
    const note = (key: string) => structure.bases.find((b) => b.key === key)!.note;
    expect(note("prior-year")).toBe("July–August FY26");
    expect(note("prior-period")).toBe("April–May FY27");
    expect(note("forecast")).toBe("the latest made by then: Forecast 3+9");
    expect(structure.spans.find((s) => s.key === "trailing-12")!.months).toBe("September FY26–August FY27");
    expect(structure.asOfChoices.map((c) => c.month).slice(0, 2)).toEqual(["2026-11", "2026-10"]);
    expect(structure.asOfChoices[0]).toMatchObject({ isClosed: false, note: "daily figures to day 17, not closed" });
    expect((await structureOf({ asOf: "2026-05" })).bases.find((b) => b.key === "forecast")!.note).toBe(
      "No forecast had been made by May FY27.",
    );
  });
  it("keep to a page's own scope until another is chosen", async () => {
    const own = await rowsOf({}, "skerry-sound");
    expect(own.get("total_revenue")!.actual).toEqual(
      (await rowsOf({ scope: "route:skerry-sound" })).get("total_revenue")!.actual,
    );
    expect((await rowsOf({ scope: "" }, "skerry-sound")).get("total_revenue")!.actual).toEqual(
      (await rowsOf({})).get("total_revenue")!.actual,
    );
  });
});
