import type { Knex } from "knex";

/**
 * The figures of the sample company calculated a second time, the slow, obvious way, from every fact as plain SQL
 * gives it. Uses nothing of core or server.
 */
export interface Independent {
  figure(kpi: string, ask: Ask): Compared;
  /** The fiscal year as it is expected to end by a source, the same by the basis, and what each month left has to bring. */
  outlook(
    kpi: string,
    ask: Pick<Ask, "asOf" | "basis"> & { readonly source: string },
  ): Record<"figure" | "basis" | "delta" | "gap", number | null>;
  /** A KPI over months of one's own, whatever frame there is; `null` unless each of them has figures. */
  over(kpi: string, scenario: string, months: readonly MonthPlace[]): number | null;
  /** A KPI on the months that have figures, against a side of one's own; `null` for the side where there is none. */
  compare(kpi: string, months: readonly MonthPlace[], side: Side | null): Compared;
  /** What a frame compares a KPI with: its basis, or the KPI's own where the basis does not have it. */
  basisOf(kpi: string, ask: Ask): Side | null;
  /** What some accounts add up to, as they are kept, over months. */
  sumOf(accounts: readonly string[], scenario: string, months: readonly MonthPlace[]): number;
}

export type Compared = Record<"actual" | "basis" | "delta" | "attainment", number | null> & {
  /** The months of Δ. */
  readonly both: readonly MonthPlace[];
};

/** A scenario, looked at some months earlier. */
export interface Side {
  readonly scenario: string;
  readonly shift: number;
}

/** A calendar year and a month of it, from 1 to 12. */
export type MonthPlace = readonly [number, number];

export interface Ask {
  readonly asOf: string;
  readonly span: string;
  readonly basis: string;
}

const LEDGER = "management-accounts";
const leaves = (text: string) => text.split(" ");
const INCOME = leaves(
  "passenger_fares vehicle_fares booking_fees freight_carriage freight_surcharges restaurant_sales shop_sales cabin_upgrades charter_revenue port_services",
);
const COSTS = leaves(
  "marine_fuel lubricants crew_wages crew_social crew_travel port_dues port_handling port_overtime planned_maintenance repairs dry_docking food_and_drink shop_goods advertising sales_commission call_centre office_salaries system_licences insurance",
);
const DEPRECIATION = leaves("vessel_depreciation equipment_depreciation");
const BOARD = leaves("restaurant_sales shop_sales cabin_upgrades");

/** Per KPI its inputs, and how they make the figure. Money comes in cents. */
const KPIS: Readonly<
  Record<
    string,
    {
      inputs: readonly (readonly string[])[];
      make: (...sums: number[]) => number;
      isRate?: boolean;
      isBalance?: boolean;
      fallback?: string;
      exact?: boolean;
    }
  >
> = {
  total_revenue: { inputs: [INCOME], make: (r) => r / 100, exact: true },
  operating_result: { inputs: [INCOME, COSTS, DEPRECIATION], make: (r, c, d) => (r - c - d) / 100, exact: true },
  operating_margin: { inputs: [INCOME, COSTS, DEPRECIATION], make: (r, c, d) => (r - c - d) / r, isRate: true },
  tickets: { inputs: [leaves("passenger_fares vehicle_fares booking_fees")], make: (r) => r / 100, exact: true },
  freight: { inputs: [leaves("freight_carriage freight_surcharges")], make: (r) => r / 100, exact: true },
  onboard_spend: { inputs: [BOARD, ["passengers"]], make: (r, p) => r / 100 / p, isRate: true, fallback: "target" },
  fuel: { inputs: [leaves("marine_fuel lubricants")], make: (r) => r / 100, exact: true },
  overtime: { inputs: [["port_overtime"]], make: (r) => r / 100, exact: true },
  maintenance: { inputs: [leaves("planned_maintenance repairs dry_docking")], make: (r) => r / 100, exact: true },
  passenger_count: { inputs: [["passengers"]], make: (p) => p, exact: true },
  on_time_rate: {
    inputs: [["sailings_on_time"], ["sailings_planned"]],
    make: (a, b) => a / b,
    isRate: true,
    fallback: "target",
  },
  load_factor: {
    inputs: [["passengers_carried"], ["seats_offered"]],
    make: (a, b) => a / b,
    isRate: true,
    fallback: "target",
  },
  cash_position: { inputs: [["cash"]], make: (c) => c / 100, isBalance: true, exact: true },
};

