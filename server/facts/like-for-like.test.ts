import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { monthOf, type Month } from "#core/calendar/month.ts";
import type { FormulaTried } from "#core/workbench/try-formula.ts";
import type { Figure } from "#core/figures/schema.ts";
import type { AnswerOf } from "#core/panels/schemas.ts";
import { ANALYST, IN_MEMORY, serveApi, type ApiClient } from "#testing/api.ts";
import { noteAllFactsChanged } from "#server/db/data-version.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

/** Figures of the sample company that went wrong once, each against plain SQL over the months that both sides have. */
let database: OwnDatabase;
let knex: Knex;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "like_for_like");
  ({ knex } = database);
  api = await serveApi(knex, IN_MEMORY);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const REVENUE =
  "passenger_fares vehicle_fares booking_fees freight_carriage freight_surcharges restaurant_sales shop_sales cabin_upgrades charter_revenue port_services";
const sumOf = async (accounts: string, scenario: string, from: Month, to: Month): Promise<number> => {
  const { rows } = await knex.raw<{ rows: [{ sum: string }] }>(
    `select coalesce(sum(amount), 0)::text as sum from fact
     join account on account.id = account_id join scenario on scenario.id = scenario_id
     where account.key = any(?) and scenario.key = ? and month between ? and ?`,
    [accounts.split(" "), scenario, from, to],
  );
  return Number(rows[0].sum);
};
const attempt = async (formula: string, frame: Record<string, string> = {}) => {
  const { body } = await api.send("POST", "/api/formula/try", { formula, self: null, ...frame });
  const tried = body as FormulaTried;
  if ("problem" in tried) throw new Error(`${formula}: ${tried.problem.message}`);
  return tried;
};
/** What a formula gives over the frame's span. */
const overSpan = async (formula: string, frame: Record<string, string> = {}) => {
  const { figures, notes } = await attempt(formula, frame);
  return { figure: figures.at(-1)!.actual, notes };
};
const valueOf = (figure: Figure) => ("value" in figure ? figure.value : figure.absent);

const [APRIL, SEPTEMBER, OCTOBER] = [monthOf(2026, 4), monthOf(2026, 9), monthOf(2026, 10)];

describe("attainment", () => {
  it("is measured on the months of Δ: passengers against a target that ends in September", async () => {
    const panel = "/api/packs/monthly-review/pages/at-a-glance/panels/tiles";
    const { body } = await api.get(`${panel}?asOf=2026-10&basis=target`);
    const tile = (body as AnswerOf<"tiles">).tiles.find((t) => t.row.kpi.key === "passenger_count")!;
    const [actual, target] = [
      await sumOf("passengers", "actual", APRIL, SEPTEMBER),
      await sumOf("passengers", "target", APRIL, SEPTEMBER),
    ];
    expect(valueOf(tile.row.attainment)).toBe(actual / target);
    expect(valueOf(tile.row.attainment)).toBeCloseTo(0.9961, 4);
    expect(valueOf(tile.row.variance.delta)).toBe(actual - target);
    expect(tile.row.words).toContain("7,378 (0.4%) below Target for April to September, on plan");
    expect(tile.row.notes.join(" ")).toMatch(/Target .*October/);
    const csv = (await api.get(`${panel}.csv?asOf=2026-10&basis=target`)).body as string;
    expect(csv.split("\r\n").find((line) => line.includes("Passengers"))).toContain(`,${actual / target},`);
  });
});

