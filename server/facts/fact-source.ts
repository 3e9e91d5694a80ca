import type { Knex } from "knex";
import type { Month } from "#core/calendar/month.ts";
import type { CellBook } from "#core/cube/cell-book.ts";
import { bundledSource } from "#core/cube/bundle-reads.ts";
import type { Cell, CellQuery, CellSource } from "#core/cube/cell-source.ts";
import type { OriginalAmount } from "#core/cube/fact.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { askUnlessGone } from "#server/db/ask-unless-gone.ts";
import { streamRows } from "#server/db/stream-rows.ts";
import type { Structure } from "#server/db/structure.ts";
import { memberReader, memberSql, scopeSql, slotColumn, type SlotCells } from "./slots.ts";

/** Which source lines are asked for: leaf accounts of scenarios, each in given months, inside a scope. */
export interface LineQuery {
  readonly places: readonly { readonly scenario: string; readonly months: readonly Month[] }[];
  readonly accounts: readonly string[];
  readonly scope: Scope;
  readonly throughDay?: number;
  readonly offset: number;
  readonly limit: number;
}

/** One fact with the load and line it came from. */
export interface SourceLine {
  readonly load: string;
  readonly postedAt: Date;
  readonly line: number;
  readonly month: Month;
  readonly day: number | null;
  readonly account: string;
  readonly members: readonly string[];
  readonly reference: string | null;
  readonly amount: number;
  /** What it was before it was converted to the company's currency. */
  readonly original: OriginalAmount | null;
}

/** Which of a dataset's facts are asked for whole. */
export interface FactQuery {
  readonly dataset: string;
  /** All scenarios when empty. */
  readonly scenarios: readonly string[];
  readonly from: Month | null;
  readonly to: Month | null;
  readonly scope: Scope;
}

/** A fact with everything named. */
export interface NamedFact {
  readonly scenario: string;
  readonly month: Month;
  readonly day: number | null;
  readonly account: string;
  /** By dimension, the member's key. */
  readonly members: Readonly<Record<string, string>>;
  readonly amount: string;
  readonly reference: string | null;
  readonly load: string;
  readonly line: number;
}

/** Cells, the lines behind them, and whole facts: the only ways in which facts leave the database. */
export interface FactSource extends CellSource {
  /** All cells at hand, where the facts are kept in memory; identical to what pages bring. */
  readonly book?: CellBook | undefined;
  facts(query: FactQuery): AsyncIterable<NamedFact>;
  lines(query: LineQuery): Promise<{ total: number; sum: number; lines: SourceLine[] }>;
}

/** A source that also gives single cells. */
export interface SqlFactSource extends FactSource {
  cells(query: CellQuery): Promise<Cell[]>;
}

/** Reads facts by grouped sums in PostgreSQL; sums are given up when whoever asked is gone. */
export function sqlFactSource(knex: Knex, structure: Structure, gone?: AbortSignal): SqlFactSource {
  const cells = (query: CellQuery) => readCells(knex, structure, query, gone);
  return {
    ...bundledSource(cells, structure.dimensions),
    cells,
    lines: (query) => readLines(knex, structure, query),
    facts: (query) => readFacts(knex, structure, query),
  };
}

async function* readFacts(knex: Knex, structure: Structure, query: FactQuery): AsyncGenerator<NamedFact> {
  const { ids } = structure;
  const bound: unknown[] = [query.dataset];
  const bind = (value: unknown) => `$${bound.push(value)}`;
  const conditions = ["fact.dataset_id = (select id from dataset where key = $1)"];
  if (query.scenarios.length > 0)
    conditions.push(
      `fact.scenario_id = any(${bind(query.scenarios.map((key) => ids.scenarios.get(key) ?? -1))}::int[])`,
    );
  if (query.from !== null) conditions.push(`fact.month >= ${bind(query.from)}`);
  if (query.to !== null) conditions.push(`fact.month <= ${bind(query.to)}`);
  const slots = ids.slots.get(query.dataset) ?? new Map<string, number>();
  const kept = structure.dimensions.filter((d) => slots.has(d.key));
  const columns = kept.map((d) => slotColumn(slots.get(d.key)!));
  const dimensions = kept.map(({ key }) => ({ key, names: invert(ids.members.get(key)!) }));
  const scope = scopeSql(structure, query.scope, (inside) => `${bind(inside)}::int[]`);
  conditions.push(`true${scope}`);
  const sql = `
    select scenario_id, month, day, account_id, amount, reference, load.file_name, line${columns.map((column) => `, ${column}`).join("")}
    from fact join load on load.id = fact.load_id
    where ${conditions.join(" and ")} order by scenario_id, month, day, load_id, line`;
  const scenarios = invert(ids.scenarios);
  const accounts = invert(ids.accounts);
  type Row = [number, number, number | null, number, string, string | null, string, number, ...(number | null)[]];
  for await (const row of streamRows<Row>(knex, sql, bound)) {
    const [scenario, month, day, account, amount, reference, load, line, ...own] = row;
    const members: Record<string, string> = {};
    dimensions.forEach((dimension, i) => {
      const id = own[i];
      if (id !== null && id !== undefined) members[dimension.key] = dimension.names.get(id)!;
    });
    yield {
      scenario: scenarios.get(scenario)!,
      month,
      day,
      account: accounts.get(account)!,
      members,
      amount,
      reference,
      load,
      line,
    };
  }
}

