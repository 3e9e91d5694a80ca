import type { Knex } from "knex";
import type { Month } from "#core/calendar/month.ts";
import { newKey } from "#core/reading/names.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { nextIds } from "./collections.ts";
import { noteChange } from "#server/db/data-version.ts";

/** Adds a dimension with one level. Returns its key. */
export async function addDimension(
  trx: Knex.Transaction,
  { name, plural, key }: { name: string; plural: string; key?: string },
): Promise<string> {
  const taken = new Set<string>(await trx("dimension").pluck("key"));
  const own = key ?? newKey(name, taken, "-");
  const [id] = await nextIds(trx, "dimension", 1);
  await insertDimension(trx, { id: id!, key: own, name, plural });
  await noteChange(trx);
  return own;
}

/** Adds a dimension with one level and a number that was given out; that it was added is noted by whoever adds it. */
export async function insertDimension(
  trx: Knex.Transaction,
  { id, key, name, plural }: { id: number; key: string; name: string; plural: string },
): Promise<void> {
  await trx.raw(
    `insert into dimension (id, key, name, plural, levels, position) overriding system value
     values (?, ?, ?, ?, ?, (select coalesce(max(position), -1) + 1 from dimension))`,
    [id, key, name, plural, [name]],
  );
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