describe("the parts of a formula", () => {
  it("meet on the months that both scenarios have, whatever the operator", async () => {
    const [actual, target] = [
      await sumOf("passengers", "actual", APRIL, SEPTEMBER),
      await sumOf("passengers", "target", APRIL, SEPTEMBER),
    ];
    const { figure, notes } = await overSpan("passenger_count / passenger_count@target");
    expect(valueOf(figure)).toBe(actual / target);
    expect(notes).toEqual(["Target has April–September FY27; October FY27 is left out."]);
    expect(valueOf((await overSpan("passenger_count - passenger_count@target")).figure)).toBe(actual - target);
    // Who wants each part on its own months says so.
    const seven = await sumOf("passengers", "actual", APRIL, OCTOBER);
    const own = await overSpan("read(passenger_count, coverage: own) / passenger_count@target");
    expect(valueOf(own.figure)).toBe(seven / target);
  });
  it("meet on the months that two plans have", async () => {
    const wanted =
      (await sumOf(REVENUE, "budget", APRIL, OCTOBER)) - (await sumOf(REVENUE, "forecast-6-6", APRIL, OCTOBER));
    const { figure, notes } = await overSpan("total_revenue@budget - total_revenue@forecast", { span: "trailing-12" });
    expect(valueOf(figure)).toBe(wanted / 100);
    expect(notes).toEqual(["Forecast 6+6 has April–October FY27; November–March FY26 is left out."]);
  });
  it("meet on the months that now and a year ago have", async () => {
    const wanted =
      (await sumOf(REVENUE, "actual", monthOf(2024, 4), monthOf(2024, 12))) -
      (await sumOf(REVENUE, "actual", monthOf(2023, 4), monthOf(2023, 12)));
    const { figure } = await overSpan("total_revenue - prior_year(total_revenue)", {
      span: "trailing-12",
      asOf: "2024-12",
    });
    expect(valueOf(figure)).toBe(wanted / 100);
  });
  it("shift the same window: a month ago of the year to date is March to September", async () => {
    const { figure } = await overSpan("ago(total_revenue, 1)");
    expect(valueOf(figure)).toBe((await sumOf(REVENUE, "actual", monthOf(2026, 3), SEPTEMBER)) / 100);
  });
  it("have no Δ where there is nothing to compare a count of members with", async () => {
    const { figures } = await attempt("members(complaints, over: route)", { basis: "budget" });
    expect(figures.at(-1)!.variance.delta).not.toEqual({ value: 0 });
  });
});

describe("the open month", () => {
  it("does not stop the outlook: closed months from the actual, the others from the forecast", async () => {
    const wanted =
      (await sumOf(REVENUE, "actual", APRIL, OCTOBER)) +
      (await sumOf(REVENUE, "forecast-6-6", monthOf(2026, 11), monthOf(2027, 3)));
    for (const asOf of ["2026-10", "2026-11"])
      expect([asOf, valueOf((await overSpan("outlook(total_revenue)", { asOf })).figure)]).toEqual([
        asOf,
        wanted / 100,
      ]);
  });
});

describe("as-of is a ceiling", () => {
  const figuresOf = async (span: string) => {
    const { body } = await api.get(
      `/api/packs/monthly-review/pages/cover/panels/scorecard?asOf=2026-09&span=${span}&basis=budget`,
    );
    const { frame, groups } = body as AnswerOf<"scorecard">;
    return {
      isOpen: frame.words.isOpen,
      months: frame.words.spanMonths,
      rows: groups
        .flatMap((g) => g.rows)
        .map(({ kpi, actual, basis, variance, words }) => [kpi.key, actual, basis, variance, words]),
    };
  };
  it("so that a review of September shows the same figures once later months are posted", async () => {
    const spans = ["month", "quarter", "year-to-date", "full-year", "trailing-12"];
    const before = await Promise.all(spans.map(figuresOf));
    // October's actuals doubled and November's there: both lie after the review's month.
    await knex.raw(
      `insert into fact (dataset_id, load_id, line, scenario_id, account_id, month, day, amount, m1, m2, m3, m4, m5, m6, m7, m8)
       select fact.dataset_id, load_id, line + 1000000, scenario_id, account_id, month + shift.by, day, amount, m1, m2, m3, m4, m5, m6, m7, m8
       from fact join scenario on scenario.id = scenario_id cross join (values (0), (1)) as shift(by)
       where scenario.key = 'actual' and month = ?`,
      [OCTOBER],
    );
    await noteAllFactsChanged(knex);
    expect(await Promise.all(spans.map(figuresOf))).toEqual(before);
    // A year that is open goes as far as the as-of month, and says so.
    expect(before[3]).toMatchObject({ isOpen: true, months: "April–September FY27" });
    await knex("fact").where("line", ">=", 1_000_000).delete();
    await noteAllFactsChanged(knex);
  });
});