async function readCells(
  knex: Knex,
  structure: Structure,
  query: CellQuery,
  gone: AbortSignal | undefined,
): Promise<Cell[]> {
  if (query.accounts.length === 0 || query.windows.length === 0) return [];
  const { ids } = structure;
  const windows = query.windows.map(() => "(scenario_id = ? and month between ? and ?)").join(" or ");
  const windowValues = query.windows.flatMap((w) => [ids.scenarios.get(w.scenario) ?? -1, w.from, w.to]);
  const within: unknown[] = [];
  const scope = scopeSql(structure, query.scope, (inside) => {
    within.push(inside);
    return "?";
  });
  const { byDay } = query;
  const by = structure.dimensions.find((d) => d.key === query.by);
  const { member, hasMember } = by ? memberSql(ids, by.key) : { member: "null::int", hasMember: "true" };
  // Datasets are told apart, though nobody asks which it was: then the servers that facts are spread over add them up.
  const sql = `
    select scenario_id, account_id, month, ${byDay ? "day" : "null::int as day"}, ${member} as member_id, sum(amount)::text as amount
    from fact
    where account_id = any(?) and (${windows}) ${scope} ${byDay ? "and day is not null" : ""} ${by ? `and ${hasMember}` : ""}
    group by dataset_id, scenario_id, account_id, month${byDay ? ", day" : ""}${by ? `, ${member}` : ""}`;
  const values = [accountIds(structure, query.accounts), ...windowValues, ...within];
  const rows = await askUnlessGone<CellRow>(knex, { sql, values }, gone);
  const scenarioKey = invert(ids.scenarios);
  const accountKey = invert(ids.accounts);
  const memberKey = by && invert(ids.members.get(by.key)!);
  return rows.map((row) => ({
    scenario: scenarioKey.get(row.scenario_id)!,
    account: accountKey.get(row.account_id)!,
    month: row.month,
    amount: Number(row.amount),
    ...(row.day === null ? {} : { day: row.day }),
    ...(memberKey && row.member_id !== null ? { member: memberKey.get(row.member_id)! } : {}),
  }));
}

interface CellRow {
  scenario_id: number;
  account_id: number;
  month: number;
  day: number | null;
  member_id: number | null;
  amount: string;
}

async function readLines(
  knex: Knex,
  structure: Structure,
  query: LineQuery,
): Promise<{ total: number; sum: number; lines: SourceLine[] }> {
  if (query.accounts.length === 0 || query.places.length === 0) return { total: 0, sum: 0, lines: [] };
  const within: unknown[] = [];
  const scope = scopeSql(structure, query.scope, (inside) => {
    within.push(inside);
    return "?";
  });
  const through = query.throughDay === undefined ? "" : "and day <= ?";
  const places = query.places.map(() => "scenario_id = ? and month = any(?)").join(" or ");
  const where = `account_id = any(?) and (${places}) ${scope} ${through}`;
  const values = [
    accountIds(structure, query.accounts),
    ...query.places.flatMap(({ scenario, months }) => [structure.ids.scenarios.get(scenario) ?? -1, months]),
    ...within,
    ...(query.throughDay === undefined ? [] : [query.throughDay]),
  ];
  const [counted, listed] = await Promise.all([
    knex.raw<{ rows: { total: string; sum: string | null }[] }>(
      `select count(*)::text as total, sum(amount)::text as sum from fact where ${where}`,
      values as never,
    ),
    knex.raw<{ rows: LineRow[] }>(
      `
      select load.file_name, load.posted_at, fact.* from (
        select * from fact where ${where} order by abs(amount) desc, load_id, line limit ? offset ?
      ) fact join load on load.id = fact.load_id
      order by abs(amount) desc, load_id, line`,
      [...values, query.limit, query.offset] as never,
    ),
  ]);
  const accountKey = invert(structure.ids.accounts);
  const memberName = memberNames(structure);
  const memberOf = memberReader(structure.ids);
  return {
    total: Number(counted.rows[0]?.total ?? 0),
    sum: Number(counted.rows[0]?.sum ?? 0),
    lines: listed.rows.map((row) => ({
      load: row.file_name,
      postedAt: row.posted_at,
      line: row.line,
      month: row.month,
      day: row.day,
      account: accountKey.get(row.account_id)!,
      members: structure.dimensions.flatMap((dimension) => {
        const id = memberOf(row, dimension.key);
        return id === null ? [] : (memberName.get(id) ?? []);
      }),
      reference: row.reference,
      amount: Number(row.amount),
      original: row.original_amount === null ? null : { amount: row.original_amount, currency: row.original_currency! },
    })),
  };
}

type LineRow = {
  dataset_id: number;
  file_name: string;
  posted_at: Date;
  line: number;
  month: number;
  day: number | null;
  account_id: number;
  reference: string | null;
  amount: string;
  original_amount: string | null;
  original_currency: string | null;
} & SlotCells;

function accountIds(structure: Structure, keys: readonly string[]): number[] {
  return keys.map((key) => structure.ids.accounts.get(key)!);
}

function memberNames(structure: Structure): Map<number, string> {
  return new Map(
    structure.dimensions.flatMap((dimension) => {
      const ids = structure.ids.members.get(dimension.key)!;
      return dimension.members.map((m) => [ids.get(m.key)!, m.name] as const);
    }),
  );
}

function invert(map: ReadonlyMap<string, number>): Map<number, string> {
  return new Map([...map].map(([key, id]) => [id, key]));
}
