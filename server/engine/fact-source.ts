import type { Knex } from "knex";
import type { Month } from "#core/calendar/month.ts";
import type { Cell, CellQuery, CellSource } from "#core/cube/cell-source.ts";
import { withDescendants } from "#core/dimensions/dimension.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import type { Structure } from "#server/db/structure.ts";

/** Which source lines are asked for: leaf accounts of one scenario in given months, inside a scope. */
export interface LineQuery {
  readonly scenario: string;
  readonly accounts: readonly string[];
  readonly months: readonly Month[];
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
}

/** Cells and the lines behind them: the only two ways in which facts leave the database. */
export interface FactSource extends CellSource {
  lines(query: LineQuery): Promise<{ total: number; sum: number; lines: SourceLine[] }>;
}

/** Reads facts by grouped sums in PostgreSQL. */
export function sqlFactSource(knex: Knex, structure: Structure): FactSource {
  return {
    cells: (query) => readCells(knex, structure, query),
    lines: (query) => readLines(knex, structure, query),
  };
}

async function readCells(knex: Knex, structure: Structure, query: CellQuery): Promise<Cell[]> {
  if (query.accounts.length === 0 || query.windows.length === 0) return [];
  const { ids } = structure;
  const windows = query.windows.map(() => "(scenario_id = ? and month between ? and ?)").join(" or ");
  const windowValues = query.windows.flatMap((w) => [ids.scenarios.get(w.scenario) ?? -1, w.from, w.to]);
  const scope = scopeCondition(structure, query.scope);
  const through = query.throughDay === undefined ? "" : "and day <= ?";
  const sql = `
    select scenario_id, account_id, month, sum(amount)::text as amount
    from fact
    where account_id = any(?) and (${windows}) ${scope.sql} ${through}
    group by scenario_id, account_id, month`;
  const values = [
    accountIds(structure, query.accounts),
    ...windowValues,
    ...scope.values,
    ...(query.throughDay === undefined ? [] : [query.throughDay]),
  ];
  const { rows } = await knex.raw<{
    rows: { scenario_id: number; account_id: number; month: number; amount: string }[];
  }>(sql, values as never);
  const scenarioKey = invert(ids.scenarios);
  const accountKey = invert(ids.accounts);
  return rows.map((row) => ({
    scenario: scenarioKey.get(row.scenario_id)!,
    account: accountKey.get(row.account_id)!,
    month: row.month,
    amount: Number(row.amount),
  }));
}

async function readLines(
  knex: Knex,
  structure: Structure,
  query: LineQuery,
): Promise<{ total: number; sum: number; lines: SourceLine[] }> {
  if (query.accounts.length === 0 || query.months.length === 0) return { total: 0, sum: 0, lines: [] };
  const scope = scopeCondition(structure, query.scope);
  const through = query.throughDay === undefined ? "" : "and day <= ?";
  const where = `account_id = any(?) and scenario_id = ? and month = any(?) ${scope.sql} ${through}`;
  const values = [
    accountIds(structure, query.accounts),
    structure.ids.scenarios.get(query.scenario) ?? -1,
    query.months,
    ...scope.values,
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
      members: [row.m1, row.m2, row.m3, row.m4, row.m5, row.m6, row.m7, row.m8].flatMap((id) =>
        id === null ? [] : (memberName.get(id) ?? []),
      ),
      reference: row.reference,
      amount: Number(row.amount),
    })),
  };
}

type Slot = "m1" | "m2" | "m3" | "m4" | "m5" | "m6" | "m7" | "m8";
type LineRow = {
  file_name: string;
  posted_at: Date;
  line: number;
  month: number;
  day: number | null;
  account_id: number;
  reference: string | null;
  amount: string;
} & Record<Slot, number | null>;

function scopeCondition(structure: Structure, scope: Scope): { sql: string; values: number[][] } {
  const values: number[][] = [];
  let sql = "";
  for (const dimension of structure.dimensions) {
    const chosen = scope[dimension.key];
    if (!chosen) continue;
    const ids = structure.ids.members.get(dimension.key)!;
    values.push(withDescendants(dimension, chosen).map((key) => ids.get(key)!));
    sql += ` and m${structure.ids.slots.get(dimension.key)!} = any(?)`;
  }
  return { sql, values };
}

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