describe("a member that no longer exists", () => {
  it("is absent, not 0, in lowest, mean, count and rank", async () => {
    const ask = async (formula: string) => valueOf((await attempt(formula)).figures[0]!.actual);
    const before = {
      count: await ask("members(fuel, over: vessel)"),
      lowest: await ask("lowest(fuel, over: vessel)"),
      mean: await ask("mean(fuel, over: vessel)"),
    };
    const { rows } = await knex.raw<{ rows: { key: string; id: number; amount: string }[] }>(
      `select member.key, member.id, sum(amount)::text as amount from fact
       join account on account.id = account_id join scenario on scenario.id = scenario_id
       join member on member.id in (m1, m2, m3, m4, m5, m6, m7, m8) join dimension on dimension.id = member.dimension_id
       where dimension.key = 'vessel' and scenario.key = 'actual' and month = ? and account.key in ('marine_fuel', 'lubricants')
       group by 1, 2 order by sum(amount)`,
      [OCTOBER],
    );
    const amounts = rows.map((r) => Number(r.amount) / 100);
    expect(before.count).toBe(rows.length);
    expect(before.lowest).toBe(amounts[0]);
    // The vessel that burns least is sold at the end of September.
    await knex("member").where({ id: rows[0]!.id }).update({ last_month: SEPTEMBER });
    await noteAllFactsChanged(knex);
    expect(await ask("members(fuel, over: vessel)")).toBe(rows.length - 1);
    expect(await ask("lowest(fuel, over: vessel)")).toBe(amounts[1]);
    expect(await ask("mean(fuel, over: vessel)")).toBeCloseTo(
      amounts.slice(1).reduce((sum, a) => sum + a, 0) / (amounts.length - 1),
      6,
    );
    await knex("member").where({ id: rows[0]!.id }).update({ last_month: null });
    await noteAllFactsChanged(knex);
  });
});

describe("types and words", () => {
  it.each([
    ["rank(total_revenue, over: route)", "a rank, calculated for each span from its totals"],
    ["total_revenue * passenger_count", "money × passengers, calculated for each span from its totals"],
    ["total_revenue / days()", "money per days, calculated for each span from its totals"],
    ["average(cash)", "a balance: the average over the months of the span"],
    ["if(total_revenue > 0, total_revenue, 0)", "money, calculated for each span from its totals"],
    ["abs(total_revenue)", "money, calculated for each span from its totals"],
    ["moving_average(total_revenue, 3)", "does not add up over time"],
    ["trailing(total_revenue, 3)", "does not add up over time"],
    ["money(5, in: thousand)", "money, the same at all times"],
  ])("%s is %s", async (formula, words) => {
    expect((await attempt(formula)).type).toContain(words);
  });
  it("refuses the run rate of what looks at months of its own, naming the way out", async () => {
    const { body } = await api.send("POST", "/api/formula/try", {
      formula: "run_rate(trailing(total_revenue, 3))",
      self: null,
    });
    expect((body as { problem: { message: string } }).problem.message).toContain("does not: apply it to its parts");
  });
  it.each([
    ["months_elapsed()", 7],
    ["months_left()", 5],
    ["money(5, in: thousand)", 5000],
    ["round(2.5, 0)", 3],
    ["power(3, 2)", 9],
    ["root(9, 2)", 3],
  ])("%s is %d", async (formula, wanted) => {
    expect(valueOf((await overSpan(formula)).figure)).toBe(wanted);
  });
  it("gathers over the months of the span", async () => {
    const months = await Promise.all(
      Array.from({ length: 7 }, (_, i) => sumOf(REVENUE, "actual", APRIL + i, APRIL + i)),
    );
    const amounts = months.map((cents) => cents / 100).sort((a, b) => a - b);
    const mean = amounts.reduce((sum, a) => sum + a, 0) / 7;
    const deviation = Math.sqrt(amounts.reduce((sum, a) => sum + (a - mean) ** 2, 0) / 6);
    const ask = async (formula: string) => Number(valueOf((await overSpan(formula)).figure));
    expect(await ask("lowest(total_revenue, over: month)")).toBe(amounts[0]);
    expect(await ask("highest(total_revenue, over: month)")).toBe(amounts[6]);
    expect(await ask("median(total_revenue, over: month)")).toBe(amounts[3]);
    expect(await ask("standard_deviation(total_revenue, over: month)")).toBeCloseTo(deviation, 4);
    expect(await ask("sum(total_revenue, over: route)")).toBeCloseTo(
      amounts.reduce((sum, a) => sum + a, 0),
      0,
    );
  });
});
