import type { Knex } from "knex";
import type { PackedFit } from "./fit-store.ts";

/** So many bytes of fits are kept for a company, and none that nobody needed for so long. */
const MOST_BYTES = 48 * 2 ** 20;
const UNUSED = "interval '45 days'";

/** The fits of a company that were kept, the latest first, as many as are worth having at hand. */
export async function readFits(knex: Knex): Promise<PackedFit[]> {
  const { rows } = await knex.raw<{ rows: { key: string; data: Buffer }[] }>(
    `select key, data from (
       select key, data, used_at, sum(length(data)) over (order by used_at desc, key) as bytes from kept_fit
     ) as fit where bytes <= ? order by used_at`,
    [MOST_BYTES],
  );
  return rows;
}

/** Keeps fits, and forgets those that nobody needed for long. */
export async function keepFits(knex: Knex, fits: readonly PackedFit[]): Promise<void> {
  if (fits.length === 0) return;
  await knex.raw(
    `insert into kept_fit (key, data) select * from unnest(?::text[], ?::bytea[])
     on conflict (key) do update set used_at = now()`,
    [fits.map(({ key }) => key), fits.map(({ data }) => Buffer.from(data))] as never,
  );
  await knex.raw(`delete from kept_fit where used_at < now() - ${UNUSED}`);
}