/** The KPIs that are calculated. */
export const INDEPENDENT_KPIS = Object.keys(KPIS);

/** Whether a KPI must agree to the last digit; ratios of sums may differ in the last bit. */
export const isExact = (kpi: string) => KPIS[kpi]!.exact === true;

/** Facts alike in everything but their line, summed, with their members' keys. */
interface FactRow {
  readonly dataset: string;
  readonly scenario: string;
  readonly account: string;
  /** "2026-10", without a zero in front. */
  readonly month: string;
  readonly day: number | null;
  readonly members: Readonly<Record<string, string>>;
  readonly amount: number;
  /** Scenario and account, the same with the month, and the same with the dataset. */
  readonly home: string;
  readonly place: string;
  readonly entry: string;
}

/** All facts and the trees of their members, read once for any number of scopes. */
export interface FactTable {
  readonly facts: readonly FactRow[];
  /** The member above, by dimension and member. */
  readonly above: ReadonlyMap<string, string | null>;
  /** The first and the last month of a member, by dimension and member, as the number of months since year 0. */
  readonly lives: ReadonlyMap<string, readonly [number, number]>;
  /** The account above each account, whether it is a cost, and how many decimals its amounts have. */
  readonly accounts: ReadonlyMap<
    string,
    { readonly above: string | null; readonly isCost: boolean; readonly decimals: number }
  >;
}

/** The independent figures of any scope and day, each summed once however often they are asked for. */
export function independentSums(table: FactTable): (scope: Narrowing, throughDay?: number) => Independent {
  const known = new Map<string, Independent>();
  return (scope, throughDay) => {
    const key = JSON.stringify([scope, throughDay]);
    const sums =
      known.get(key) ?? calculateIndependently(table, { scope, ...(throughDay === undefined ? {} : { throughDay }) });
    known.set(key, sums);
    return sums;
  };
}

/** Which members are looked at, by dimension key; a dimension that is not named is not narrowed. */
export type Narrowing = Readonly<Record<string, readonly string[]>>;

/** Reads every fact with plain SQL. */
export async function readFactTable(knex: Knex): Promise<FactTable> {
  const { rows: accounts } = await knex.raw<{
    rows: { key: string; above: string | null; isCost: boolean; decimals: number }[];
  }>(
    `select a.key, up.key as above, a.kind = 'expense' as "isCost", a.decimals
     from account a left join account up on up.id = a.parent_id`,
  );
  const { rows: members } = await knex.raw<{
    rows: {
      id: number;
      key: string;
      dimension: string;
      above: string | null;
      first: number | null;
      last: number | null;
    }[];
  }>(
    `select m.id, m.key, d.key as dimension, up.key as above, m.first_month as first, m.last_month as last
     from member m join dimension d on d.id = m.dimension_id left join member up on up.id = m.parent_id`,
  );
  const { rows: kept } = await knex.raw<{ rows: { dataset: string; key: string; slot: number }[] }>(
    `select dataset.key as dataset, dimension.key, slot from dataset_slot
     join dataset on dataset.id = dataset_id join dimension on dimension.id = dimension_id`,
  );
  const columns = Array.from({ length: 16 }, (_, i) => `f.m${i + 1}`).join(", ");
  const { rows } = await knex.raw<{
    rows: (Record<string, number | null> & Record<"dataset" | "scenario" | "account" | "amount", string>)[];
  }>(
    `select d.key as dataset, s.key as scenario, a.key as account, f.month / 12 as year, f.month % 12 + 1 as month, f.day,
       ${columns}, sum(f.amount)::text as amount
     from fact f join dataset d on d.id = f.dataset_id join scenario s on s.id = f.scenario_id join account a on a.id = f.account_id
     group by 1, 2, 3, f.month, f.day, ${columns}`,
  );
  const keyOf = new Map(members.map((m) => [m.id, m.key]));
  return {
    above: new Map(members.map((m) => [`${m.dimension}/${m.key}`, m.above])),
    lives: new Map(members.map((m) => [`${m.dimension}/${m.key}`, [m.first ?? -Infinity, m.last ?? Infinity]])),
    accounts: new Map(accounts.map(({ key, ...own }) => [key, own])),
    facts: rows.map(({ dataset, scenario, account, ...row }) => ({
      dataset,
      scenario,
      account,
      month: `${row["year"]}-${row["month"]}`,
      day: row["day"]!,
      home: `${scenario}|${account}`,
      place: `${scenario}|${account}|${row["year"]}-${row["month"]}`,
      entry: `${dataset}|${scenario}|${account}|${row["year"]}-${row["month"]}`,
      members: Object.fromEntries(
        kept.flatMap((own) => {
          const member = own.dataset === dataset ? row[`m${own.slot}`] : null;
          return member === null || member === undefined ? [] : [[own.key, keyOf.get(member)!]];
        }),
      ),
      amount: Number(row.amount),
    })),
  };
}

