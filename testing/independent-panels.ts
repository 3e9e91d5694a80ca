import type { PanelKind } from "#core/panels/schemas.ts";
import type { PanelAnswer, PanelDefinition } from "#core/panels/schemas.ts";
import {
  monthsOfSpan,
  type Compared,
  type FactTable,
  type Independent,
  type MonthPlace,
  type Narrowing,
  type Side,
} from "./independent.ts";
import type { Figure } from "#core/figures/schema.ts";
import type { KpiRow } from "#core/panels/parts/schema.ts";

/** A figure of a panel beside the same, worked out from the facts. */
export interface Held {
  readonly place: string;
  readonly found: number | null;
  readonly wanted: number | null;
}

/** What a panel was asked, and the facts. */
export interface Ground {
  readonly frame: { readonly asOf: string; readonly span: string; readonly basis: string };
  /** What is looked at, inside of what the reader may see. */
  readonly scope: Narrowing;
  readonly table: FactTable;
  readonly sums: (scope: Narrowing) => Independent;
}

type AnswerOf<K extends PanelKind> = Extract<PanelAnswer, { kind: K }>;
type DefinitionOf<K extends PanelKind> = Extract<PanelDefinition, { kind: K }>;
type Recalculated = {
  readonly [K in PanelKind]: (answer: AnswerOf<K>, ground: Ground, definition: DefinitionOf<K>) => readonly Held[];
};

const ACTUAL: Side = { scenario: "actual", shift: 0 };
const PRIOR_YEAR: Side = { scenario: "actual", shift: 12 };

const valueOf = (figure: Figure | null | undefined) => (figure && "value" in figure ? figure.value : null);
const numberOf = ([year, month]: MonthPlace) => year * 12 + month - 1;
const placeOf = (index: number): MonthPlace => [Math.floor(index / 12), (index % 12) + 1];
const readMonth = (text: string): MonthPlace => {
  const [year, month] = text.split("-").map(Number);
  return [year!, month!];
};
/** The months of "2026-04" or "2026-04..2026-06". */
function monthsOf(text: string): MonthPlace[] {
  const [from, to = from] = text.split("..").map(readMonth);
  return Array.from({ length: numberOf(to!) - numberOf(from!) + 1 }, (_, i) => placeOf(numberOf(from!) + i));
}
const until = (months: readonly MonthPlace[], asOf: string) =>
  months.filter((month) => numberOf(month) <= numberOf(readMonth(asOf)));
const askedMonths = ({ frame }: Ground): MonthPlace[] => monthsOfSpan(frame.asOf, frame.span);
const minus = (a: number | null, b: number | null) => (a === null || b === null ? null : a - b);

/** A member with all above it. */
function lineOf({ above }: FactTable, dimension: string, member: string): string[] {
  const up = above.get(`${dimension}/${member}`);
  return up ? [member, ...lineOf({ above } as FactTable, dimension, up)] : [member];
}

/** The part of a scope that lies in a member. */
function within(scope: Narrowing, table: FactTable, dimension: string, member: string): Narrowing {
  const chosen = scope[dimension];
  if (!chosen) return { ...scope, [dimension]: [member] };
  const isInside = lineOf(table, dimension, member).some((own) => chosen.includes(own));
  return {
    ...scope,
    [dimension]: isInside ? [member] : chosen.filter((own) => lineOf(table, dimension, own).includes(member)),
  };
}

/** Whether a member, or one below it, exists in any of the months. */
function lives(
  { lives: known, above }: FactTable,
  dimension: string,
  member: string,
  months: readonly MonthPlace[],
): boolean {
  const below = [...above].flatMap(([key, up]) =>
    up === member && key.startsWith(`${dimension}/`) ? [key.slice(dimension.length + 1)] : [],
  );
  if (below.length > 0) return below.some((own) => lives({ lives: known, above } as FactTable, dimension, own, months));
  const [first, last] = known.get(`${dimension}/${member}`)!;
  return months.some((month) => numberOf(month) >= first && numberOf(month) <= last);
}

const earlier = (months: readonly MonthPlace[], by: number) => months.map((month) => placeOf(numberOf(month) - by));

