import type { Knex } from "knex";
import type { Month } from "#core/calendar/month.ts";
import { newKey } from "#core/mapping/names.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { noteChange } from "#server/db/data-version.ts";

/** Adds a dimension with one level; facts keep the members of at most eight. Returns its key. */
export async function addDimension(
  trx: Knex.Transaction,
  { name, plural, key }: { name: string; plural: string; key?: string },
): Promise<string> {
  const { rows } = await trx.raw<{ rows: { slot: number }[] }>(
    "select slot from generate_series(1, 8) as slot where slot not in (select slot from dimension) order by slot limit 1",
  );
  if (!rows[0]) {
    throw new ProblemError(
      "invalid-change",
      `There are eight dimensions already, the most there can be, so ${name} cannot be added. Map the column to a dimension that is there, or ignore it.`,
    );
  }
  const taken = new Set<string>(await trx("dimension").pluck("key"));
  const own = key ?? newKey(name, taken, "-");
  await trx("dimension").insert({ slot: rows[0].slot, key: own, name, plural, levels: [name] });
  await noteChange(trx);
  return own;
}

/** Adds a version of budget, forecast or target. Returns its key. */
export async function addScenario(
  trx: Knex.Transaction,
  { name, kind, madeAfter }: { name: string; kind: string; madeAfter: Month | null },
): Promise<string> {
  const known: { key: string; name: string }[] = await trx("scenario").select("key", "name");
  if (known.some((s) => s.name.toLowerCase() === name.toLowerCase()))
    throw new ProblemError("invalid-change", `There is a scenario ${name} already. Choose another name.`);
  const key = newKey(name, new Set(known.map((s) => s.key)), "-");
  await trx("scenario").insert({ key, name, kind, made_after: madeAfter, position: known.length });
  await noteChange(trx);
  return key;
}
