import type { Knex } from "knex";
import { kpiDoor } from "#server/kpis/kpi-door.ts";
import { packDoor } from "#server/packs/pack-door.ts";
import { structureDoor } from "#server/structure/structure-door.ts";
import { undoChange, type ChangeArea, type Door } from "#server/history/history.ts";

/** The doors of all areas that are changed. */
const DOORS: Readonly<Record<ChangeArea, Door>> = { pack: packDoor, kpi: kpiDoor, structure: structureDoor };

/** Takes any change back, whatever it is of. Returns the number of the change that does so. */
export function undoAnyChange(trx: Knex.Transaction, id: number, by: string): Promise<number> {
  return undoChange(trx, id, by, DOORS);
}