/** A KPI of a member on months against a side: what it did not live to see is absent. */
function ofMember(
  ground: Ground,
  kpi: string,
  by: { dimension: string; member: string } | null,
  months: readonly MonthPlace[],
  side: Side | null,
): Compared {
  const scope = by ? within(ground.scope, ground.table, by.dimension, by.member) : ground.scope;
  const found = ground.sums(scope).compare(kpi, months, side);
  if (!by) return found;
  const isThere = lives(ground.table, by.dimension, by.member, months);
  const wasThere = side !== null && lives(ground.table, by.dimension, by.member, earlier(months, side.shift));
  return {
    actual: isThere ? found.actual : null,
    basis: wasThere ? found.basis : null,
    delta: isThere && wasThere ? found.delta : null,
    attainment: isThere && wasThere ? found.attainment : null,
    both: found.both,
  };
}

/** The figures of a row against those of its KPI in the frame, in all of the scope or in one member of it. */
function heldRow(
  place: string,
  row: Pick<KpiRow, "actual" | "basis" | "variance" | "attainment">,
  kpi: string,
  ground: Ground,
  by: { dimension: string; member: string } | null,
): Held[] {
  const side = ground.sums(ground.scope).basisOf(kpi, ground.frame);
  const wanted = ofMember(ground, kpi, by, askedMonths(ground), side);
  return [
    { place: `${place} actual`, found: valueOf(row.actual), wanted: wanted.actual },
    { place: `${place} basis`, found: valueOf(row.basis), wanted: wanted.basis },
    { place: `${place} delta`, found: valueOf(row.variance.delta), wanted: wanted.delta },
    { place: `${place} attainment`, found: valueOf(row.attainment), wanted: wanted.attainment },
  ];
}

/** Least squares, by the textbook. */
function leastSquares(pairs: readonly (readonly [number, number])[]): { slope: number; r: number } {
  const n = pairs.length;
  const sum = (of: (x: number, y: number) => number) => pairs.reduce((all, [x, y]) => all + of(x, y), 0);
  const [mx, my] = [sum((x) => x) / n, sum((_, y) => y) / n];
  const [xx, yy, xy] = [sum((x) => (x - mx) ** 2), sum((_, y) => (y - my) ** 2), sum((x, y) => (x - mx) * (y - my))];
  return { slope: xy / xx, r: xy / Math.sqrt(xx * yy) };
}

const isSpread = (values: readonly number[]) =>
  Math.max(...values) - Math.min(...values) > 1e-4 * Math.max(...values.map(Math.abs));

/** The leaves below an account, or itself. */
function leavesBelow({ accounts }: FactTable, account: string): string[] {
  const below = [...accounts].flatMap(([key, { above }]) => (above === account ? [key] : []));
  return below.length === 0 ? [account] : below.flatMap((own) => leavesBelow({ accounts } as FactTable, own));
}

/** Volume, mix and price over the members of a level that sold on both sides, by their definitions. */
function effects(
  kpi: string,
  { quantity, dimension, level }: { quantity: string; dimension: string; level: string | null },
  ground: Ground,
  side: Side,
  months: readonly MonthPlace[],
): (readonly [string, number])[] {
  const depth = level === "Sea area" || level === null || level === "Service line" ? 1 : 2;
  const members = [...ground.table.above.keys()]
    .filter((key) => key.startsWith(`${dimension}/`))
    .map((key) => key.slice(dimension.length + 1))
    .filter((member) => lineOf(ground.table, dimension, member).length === depth)
    .filter((member) => within(ground.scope, ground.table, dimension, member)[dimension]!.length > 0)
    .map((member) => {
      const own = ground.sums(within(ground.scope, ground.table, dimension, member));
      const [amount, count] = [kpi, quantity].map((key) => own.compare(key, months, side));
      const now = (of: Compared) => (of.basis ?? 0) + (of.delta ?? 0);
      return { v0: amount!.basis ?? 0, v1: now(amount!), q0: count!.basis ?? 0, q1: now(count!) };
    })
    .filter(({ q0, q1 }) => q0 !== 0 && q1 !== 0);
  const sum = (of: (member: (typeof members)[number]) => number) => members.reduce((all, own) => all + of(own), 0);
  const [q0, q1] = [sum((own) => own.q0), sum((own) => own.q1)];
  const p0 = q0 === 0 ? 0 : sum((own) => own.v0) / q0;
  return [
    ["volume", (q1 - q0) * p0],
    ["mix", sum((own) => (own.q1 / q1 - own.q0 / q0) * q1 * (own.v0 / own.q0 - p0))],
    ["price", sum((own) => own.q1 * (own.v1 / own.q1 - own.v0 / own.q0))],
  ];
}