/** Whether a member is inside the chosen ones, and whether it is as deep as the deepest of them. */
function placeIn(above: FactTable["above"], dimension: string, chosen: readonly string[]) {
  const lineOf = (member: string): string[] => {
    const up = above.get(`${dimension}/${member}`);
    return up ? [member, ...lineOf(up)] : [member];
  };
  const deepest = Math.max(...chosen.map((member) => lineOf(member).length));
  const places = new Map<string, { isInside: boolean; isDeep: boolean }>();
  return (member: string | undefined) => {
    if (member === undefined) return { isInside: false, isDeep: false };
    let place = places.get(member);
    if (!place) {
      const line = lineOf(member);
      place = { isInside: line.some((m) => chosen.includes(m)), isDeep: line.length >= deepest };
      places.set(member, place);
    }
    return place;
  };
}

/** Sums a scope; its figures are then asked for any frame. */
function calculateIndependently(
  { facts, above }: FactTable,
  { scope = {}, throughDay }: { scope?: Narrowing; throughDay?: number } = {},
): Independent {
  const parts = Object.entries(scope).map(([dimension, chosen]) => ({
    dimension,
    placeOf: placeIn(above, dimension, chosen),
  }));
  const sums = new Map<string, number>();
  const homes = new Map<string, { dataset: string; kept: boolean }>();
  const days = new Map<string, Set<number>>();
  for (const { dataset, day, members, amount, home, place, entry } of facts) {
    let isIn = true;
    let isDeep = true;
    for (const { dimension, placeOf } of parts) {
      const at = placeOf(members[dimension]);
      isIn &&= at.isInside;
      isDeep &&= at.isDeep;
    }
    const known = homes.get(home);
    if (!known) homes.set(home, { dataset, kept: isDeep });
    else known.kept ||= isDeep;
    let seen = days.get(entry);
    if (!seen) days.set(entry, (seen = new Set()));
    if (day !== null) seen.add(day);
    if (!isIn || (throughDay !== undefined && dataset !== "targets" && (day === null || day > throughDay))) continue;
    sums.set(place, (sums.get(place) ?? 0) + amount);
  }
  const months = new Map<string, { days: number }>();
  for (const [entry, seen] of days) {
    const [dataset, scenario, , month] = entry.split("|");
    const place = `${dataset}|${scenario}|${month}`;
    months.set(place, { days: Math.max(seen.size, months.get(place)?.days ?? 0) });
  }
  const daysIn = (year: number, month: number) => new Date(Date.UTC(year, month, 0)).getUTCDate();

  /** How many days of a month the daily facts have. */
  const openDaysOf = ([year, month]: MonthPlace) =>
    Math.max(
      0,
      ...[...days].flatMap(([entry, seen]) => {
        const [, scenario, , at] = entry.split("|");
        return scenario === "actual" && at === `${year}-${month}` ? [seen.size] : [];
      }),
    );

  const isThere = (dataset: string, scenario: string, [year, month]: MonthPlace, isRate: boolean): boolean => {
    // A quarter's target rate says nothing of days: it holds on each of them.
    if (dataset === "targets")
      return (
        (throughDay === undefined || isRate) &&
        months.has(`targets|${scenario}|${quarterOf([year, month])[0]!.join("-")}`)
      );
    const entry = months.get(`${dataset}|${scenario}|${year}-${month}`);
    if (!entry) return false;
    if (dataset === LEDGER) return throughDay === undefined;
    return entry.days >= Math.min(throughDay ?? 31, daysIn(year, month));
  };

  const isPartialTarget = (kpi: string) =>
    KPIS[kpi]!.inputs.flat().some((l) => homes.has(`actual|${l}`) && !homes.has(`target|${l}`));

  const cover = (kpi: string, side: Side, asked: readonly MonthPlace[]): boolean[] | null => {
    const { inputs, isRate } = KPIS[kpi]!;
    const perInput = inputs.map((leavesOf) =>
      leavesOf.flatMap((l) => homes.get(`${side.scenario}|${l}`) ?? []).filter((h) => h.kept),
    );
    if (perInput.some((known) => known.length === 0)) return null;
    if (side.scenario === "target" && isPartialTarget(kpi)) return null;
    const quarterly = perInput.flat().some((h) => h.dataset === "targets");
    const at = (m: MonthPlace) => perInput.flat().every((h) => isThere(h.dataset, side.scenario, m, isRate === true));
    const covered = asked.map((m) => at(back(m, side.shift)));
    if (!quarterly || isRate) return covered;
    return covered.map(
      (is, i) =>
        is &&
        quarterOf(back(asked[i]!, side.shift)).every((q) =>
          asked.some((m, j) => covered[j] && back(m, side.shift).join() === q.join()),
        ),
    );
  };
  const calculate = (kpi: string, side: Side, asked: readonly MonthPlace[]): number | null => {
    if (asked.length === 0) return null;
    const { inputs, make, isRate, isBalance } = KPIS[kpi]!;
    const quarterly = inputs.flat().some((l) => homes.get(`${side.scenario}|${l}`)?.dataset === "targets");
    let read = asked.map((m) => back(m, side.shift));
    if (quarterly && isRate) read = [...new Map(read.flatMap(quarterOf).map((m) => [m.join(), m])).values()];
    if (isBalance) read = read.slice(-1);
    return finite(make(...sumsOf(inputs, side.scenario, read)));
  };
  /** What each input of a KPI adds up to in a scenario over months. */
  const sumsOf = (inputs: readonly (readonly string[])[], scenario: string, months: readonly MonthPlace[]) =>
    inputs.map((leavesOf) => {
      let sum = 0;
      for (const l of leavesOf) {
        if (!homes.get(`${scenario}|${l}`)?.kept) continue;
        for (const m of months) sum += sums.get(`${scenario}|${l}|${m.join("-")}`) ?? 0;
      }
      return sum;
    });

  // Within a scope only those sides can be compared that keep the same accounts in it.
  const isAlike = (kpi: string, scenario: string) =>
    KPIS[kpi]!.inputs.flat().every((l) => {
      const [own, other] = [homes.get(`actual|${l}`), homes.get(`${scenario}|${l}`)];
      return !own || !other || own.kept === other.kept;
    });

  // A target on some of the accounts is no target for all of them.
  const has = (kpi: string, scenario: string) =>
    !(scenario === "target" && isPartialTarget(kpi)) &&
    KPIS[kpi]!.inputs.every((ls) => ls.some((l) => homes.has(`${scenario}|${l}`)));
  const basisSideOf = (kpi: string, basis: string, asOf: string, span: string): Side | undefined => {
    const side = basisOf(basis, asOf, span);
    const { fallback } = KPIS[kpi]!;
    return fallback && (!side || !has(kpi, side.scenario)) ? { scenario: fallback, shift: 0 } : side;
  };
  const isWhole = (kpi: string, side: Side, months: readonly MonthPlace[]) =>
    cover(kpi, side, months)?.every((is) => is) === true;

  const compare = (kpi: string, asked: readonly MonthPlace[], side: Side | null): Compared => {
    const actualSide: Side = { scenario: "actual", shift: 0 };
    const a = cover(kpi, actualSide, asked);
    const b = side && isAlike(kpi, side.scenario) ? cover(kpi, side, asked) : null;
    const actualMonths = asked.filter((_, i) => a?.[i]);
    let both = asked.filter((_, i) => a?.[i] && b?.[i]);
    if (side?.scenario === "target" && !KPIS[kpi]!.isRate)
      both = both.filter((m) => quarterOf(m).every((q) => both.some((o) => o.join() === q.join())));
    const actual = a && calculate(kpi, actualSide, actualMonths);
    const basisMonths = actualMonths.length === 0 ? asked.filter((_, i) => b?.[i]) : both;
    const base = side && b && calculate(kpi, side, basisMonths);
    const common = both.length > 0 ? calculate(kpi, actualSide, both) : null;
    const delta = common === null || base === null ? null : common - base;
    const compared = actualMonths.length === 0 ? null : delta;
    return {
      actual,
      basis: base,
      delta: compared,
      // Of the months of Δ, not of all months of the actual; a share of a loss says nothing.
      attainment: compared === null || base! <= 0 ? null : common! / base!,
      both,
    };
  };

  /** What each input brings in the months left: of a plan its own, of an estimate the years before by the pace to date. */
  const restOf = (
    kpi: string,
    { closed, rest }: { closed: MonthPlace[]; rest: MonthPlace[] },
    source: string,
    asOf: string,
  ): { inputs: number[]; first: number[] } | null => {
    const { inputs, isBalance } = KPIS[kpi]!;
    const at = (months: MonthPlace[]) => (isBalance ? months.slice(-1) : months);
    if (source !== "run-rate" && source !== "prior-year") {
      const made = [
        ...(asOf >= "2026-09" ? ["forecast-6-6"] : []),
        ...(asOf >= "2026-06" ? ["forecast-3-9"] : []),
        "budget",
      ];
      const scenario = source === "latest" ? made.find((key) => has(kpi, key)) : has(kpi, source) ? source : undefined;
      if (scenario === undefined || !isWhole(kpi, { scenario, shift: 0 }, rest)) return null;
      if (closed.length > 0 && !isAlike(kpi, scenario)) return null;
      return { inputs: sumsOf(inputs, scenario, at(rest)), first: sumsOf(inputs, scenario, rest.slice(0, 1)) };
    }
    if (closed.length === 0) return null;
    const years = (source === "prior-year" ? [1] : [1, 2, 3]).filter((ago) =>
      isWhole(kpi, { scenario: "actual", shift: 12 * ago }, source === "prior-year" ? closed : [...closed, ...rest]),
    );
    if (source === "prior-year" && !isWhole(kpi, { scenario: "actual", shift: 12 }, rest)) return null;
    if (years.length === 0) return null;
    const past = (of: MonthPlace[]) =>
      years
        .map((ago) =>
          sumsOf(
            inputs,
            "actual",
            of.map((m) => back(m, 12 * ago)),
          ),
        )
        .reduce((all, one) => all.map((sum, i) => sum + one[i]!));
    const now = sumsOf(inputs, "actual", at(closed));
    const then = past(at(closed));
    const paces = now.map((value, i) => (value === 0 ? 0 : value / then[i]!));
    if (paces.some((pace) => !Number.isFinite(pace) || pace < 0)) return null;
    const [all, first] = [past(at(rest)), past(rest.slice(0, 1))];
    return { inputs: all.map((sum, i) => sum * paces[i]!), first: first.map((sum, i) => sum * paces[i]!) };
  };

  return {
    outlook(kpi, { asOf, basis, source }) {
      const { inputs, make, isRate, isBalance } = KPIS[kpi]!;
      const year = fiscalYearOf(asOf);
      const [y, m] = asOf.split("-").map(Number) as [number, number];
      const toDate = year.slice(0, year.findIndex((month) => month.join() === [y, m].join()) + 1);
      const covered = cover(kpi, { scenario: "actual", shift: 0 }, toDate);
      const closed = year.slice(0, (covered?.lastIndexOf(true) ?? -1) + 1);
      const rest = year.slice(closed.length);
      const isClosedWhole = closed.every((_, i) => covered![i]);
      const actual =
        closed.length === 0 ? inputs.map(() => 0) : sumsOf(inputs, "actual", isBalance ? closed.slice(-1) : closed);
      let figure: number | null = null;
      if (isClosedWhole && rest.length === 0) figure = finite(make(...actual));
      else if (isClosedWhole) {
        const left = restOf(kpi, { closed, rest }, source, asOf);
        if (left) {
          // Days of the open month stand in the place of their share of it.
          const open = rest[0]!;
          const isDaily = KPIS[kpi]!.inputs.flat().every((l) => homes.get(`actual|${l}`)?.dataset !== LEDGER);
          const count = isDaily && toDate.length > closed.length ? openDaysOf(open) : 0;
          const share = count / daysIn(...open);
          const seen = sumsOf(inputs, "actual", [open]);
          const remaining = left.inputs.map((sum, i) => (count === 0 ? sum : sum - left.first[i]! * share + seen[i]!));
          figure = finite(make(...remaining.map((sum, i) => (isBalance ? sum : sum + actual[i]!))));
        }
      }
      const side = basisSideOf(kpi, basis, asOf, "full-year");
      const base = side && isWhole(kpi, side, year) ? calculate(kpi, side, year) : null;
      const isFlow = !isRate && !isBalance;
      const value = closed.length === 0 ? 0 : finite(make(...actual));
      return {
        figure,
        basis: base,
        delta: figure === null || base === null ? null : figure - base,
        gap: !isFlow || base === null || rest.length === 0 ? null : (base - value!) / rest.length,
      };
    },
    over: (kpi, scenario, months) => {
      const side: Side = { scenario, shift: 0 };
      return isWhole(kpi, side, months) ? calculate(kpi, side, months) : null;
    },
    sumOf: (accounts, scenario, months) => sumsOf([accounts], scenario, months)[0]!,
    basisOf: (kpi, { basis, asOf, span }) => basisSideOf(kpi, basis, asOf, span) ?? null,
    compare,
    figure: (kpi, { asOf, span, basis }) =>
      compare(kpi, monthsOfSpan(asOf, span), basisSideOf(kpi, basis, asOf, span) ?? null),
  };
}

