import type { Knex } from "knex";
import type { PackDraft } from "#contract/pack.ts";
import { storePanel } from "#contract/stored-panel.ts";

/** Writes a new pack with its pages and panels. */
export async function insertPack(
  trx: Knex.Transaction,
  { key, name, starts, pages }: PackDraft,
  position: number,
): Promise<void> {
  await trx("pack").insert({ key, definition: JSON.stringify({ name, ...(starts ? { starts } : {}) }), position });
  await trx.batchInsert(
    "page",
    pages.map((page, at) => ({ pack: key, key: page.key, name: page.name, scope: page.scope, position: at })),
  );
  await trx.batchInsert(
    "panel",
    pages.flatMap((page) =>
      page.panels.map((panel, at) => ({
        pack: key,
        page: page.key,
        key: panel.key,
        definition: JSON.stringify(storePanel(panel)),
        position: at,
      })),
    ),
  );
}
