import type { Knex } from "knex";
import type { Month } from "#core/calendar/month.ts";
import { newKey } from "#core/mapping/names.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { noteChange } from "#server/db/data-version.ts";

/** Adds a dimension with one level. Returns its key. */
export async function addDimension(
  trx: Knex.Transaction,
  { name, plural, key }: { name: string; plural: string; key?: string },
): Promise<string> {
  const taken = new Set<string>(await trx("dimension").pluck("key"));
  const own = key ?? newKey(name, taken, "-");
  await trx("dimension").insert({
    key: own,
    name,
    plural,
    levels: [name],
    position: trx.raw("(select coalesce(max(position), -1) + 1 from dimension)"),
  });
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