function finite(value: number): number | null {
  return Number.isFinite(value) ? value : null;
}

/** The twelve months of the fiscal year, which opens in April, of a month. */
function fiscalYearOf(asOf: string): [number, number][] {
  const [year, month] = asOf.split("-").map(Number) as [number, number];
  const first: [number, number] = [month >= 4 ? year : year - 1, 4];
  return Array.from({ length: 12 }, (_, i) => back(first, -i));
}

function back([year, month]: MonthPlace, shift: number): [number, number] {
  const index = year * 12 + month - 1 - shift;
  return [Math.floor(index / 12), (index % 12) + 1];
}

/** The fiscal quarter of a month, for a year that opens in April: also calendar quarters. */
function quarterOf([year, month]: MonthPlace): [number, number][] {
  const first = month - ((month - 1) % 3);
  return [
    [year, first],
    [year, first + 1],
    [year, first + 2],
  ];
}

/** The months of a span, up to its as-of month. */
export function monthsOfSpan(asOf: string, span: string): [number, number][] {
  const [year, month] = asOf.split("-").map(Number) as [number, number];
  const fiscal = (month + 8) % 12;
  const from = (count: number, start: number) =>
    Array.from({ length: count }, (_, i) => back([year, month], start - i));
  switch (span) {
    case "month":
    case "month-to-date":
      return from(1, 0);
    // Nothing after the as-of month is known: the whole quarter ends there too.
    case "quarter":
    case "quarter-to-date":
      return from((fiscal % 3) + 1, fiscal % 3);
    case "year-to-date":
    case "full-year":
      return from(fiscal + 1, fiscal);
    case "trailing-12":
      return from(12, 11);
    default:
      throw new Error(span);
  }
}

function basisOf(basis: string, asOf: string, span: string): { scenario: string; shift: number } | undefined {
  if (basis === "prior-year") return { scenario: "actual", shift: 12 };
  if (basis === "prior-period") {
    const shift = { month: 1, "month-to-date": 1, quarter: 3, "quarter-to-date": 3 }[span] ?? 12;
    return { scenario: "actual", shift };
  }
  if (basis === "forecast") {
    if (asOf >= "2026-09") return { scenario: "forecast-6-6", shift: 0 };
    return asOf >= "2026-06" ? { scenario: "forecast-3-9", shift: 0 } : undefined;
  }
  return { scenario: basis, shift: 0 };
}