/** Which side a scenario stands for, as of a month. */
function sideOf(scenario: string, { frame: { asOf } }: Ground, kpi: string, own: Independent): Side | null {
  if (scenario === "actual") return ACTUAL;
  if (scenario === "prior-year") return PRIOR_YEAR;
  return scenario === "forecast"
    ? own.basisOf(kpi, { asOf, span: "month", basis: "forecast" })
    : { scenario, shift: 0 };
}

/** Each kind of panel with how its figures are found from the facts. */
export const RECALCULATED: Recalculated = {
  scorecard: ({ groups }, ground) =>
    groups.flatMap(({ rows }) =>
      rows.flatMap((row) => {
        const own = ground.sums(ground.scope);
        const asked = askedMonths(ground);
        const { key } = row.kpi;
        const last = own.compare(key, asked, PRIOR_YEAR);
        const toDate = { ...ground.frame, span: "year-to-date" };
        return [
          ...heldRow(key, row, key, ground, null),
          ...(row.priorYear ? [{ place: `${key} prior year`, found: valueOf(row.priorYear), wanted: last.basis }] : []),
          ...(row.growth
            ? [
                {
                  place: `${key} growth`,
                  found: valueOf(row.growth),
                  wanted:
                    last.basis === 0 || last.basis === null || last.delta === null
                      ? null
                      : last.delta / Math.abs(last.basis),
                },
              ]
            : []),
          ...(row.toDate
            ? [{ place: `${key} to date`, found: valueOf(row.toDate.actual), wanted: own.figure(key, toDate).actual }]
            : []),
          ...row.trend.map(({ month, actual }) => ({
            place: `${key} ${month}`,
            found: valueOf(actual),
            wanted: own.compare(key, until(monthsOf(month), ground.frame.asOf), null).actual,
          })),
        ];
      }),
    ),
  tiles: ({ tiles, repeatedBy, figures }, ground) =>
    tiles.flatMap(({ member, row, second, figures: small }) => {
      const by = member && repeatedBy ? { dimension: repeatedBy.dimension, member: member.key } : null;
      const place = `${row.kpi.key} ${member?.key ?? ""}`;
      const spans: Readonly<Record<string, string>> = { month: "month", "year-to-date": "year-to-date" };
      return [
        ...heldRow(place, row, row.kpi.key, ground, by),
        ...(second
          ? [
              {
                place: `${place} second`,
                found: valueOf(second.actual),
                wanted: ofMember(ground, second.kpi.key, by, askedMonths(ground), ACTUAL).actual,
              },
            ]
          : []),
        ...small.flatMap(({ figure }, i): Held[] => {
          const { kind } = figures[i]!;
          const span = spans[kind];
          if (span !== undefined)
            return [
              {
                place: `${place} ${kind}`,
                found: valueOf(figure),
                wanted: ofMember(ground, row.kpi.key, by, monthsOfSpan(ground.frame.asOf, span), ACTUAL).actual,
              },
            ];
          return kind === "prior-year"
            ? [
                {
                  place: `${place} ${kind}`,
                  found: valueOf(figure),
                  wanted: ofMember(ground, row.kpi.key, by, askedMonths(ground), PRIOR_YEAR).basis,
                },
              ]
            : [];
        }),
      ];
    }),
  breakdown: ({ kpi, rows, total, by, series }, ground, { cluster }) => [
    ...rows.flatMap(({ member, parts }) =>
      series.flatMap((own, i): Held[] => {
        const place = `${member!.key} ${own.key}`;
        const in_ = { dimension: by.dimension, member: member!.key };
        if (cluster?.kind === "kpis")
          return [
            {
              place,
              found: valueOf(parts[i]),
              wanted: ofMember(ground, own.key, in_, askedMonths(ground), null).actual,
            },
          ];
        if (cluster?.kind === "scenarios") {
          const side = sideOf(own.key, ground, kpi.key, ground.sums(ground.scope));
          const found = ofMember(ground, kpi.key, in_, askedMonths(ground), side);
          return [{ place, found: valueOf(parts[i]), wanted: own.key === "actual" ? found.actual : found.basis }];
        }
        if (own.members?.length !== 1) return [];
        const scope = within(ground.scope, ground.table, own.dimension!, own.members[0]!);
        const inside = { ...ground, scope };
        const isThere = lives(ground.table, own.dimension!, own.members[0]!, askedMonths(ground));
        return isThere
          ? [
              {
                place,
                found: valueOf(parts[i]) ?? 0,
                wanted: ofMember(inside, kpi.key, in_, askedMonths(ground), null).actual ?? 0,
              },
            ]
          : [];
      }),
    ),
    ...heldRow("total", total.row, kpi.key, ground, null),
    ...rows.flatMap(({ member, row }) =>
      heldRow(member!.key, row, kpi.key, ground, { dimension: by.dimension, member: member!.key }),
    ),
  ],
  share: ({ kpi, parts, whole, dimension }, ground) => [
    ...heldRow("whole", whole, kpi.key, ground, null),
    ...parts.flatMap(({ member, row, share }) => {
      if (!member) return [];
      const by = { dimension, member: member.key };
      const asked = askedMonths(ground);
      const own = ofMember(ground, kpi.key, by, asked, null).actual;
      const all = ofMember(ground, kpi.key, null, asked, null).actual;
      const wanted = own === null || all === null || all === 0 ? null : own / all;
      return [
        ...heldRow(member.key, row, kpi.key, ground, by),
        { place: `${member.key} share`, found: valueOf(share), wanted },
      ];
    }),
  ],
  map: ({ kpi, places, dimension }, ground) =>
    places.flatMap(({ member, row }) => heldRow(member.key, row, kpi.key, ground, { dimension, member: member.key })),
  growth: ({ kpi, points, on, dimension }, ground, { by: over }) =>
    points.flatMap(({ key, member, months, now, before, growth }) => {
      const by = member && dimension ? { dimension, member: member.key } : null;
      const own = until(months ? monthsOf(months) : askedMonths(ground), ground.frame.asOf);
      const size = over.kind === "time" ? { month: 1, quarter: 3, year: 12 }[over.grain] : null;
      const back =
        on === "prior-year"
          ? 12
          : (size ?? ground.sums(ground.scope).basisOf(kpi.key, { ...ground.frame, basis: "prior-period" })!.shift);
      const wanted = ofMember(ground, kpi.key, by, own, { scenario: "actual", shift: back });
      const isRate = kpi.unit.kind === "percent";
      return [
        ...(wanted.delta === null
          ? []
          : [{ place: `${key} now`, found: valueOf(now), wanted: wanted.basis! + wanted.delta }]),
        { place: `${key} before`, found: valueOf(before), wanted: wanted.basis },
        {
          place: `${key} growth`,
          found: valueOf(growth),
          wanted:
            wanted.delta === null ||
            (wanted.both.length < (months ? monthsOf(months) : own).length && back % 12 !== 0) ||
            (!isRate && wanted.basis === 0)
              ? null
              : isRate
                ? wanted.delta
                : wanted.delta / Math.abs(wanted.basis!),
        },
      ];
    }),
  season: ({ kpi, years, statistics }, ground, { countsStudied }) => {
    const own = ground.sums(ground.scope);
    const seen = years.map(({ key, isStudied, months }) => ({
      key,
      isStudied,
      values: months.map((month) => own.compare(kpi.key, until(monthsOf(month), ground.frame.asOf), null).actual),
    }));
    return [
      ...years.flatMap(({ key, values }, y) =>
        values.map((value, i) => ({ place: `${key} ${i}`, found: valueOf(value), wanted: seen[y]!.values[i]! })),
      ),
      ...statistics.flatMap((month, i) => {
        const all = seen.flatMap(({ isStudied, values }) =>
          (isStudied && !countsStudied) || values[i] === null ? [] : [values[i]!],
        );
        const of = (work: (...values: number[]) => number) => (all.length === 0 ? null : work(...all));
        return [
          {
            place: `mean ${i}`,
            found: month?.mean ?? null,
            wanted: of((...own) => own.reduce((a, b) => a + b, 0) / own.length),
          },
          { place: `least ${i}`, found: month?.least ?? null, wanted: of(Math.min) },
          { place: `most ${i}`, found: month?.most ?? null, wanted: of(Math.max) },
        ];
      }),
    ];
  },
  scatter: ({ x, y, points, dimension, line }, ground) => {
    const wanted = points.map(({ member, months }) => {
      const by = member && dimension ? { dimension, member: member.key } : null;
      const own = until(months ? monthsOf(months) : askedMonths(ground), ground.frame.asOf);
      return [x.key, y.key].map((kpi) => ofMember(ground, kpi, by, own, null).actual);
    });
    const fitted = line && leastSquares(wanted as [number, number][]);
    return [
      ...points.flatMap((point, i) => [
        { place: `${point.key} x`, found: valueOf(point.x), wanted: wanted[i]![0]! },
        { place: `${point.key} y`, found: valueOf(point.y), wanted: wanted[i]![1]! },
      ]),
      // Of points that hardly differ across, a line hangs on their last digits.
      ...(line && isSpread(wanted.map(([across]) => across!))
        ? [
            { place: "slope", found: line.slope, wanted: fitted!.slope },
            { place: "r", found: line.r, wanted: fitted!.r },
          ]
        : []),
    ];
  },
  heat: ({ kpi, rows, columns, cells }, ground, definition) =>
    cells.flatMap((line, r) =>
      line.flatMap((cell, c): Held[] => {
        if (cell.months === null) return [];
        const entry = [rows.entries[r]!, columns.entries[c]!].find(({ member }) => member !== null);
        const dimension = rows.dimension ?? columns.dimension;
        const by = entry && dimension ? { dimension, member: entry.member!.key } : null;
        const months = until(monthsOf(cell.months), ground.frame.asOf);
        const side = ground.sums(ground.scope).basisOf(kpi.key, ground.frame);
        if (definition.rows.kind === "weekday" || definition.columns.kind === "weekday") return [];
        const wanted = ofMember(ground, kpi.key, by, months, side);
        return [
          { place: `${r}/${c}`, found: valueOf(cell.actual), wanted: wanted.actual },
          { place: `${r}/${c} delta`, found: valueOf(cell.variance.delta), wanted: wanted.delta },
        ];
      }),
    ),
  bridge: ({ kpi, from, by, dimension, start, steps, end }, ground, definition) => {
    if (!start || !end) return [];
    const own = ground.sums(ground.scope);
    const basis = from === "prior-period" || from === "prior-year" ? from : ground.frame.basis;
    const side = own.basisOf(kpi.key, { ...ground.frame, basis });
    const asked = askedMonths(ground);
    const brought = steps.reduce((all, { value }) => all + value, 0);
    if (from === "to-date") {
      const outlook = own.outlook(kpi.key, { ...ground.frame, source: "latest" });
      return [
        {
          place: "start",
          found: start.value,
          wanted: own.figure(kpi.key, { ...ground.frame, span: "year-to-date" }).actual,
        },
        { place: "end", found: end.value, wanted: outlook.figure },
        { place: "steps", found: brought, wanted: minus(end.value, start.value) },
      ];
    }
    const whole = own.compare(kpi.key, asked, side);
    const common = whole.delta === null ? null : whole.basis! + whole.delta;
    return [
      { place: "start", found: start.value, wanted: whole.basis },
      { place: "end", found: end.value, wanted: common },
      { place: "steps", found: brought, wanted: whole.delta },
      ...(definition.by.kind === "effects" && side
        ? effects(kpi.key, definition.by, ground, side, whole.both).map(([key, wanted]) => ({
            place: key,
            found: steps.find((step) => step.key === key)!.value,
            wanted,
          }))
        : []),
      ...steps.flatMap((step): Held[] => {
        if (step.kind === "others" || step.kind === "rest" || side === null) return [];
        const place = `${step.kind} ${step.key}`;
        if (by === "month")
          return [{ place, found: step.value, wanted: own.compare(kpi.key, monthsOf(step.months!), side).delta }];
        if (by === "member") {
          const member = { dimension: dimension!, member: step.key };
          const sides = ofMember(ground, kpi.key, member, asked, side);
          const wanted = step.kind === "gone" ? -sides.basis! : step.kind === "new" ? sides.actual : sides.delta;
          return [{ place, found: step.value, wanted }];
        }
        if (by === "effects") return [];
        if (by === "account") {
          const leaves = leavesBelow(ground.table, step.key);
          const { isCost, decimals } = ground.table.accounts.get(leaves[0]!)!;
          const { both } = whole;
          const change =
            own.sumOf(leaves, "actual", both) - own.sumOf(leaves, side.scenario, earlier(both, side.shift));
          const sign = isCost && kpi.key === "operating_result" ? -1 : 1;
          return [{ place, found: step.value, wanted: (sign * change) / 10 ** decimals }];
        }
        return [];
      }),
    ];
  },
  "time-chart": ({ kpi, points, parts, right }, ground) => {
    const own = ground.sums(ground.scope);
    return points.flatMap((point, i) => {
      const all = monthsOf(point.months);
      const seen = until(all, ground.frame.asOf);
      const isCut = seen.length > 0 && seen.length < all.length;
      const place = point.period;
      return [
        { place: `${place} actual`, found: valueOf(point.actual), wanted: own.compare(kpi.key, seen, null).actual },
        ...(isCut
          ? []
          : [{ place: `${place} budget`, found: valueOf(point.budget), wanted: own.over(kpi.key, "budget", all) }]),
        ...(isCut
          ? []
          : [
              {
                place: `${place} prior year`,
                found: valueOf(point.priorYear),
                wanted: own.over(kpi.key, "actual", earlier(all, 12)),
              },
            ]),
        ...(seen.length === 0 || valueOf(point.actual) === null
          ? []
          : [
              {
                place: `${place} delta`,
                found: valueOf(point.variance.delta),
                wanted: own.compare(kpi.key, seen, own.basisOf(kpi.key, ground.frame)).delta,
              },
            ]),
        ...(right
          ? [
              {
                place: `${place} right`,
                found: valueOf(right.figures[i]),
                wanted: own.compare(right.kpi.key, seen, null).actual,
              },
            ]
          : []),
        ...parts.flatMap((part): Held[] => {
          // What is still open is expected, and not in the facts.
          if (seen.length === 0 || (part.dimension !== null && (!part.member || valueOf(point.actual) === null)))
            return [];
          const by = part.member ? { dimension: part.dimension!, member: part.member.key } : null;
          return [
            {
              place: `${place} ${part.key}`,
              found: valueOf(part.figures[i]),
              wanted: ofMember(ground, part.kpi.key, by, seen, null).actual,
            },
          ];
        }),
      ];
    });
  },
  "expected-range": ({ kpi, grain, points }, ground) =>
    grain !== "month"
      ? []
      : points.flatMap(({ period, value, expected, lower, upper, isOutside }) => {
          const wanted = ground.sums(ground.scope).compare(kpi.key, monthsOf(period), null).actual;
          const isBeyond = value !== null && lower !== null && upper !== null && (value < lower || value > upper);
          return [
            { place: period, found: value, wanted },
            { place: `${period} outside`, found: Number(isOutside), wanted: Number(isBeyond) },
            ...(expected === null
              ? []
              : [{ place: `${period} order`, found: Number(lower! <= expected && expected <= upper!), wanted: 1 }]),
          ];
        }),
  accuracy: ({ kpi, rows }, ground) =>
    rows.flatMap(({ key, months, mae, bias, share, over }): Held[] => {
      if (!over || monthsOf(over.months).length !== months) return [];
      const own = ground.sums(ground.scope);
      const pairs = monthsOf(over.months).map((month) => {
        const said =
          key === "prior-year" ? own.over(kpi.key, "actual", earlier([month], 12)) : own.over(kpi.key, key, [month]);
        return [own.over(kpi.key, "actual", [month])!, said!] as const;
      });
      const sum = (of: (seen: number, said: number) => number) =>
        pairs.reduce((all, [seen, said]) => all + of(seen, said), 0);
      const off = sum((seen, said) => Math.abs(seen - said));
      const seen = sum((own) => Math.abs(own));
      return [
        { place: `${key} mae`, found: mae, wanted: off / months },
        { place: `${key} bias`, found: bias, wanted: sum((a, b) => a - b) / months },
        { place: `${key} share`, found: share, wanted: seen === 0 ? null : off / seen },
      ];
    }),
  outlook: ({ kpi, rows, basis, gap }, ground) => {
    const own = (source: string) => ground.sums(ground.scope).outlook(kpi.key, { ...ground.frame, source });
    const known = rows.filter(({ key }) => key !== "model");
    return [
      ...known.flatMap(({ key, figure, variance }) => [
        { place: key, found: valueOf(figure), wanted: own(key).figure },
        { place: `${key} delta`, found: valueOf(variance.delta), wanted: own(key).delta },
      ]),
      { place: "basis", found: valueOf(basis), wanted: own("latest").basis },
      ...(gap ? [{ place: "gap", found: valueOf(gap.needed), wanted: own("latest").gap }] : []),
    ];
  },
  "cross-tab": ({ kpis, rows, columns, cells }, ground) =>
    columns.lines.flatMap((column, c) =>
      rows.lines.flatMap((row, r): Held[] => {
        const at = [
          ...row.map((entry, depth) => ({
            axis: rows.axes[depth]!,
            entry: entry === null ? null : rows.axes[depth]!.entries[entry]!,
          })),
          ...column.map((entry, depth) => ({
            axis: columns.axes[depth]!,
            entry: entry === null ? null : columns.axes[depth]!.entries[entry]!,
          })),
        ];
        const kpi = at.find(({ entry }) => entry?.kpi)?.entry?.kpi ?? kpis[0]!.key;
        const scenario = at.find(({ entry }) => entry?.scenario)?.entry?.scenario ?? "actual";
        const months = at.find(({ entry }) => entry?.months)?.entry?.months;
        const members = at.filter(({ entry }) => entry?.member);
        // A total over periods is of all that stand there; those of the frame's span are the span's.
        const periods = at.find(({ axis }) => axis.kind === "period");
        const all = periods ? periods.axis.entries.flatMap((entry) => monthsOf(entry.months!)) : askedMonths(ground);
        const own = until(months ? monthsOf(months) : all, ground.frame.asOf);
        const scope = members.reduce(
          (inside, { axis, entry }) => within(inside, ground.table, axis.dimension!, entry!.member!.key),
          ground.scope,
        );
        const isThere = members.every(({ axis, entry }) =>
          lives(ground.table, axis.dimension!, entry!.member!.key, own),
        );
        const value = cells[c]!.figures.value!.values[r]!;
        const place = `${r}/${c} ${kpi} ${scenario} ${JSON.stringify(scope)} ${own.join(" ")}`;
        if (scenario !== "actual") {
          const side = sideOf(scenario, ground, kpi, ground.sums(ground.scope));
          const past = members.every(({ axis, entry }) =>
            lives(ground.table, axis.dimension!, entry!.member!.key, earlier(own, side?.shift ?? 0)),
          );
          const { both, basis } = ground.sums(scope).compare(kpi, own, side);
          return both.length === 0 || own.length < all.length
            ? []
            : [{ place, found: value, wanted: isThere && past ? basis : null }];
        }
        return [{ place, found: value, wanted: isThere ? ground.sums(scope).compare(kpi, own, null).actual : null }];
      }),
    ),
  text: ({ blocks }, ground) =>
    blocks
      .flatMap((block) => (block.is === "list" ? block.items.flat() : block.line))
      .flatMap((inline): Held[] => {
        if (inline.is !== "figure") return [];
        const own = ground.sums(ground.scope).figure(inline.kpi, ground.frame);
        const { actual, basis, attainment, delta: variance } = own;
        const known: Readonly<Record<string, number | null>> = { actual, basis, attainment, variance };
        const wanted = known[inline.part];
        return wanted === undefined
          ? []
          : [{ place: `${inline.kpi} ${inline.part}`, found: valueOf(inline.figure), wanted }];
      }),
  chooser: () => [],
};
