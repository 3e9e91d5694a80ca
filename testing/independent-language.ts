import type { Independent, MonthPlace, Narrowing } from "./independent.ts";

/** What a formula is asked for: months by their number since year 0, and the figures of any scope over any of them. */
export interface Moment {
  readonly asOf: number;
  /** The months of the frame's span, up to the as-of month. */
  readonly asked: readonly number[];
  readonly sums: (scope: Narrowing) => Independent;
  readonly scope: Narrowing;
}

type Value = number | null;
type Read = (kpi: string, months: readonly number[], scenario?: string) => Value;
/** What a formula gives at a moment, from what a KPI is over any months. */
export type Meaning = (read: Read, at: Moment & { readonly span: string }) => Value;

/** Members of the sample company, by the dimension and level that the cases look over. */
const AREAS = ["skerry-sound", "lantern-bay", "northreach"];

const range = (from: number, to: number) => Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i);
const shift = (months: readonly number[], by: number) => months.map((month) => month - by);
/** The month in which the fiscal year of a month opens, in April; and its quarter. */
const yearOf = (month: number) => month - ((month + 9) % 12);
const quarterOf = (month: number) => month - ((month + 9) % 3);
const daysIn = (month: number) => new Date(Date.UTC(Math.floor(month / 12), (month % 12) + 1, 0)).getUTCDate();
const days = (months: readonly number[]) => months.reduce((all, month) => all + daysIn(month), 0);
const wholeYear = (month: number) => range(yearOf(month), yearOf(month) + 11);
const yearToDate = (asOf: number) => range(yearOf(asOf), asOf);
const quarterToDate = (asOf: number) => range(quarterOf(asOf), asOf);

/** Works on values that are all there. */
const given = (values: readonly Value[], work: (...values: number[]) => number): Value => {
  if (values.some((value) => value === null)) return null;
  const result = work(...(values as number[]));
  return Number.isFinite(result) ? result : null;
};
const present = (values: readonly Value[], work: (values: number[]) => number): Value => {
  const there = values.filter((value) => value !== null);
  const result = there.length === 0 ? Number.NaN : work(there);
  return Number.isFinite(result) ? result : null;
};
const mean = (values: readonly number[]) => values.reduce((all, own) => all + own, 0) / values.length;
const median = (values: readonly number[]) => {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
};
const deviation = (values: readonly number[]) =>
  Math.sqrt(values.reduce((all, own) => all + (own - mean(values)) ** 2, 0) / (values.length - 1));
const grown = (now: Value, before: Value) =>
  given([now, before], (a, b) => (b === 0 ? Number.NaN : (a - b) / Math.abs(b)));

/** The months just before a frame's span, of the same kind. */
function periodBefore(asked: readonly number[], span: string): number[] {
  if (span === "month") return shift(asked, 1);
  return shift(asked, span.startsWith("quarter") ? 3 : 12);
}

/** The months of a scope's part that lies in an area, or of none where the scope is elsewhere. */
const inArea = ({ sums, scope }: Moment, area: string, kpi: string, months: readonly number[], scenario = "actual") => {
  const own = scope["route"];
  return own && !own.includes(area) ? null : sums({ ...scope, route: [area] }).over(kpi, scenario, places(months));
};
const ofAreas = (at: Moment, kpi: string) => AREAS.map((area) => inArea(at, area, kpi, at.asked));
const ofMonths = (read: Read, { asked }: Moment, kpi: string) => asked.map((month) => read(kpi, [month]));

/**
 * What each function of the language means, in formulas of the sample company, worked out from sums of facts alone. A
 * function's name leads to its cases.
 */
