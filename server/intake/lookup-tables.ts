import { createHash } from "node:crypto";
import type { Knex } from "knex";
import type { LookupTable } from "#core/tidy/lookup-table.ts";
import type { TidyStep } from "#core/tidy/steps/index.ts";

type Content = Pick<LookupTable, "name" | "columns" | "rows">;

/** A table under the key of its content. */
export function asTable({ name, columns, rows }: Content): LookupTable {
  const hash = createHash("sha256").update(JSON.stringify([name, columns, rows]));
  return { key: hash.digest("hex").slice(0, 32), name, columns, rows };
}

/** Keeps a table; one that is kept already stays as it is. */
export async function storeTable(knex: Knex, table: LookupTable, person: string): Promise<void> {
  await knex("lookup_table")
    .insert({
      key: table.key,
      name: table.name,
      columns: storable(table.columns),
      rows: storable(table.rows),
      stored_by: person,
    })
    .onConflict("key")
    .ignore();
}

/** The tables that steps look up in, by key; one that is not kept is not among them. */
export async function readTables(knex: Knex, steps: readonly TidyStep[]): Promise<ReadonlyMap<string, LookupTable>> {
  const keys = [...new Set(steps.flatMap((step) => (step.kind === "look-up" ? [step.table] : [])))];
  if (keys.length === 0) return new Map();
  const rows: LookupTable[] = await knex("lookup_table").whereIn("key", keys).select("key", "name", "columns", "rows");
  return new Map(rows.map((row) => [row.key, row]));
}

/** JSON without the NUL that PostgreSQL does not keep. */
function storable(value: unknown): string {
  return JSON.stringify(value).replaceAll("\\u0000", "");
}
