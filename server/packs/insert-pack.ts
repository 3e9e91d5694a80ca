import type { Knex } from "knex";
import { flow } from "#core/layout/put.ts";
import type { Place } from "#core/layout/place.ts";
import type { PackDraft } from "#contract/pack.ts";
import { recordName, type PackRecord, type PageRecord, type PanelRecord } from "#contract/pack-records.ts";
import { panelSize } from "#core/panels/schemas.ts";
import { storePanel } from "#contract/stored-panel.ts";
import { packRepository } from "./pack-repository.ts";

/** Writes a new pack with its pages and panels. */
export async function insertPack(trx: Knex.Transaction, pack: PackDraft, position: number): Promise<void> {
  await packRepository.write(trx, { added: recordsOfDraft(pack, position), changed: {}, removed: {} });
}

function recordsOfDraft({ key: pack, name, starts, pages }: PackDraft, position: number) {
  const records: Record<string, PackRecord | PageRecord | PanelRecord> = {
    [recordName({ kind: "pack", pack })]: { name, ...(starts ? { starts } : {}), position },
  };
  pages.forEach(({ key: page, name, group, scope, look = {}, panels }, at) => {
    const own: PageRecord = { name, ...(group === undefined ? {} : { group }), scope, look, position: at };
    records[recordName({ kind: "page", pack, page })] = own;
    const flowing = flow(panels.map((panel) => ({ key: panel.key, size: panelSize(panel) })));
    for (const { place, ...panel } of panels as readonly ((typeof panels)[number] & { place?: Place })[])
      records[recordName({ kind: "panel", pack, page, panel: panel.key })] = {
        definition: storePanel(panel),
        place: place ?? flowing[panel.key]!,
      };
  });
  return records;
}