export const MEANINGS: Readonly<Record<string, readonly (readonly [formula: string, meaning: Meaning])[]>> = {
  month: [
    ["month(total_revenue)", (read, { asOf }) => read("total_revenue", [asOf])],
    [
      "total_revenue / month(total_revenue)",
      (read, { asked, asOf }) => given([read("total_revenue", asked), read("total_revenue", [asOf])], (a, b) => a / b),
    ],
  ],
  quarter: [
    ["quarter(fuel)", (read, { asOf }) => read("fuel", quarterToDate(asOf))],
    ["quarter(fuel@budget)", (read, { asOf }) => read("fuel", range(quarterOf(asOf), quarterOf(asOf) + 2), "budget")],
  ],
  quarter_to_date: [
    ["quarter_to_date(operating_margin)", (read, { asOf }) => read("operating_margin", quarterToDate(asOf))],
    [
      "growth(quarter_to_date(total_revenue))",
      (read, { asOf }) =>
        grown(read("total_revenue", quarterToDate(asOf)), read("total_revenue", shift(quarterToDate(asOf), 3))),
    ],
  ],
  year_to_date: [
    ["year_to_date(on_time_rate)", (read, { asOf }) => read("on_time_rate", yearToDate(asOf))],
    [
      "year_to_date(total_revenue) / months_elapsed() * 12",
      (read, { asOf }) =>
        given([read("total_revenue", yearToDate(asOf))], (sum) => (sum / yearToDate(asOf).length) * 12),
    ],
  ],
  full_year: [
    ["full_year(total_revenue)", (read, { asOf }) => read("total_revenue", yearToDate(asOf))],
    ["full_year(total_revenue@budget)", (read, { asOf }) => read("total_revenue", wholeYear(asOf), "budget")],
    [
      "total_revenue / full_year(total_revenue@budget)",
      (read, { asked, asOf }) =>
        given([read("total_revenue", asked), read("total_revenue", wholeYear(asOf), "budget")], (a, b) => a / b),
    ],
  ],
  month_to_date: [["month_to_date(on_time_rate)", (read, { asOf }) => read("on_time_rate", [asOf])]],
  trailing: [
    ["trailing(total_revenue, 12)", (read, { asOf }) => read("total_revenue", range(asOf - 11, asOf))],
    ["trailing(operating_margin, 5)", (read, { asOf }) => read("operating_margin", range(asOf - 4, asOf))],
  ],
  cumulative: [
    ["cumulative(freight)", (read, { asOf }) => read("freight", yearToDate(asOf))],
    ["cumulative(freight, since: quarter)", (read, { asOf }) => read("freight", quarterToDate(asOf))],
  ],
  prior_year: [
    ["prior_year(total_revenue)", (read, { asked }) => read("total_revenue", shift(asked, 12))],
    [
      "total_revenue - prior_year(total_revenue)",
      (read, { asked }) =>
        given([read("total_revenue", asked), read("total_revenue", shift(asked, 12))], (a, b) => a - b),
    ],
  ],
  prior_period: [
    ["prior_period(fuel)", (read, { asked, span }) => read("fuel", periodBefore(asked, span))],
    ["prior_period(month(fuel))", (read, { asOf }) => read("fuel", [asOf - 1])],
    ["prior_period(year_to_date(fuel))", (read, { asOf }) => read("fuel", shift(yearToDate(asOf), 12))],
  ],
  first: [["first(operating_margin)", (read, { asked }) => read("operating_margin", asked.slice(0, 1))]],
  last: [["last(operating_margin)", (read, { asked }) => read("operating_margin", asked.slice(-1))]],
  ago: [["ago(passenger_count, 2)", (read, { asked }) => read("passenger_count", shift(asked, 2))]],
  months_elapsed: [
    [
      "total_revenue / months_elapsed()",
      (read, { asked, asOf }) => given([read("total_revenue", asked)], (sum) => sum / yearToDate(asOf).length),
    ],
  ],
  months_left: [
    [
      "(full_year(total_revenue@budget) - year_to_date(total_revenue)) / months_left()",
      (read, { asOf }) =>
        given(
          [read("total_revenue", wholeYear(asOf), "budget"), read("total_revenue", yearToDate(asOf))],
          (plan, done) => (plan - done) / (12 - yearToDate(asOf).length),
        ),
    ],
  ],
  read: [
    [
      "read(total_revenue, coverage: own) - total_revenue@budget",
      (read, { asked }) =>
        given([read("total_revenue", asked), read("total_revenue", asked, "budget")], (a, b) => a - b),
    ],
  ],
  growth: [
    [
      "growth(total_revenue, on: prior_year)",
      (read, { asked }) => grown(read("total_revenue", asked), read("total_revenue", shift(asked, 12))),
    ],
    [
      "growth(total_revenue)",
      (read, { asked, span }) => grown(read("total_revenue", asked), read("total_revenue", periodBefore(asked, span))),
    ],
    [
      "growth(month(total_revenue), on: prior_period)",
      (read, { asOf }) => grown(read("total_revenue", [asOf]), read("total_revenue", [asOf - 1])),
    ],
  ],
  compound_growth: [
    [
      "compound_growth(month(passenger_count), 2)",
      (read, { asOf }) =>
        given([read("passenger_count", [asOf]), read("passenger_count", [asOf - 24])], (now, before) =>
          now > 0 && before > 0 ? Math.sqrt(now / before) - 1 : Number.NaN,
        ),
    ],
  ],
  moving_average: [
    [
      "moving_average(fuel, 3)",
      (read, { asOf }) =>
        given(
          range(asOf - 2, asOf).map((month) => read("fuel", [month])),
          (...all) => mean(all),
        ),
    ],
    [
      "moving_average(operating_margin, 6)",
      (read, { asOf }) =>
        given(
          range(asOf - 5, asOf).map((month) => read("operating_margin", [month])),
          (...all) => mean(all),
        ),
    ],
  ],
  run_rate: [
    [
      "run_rate(total_revenue)",
      (read, { asOf }) =>
        given(
          [read("total_revenue", yearToDate(asOf))],
          (sum) => (sum / days(yearToDate(asOf))) * days(wholeYear(asOf)),
        ),
    ],
    [
      "run_rate(fuel, to: quarter, by: months)",
      (read, { asOf }) => given([read("fuel", quarterToDate(asOf))], (sum) => (sum / quarterToDate(asOf).length) * 3),
    ],
    [
      "run_rate(total_revenue, to: year, season: 1)",
      (read, { asOf }) =>
        given(
          [
            read("total_revenue", yearToDate(asOf)),
            read("total_revenue", shift(wholeYear(asOf), 12)),
            read("total_revenue", shift(yearToDate(asOf), 12)),
          ],
          (now, whole, then) => (now * whole) / then,
        ),
    ],
  ],
  outlook: [
    [
      "outlook(total_revenue, from: budget)",
      (read, { asOf }) =>
        given(
          [
            read("total_revenue", yearToDate(asOf)),
            asOf === yearOf(asOf) + 11 ? 0 : read("total_revenue", range(asOf + 1, yearOf(asOf) + 11), "budget"),
          ],
          (done, left) => done + left,
        ),
    ],
  ],
  closing: [["closing(cash)", (read, { asked }) => read("cash_position", asked.slice(-1))]],
  opening: [
    ["opening(cash)", (read, { asked }) => read("cash_position", [asked[0]! - 1])],
    [
      "closing(cash) - opening(cash)",
      (read, { asked }) =>
        given([read("cash_position", asked.slice(-1)), read("cash_position", [asked[0]! - 1])], (a, b) => a - b),
    ],
  ],
  average: [
    [
      "average(cash)",
      (read, { asked }) =>
        given(
          asked.map((month) => read("cash_position", [month])),
          (...all) => mean(all),
        ),
    ],
  ],
  days: [
    ["total_revenue / days()", (read, { asked }) => given([read("total_revenue", asked)], (sum) => sum / days(asked))],
  ],
  only: [
    ['only(total_revenue, route: "Skerry Sound")', (_, at) => inArea(at, "skerry-sound", "total_revenue", at.asked)],
    [
      'only(total_revenue@budget, route: ["Northreach"])',
      (_, at) => inArea(at, "northreach", "total_revenue", at.asked, "budget"),
    ],
  ],
  ignoring: [
    [
      "total_revenue / ignoring(total_revenue, route)",
      (read, { asked, sums, scope: { route: _, ...wider } }) =>
        given(
          [read("total_revenue", asked), sums(wider).over("total_revenue", "actual", places(asked))],
          (a, b) => a / b,
        ),
    ],
  ],
  share: [
    [
      "share(passenger_count, of: route)",
      (read, { asked, sums, scope: { route: _, ...wider } }) =>
        given(
          [read("passenger_count", asked), sums(wider).over("passenger_count", "actual", places(asked))],
          (a, b) => a / b,
        ),
    ],
  ],
  sum: [
    [
      "sum(max(operating_result, 0), over: month)",
      (read, at) =>
        present(ofMonths(read, at, "operating_result"), (all) => all.reduce((sum, own) => sum + Math.max(own, 0), 0)),
    ],
    [
      'sum(total_revenue, over: route, level: "Sea area")',
      (_, at) => present(ofAreas(at, "total_revenue"), (all) => all.reduce((sum, own) => sum + own, 0)),
    ],
  ],
  lowest: [
    [
      'lowest(on_time_rate, over: route, level: "Sea area")',
      (_, at) => present(ofAreas(at, "on_time_rate"), (all) => Math.min(...all)),
    ],
    [
      "lowest(total_revenue, over: month)",
      (read, at) => present(ofMonths(read, at, "total_revenue"), (all) => Math.min(...all)),
    ],
  ],
  highest: [
    [
      'highest(load_factor, over: route, level: "Sea area")',
      (_, at) => present(ofAreas(at, "load_factor"), (all) => Math.max(...all)),
    ],
    ["highest(fuel, over: month)", (read, at) => present(ofMonths(read, at, "fuel"), (all) => Math.max(...all))],
  ],
  mean: [
    ['mean(total_revenue, over: route, level: "Sea area")', (_, at) => present(ofAreas(at, "total_revenue"), mean)],
    ["mean(operating_margin, over: month)", (read, at) => present(ofMonths(read, at, "operating_margin"), mean)],
  ],
  median: [
    ["median(total_revenue, over: month)", (read, at) => present(ofMonths(read, at, "total_revenue"), median)],
    ['median(freight, over: route, level: "Sea area")', (_, at) => present(ofAreas(at, "freight"), median)],
  ],
  standard_deviation: [
    [
      "standard_deviation(on_time_rate, over: month)",
      (read, at) =>
        present(ofMonths(read, at, "on_time_rate"), (all) => (all.length < 2 ? Number.NaN : deviation(all))),
    ],
  ],
  members: [
    [
      'members(freight, over: route, level: "Sea area")',
      (_, at) => ofAreas(at, "freight").filter((v) => v !== null).length,
    ],
    ["members(freight, over: month)", (read, at) => ofMonths(read, at, "freight").filter((v) => v !== null).length],
  ],
  rank: [
    [
      'only(rank(total_revenue, over: route, level: "Sea area"), route: "Lantern Bay")',
      (_, { sums, scope: { route, ...wider }, asked }) => {
        if (route && !route.includes("lantern-bay")) return null;
        const [, own, ...others] = ["", "lantern-bay", "skerry-sound", "northreach"].map((area) =>
          area === "" ? null : sums({ ...wider, route: [area] }).over("total_revenue", "actual", places(asked)),
        );
        return own === null || own === undefined
          ? null
          : 1 + others.filter((other) => other !== null && other > own).length;
      },
    ],
  ],
  if: [
    [
      "if(operating_result > money(0), operating_result, 0 - operating_result)",
      (read, { asked }) => given([read("operating_result", asked)], Math.abs),
    ],
    [
      "if(total_revenue > total_revenue@budget, 1, 0)",
      (read, { asked }) =>
        given([read("total_revenue", asked), read("total_revenue", asked, "budget")], (a, b) => (a > b ? 1 : 0)),
    ],
  ],
  if_absent: [["if_absent(opening(cash), money(7))", (read, { asked }) => read("cash_position", [asked[0]! - 1]) ?? 7]],
  abs: [
    [
      "abs(operating_result - operating_result@budget)",
      (read, { asked }) =>
        given([read("operating_result", asked), read("operating_result", asked, "budget")], (a, b) => Math.abs(a - b)),
    ],
  ],
  min: [
    [
      "min(total_revenue, total_revenue@budget)",
      (read, { asked }) => given([read("total_revenue", asked), read("total_revenue", asked, "budget")], Math.min),
    ],
  ],
  max: [
    [
      "max(operating_result, fuel)",
      (read, { asked }) => given([read("operating_result", asked), read("fuel", asked)], Math.max),
    ],
  ],
  round: [
    [
      "round(on_time_rate, 1)",
      (read, { asked }) => given([read("on_time_rate", asked)], (rate) => Math.round(rate * 1000) / 1000),
    ],
    [
      "round(onboard_spend, 1)",
      (read, { asked }) => given([read("onboard_spend", asked)], (spend) => Math.round(spend * 10) / 10),
    ],
  ],
  power: [
    ["power(total_revenue, 2)", (read, { asked }) => given([read("total_revenue", asked)], (sum) => sum ** 2)],
    [
      "power(1 + growth(total_revenue, on: prior_year), 3) - 1",
      (read, { asked }) =>
        given([grown(read("total_revenue", asked), read("total_revenue", shift(asked, 12)))], (g) => (1 + g) ** 3 - 1),
    ],
  ],
  root: [
    [
      "root(total_revenue / prior_year(total_revenue), 2) - 1",
      (read, { asked }) =>
        given([read("total_revenue", asked), read("total_revenue", shift(asked, 12))], (a, b) => Math.sqrt(a / b) - 1),
    ],
  ],
  money: [
    [
      'money(2.50, per: "passengers") * passenger_count',
      (read, { asked }) => given([read("passenger_count", asked)], (count) => 2.5 * count),
    ],
    [
      "total_revenue - money(1.5, in: million)",
      (read, { asked }) => given([read("total_revenue", asked)], (sum) => sum - 1.5e6),
    ],
  ],
};

/** What a case's formula gives at a moment, from sums of facts. */
export function meaningAt(meaning: Meaning, at: Moment & { readonly span: string }): Value {
  const own = at.sums(at.scope);
  return meaning((kpi, months, scenario = "actual") => own.over(kpi, scenario, places(months)), at);
}

function places(months: readonly number[]): MonthPlace[] {
  return months.map((month) => [Math.floor(month / 12), (month % 12) + 1]);
}
