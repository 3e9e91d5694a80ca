import type { Knex } from "knex";
import { diffRecords, type Records } from "#core/history/records-diff.ts";
import { MOST_PANELS, isReadable, type PlacedPanel } from "#contract/pack.ts";
import { referencesOf, type PanelDefinition } from "#contract/panels/index.ts";
import { readStoredPanel, storePanel } from "#contract/stored-panel.ts";
import type { Structure } from "#server/db/structure.ts";
import { makeChange } from "#server/history/history.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { packDoor, panelRecordName, type PanelPlace, type PanelRecord } from "./pack-door.ts";
import type { PanelRow } from "./pack-rows.ts";
import { readPack, requirePage } from "./packs.ts";

type PagePlace = Pick<PanelPlace, "pack" | "page">;

/**
 * Arranges a panel anew, on top of the version it was made from. What it names must be there; the panel's key
 * and kind stay. Where somebody changed the same panel since, nothing is done and both are shown.
 */
export async function changePanel(
  trx: Knex.Transaction,
  structure: Structure,
  place: PanelPlace,
  { panel, version, by }: { panel: PanelDefinition; version: number; by: string },
): Promise<number | null> {
  const row = await requireRow(trx, place);
  refuseOutdated(row, version, panel);
  const before = readStoredPanel(row.definition, row.key);
  if (panel.key !== row.key || (isReadable(before) && panel.kind !== before.kind))
    throw new ProblemError("invalid-change", "A panel's key and kind stay as they are.");
  requireNamed(structure, panel);
  const changer = { by, said: `Arranged ${panelName(panel)}` };
  return commit(trx, changer, place, recordOf(row), { definition: storePanel(panel), position: row.position });
}

/** Puts a panel on a page under a key that is not in use there: behind another one, first, or last. */
export async function addPanel(
  trx: Knex.Transaction,
  structure: Structure,
  place: PagePlace,
  { panel, after, by }: { panel: PanelDefinition; after?: string | null | undefined; by: string },
): Promise<number | null> {
  const page = requirePage(await readPack(trx, place.pack), place.page);
  await trx("page").where({ pack: place.pack, key: place.page }).forUpdate().first("key");
  const rows = await trx("panel").where(place).orderBy("position").select<PanelRow[]>("*");
  if (rows.some((row) => row.key === panel.key))
    throw new ProblemError("invalid-change", `The page ${page.name} has a panel "${panel.key}" already.`);
  if (rows.length >= MOST_PANELS)
    throw new ProblemError("invalid-change", `A page holds at most ${MOST_PANELS} panels. Take one off first.`);
  requireNamed(structure, panel);
  const index = after === undefined ? rows.length : after === null ? 0 : rows.findIndex((row) => row.key === after) + 1;
  const changer = { by, said: `Put ${panelName(panel)} on ${page.name}` };
  const definition = storePanel(panel);
  return commit(trx, changer, { ...place, panel: panel.key }, null, { definition, position: positionAt(rows, index) });
}

/** Takes a panel off its page. */
export async function removePanel(
  trx: Knex.Transaction,
  place: PanelPlace,
  { version, by }: { version: number; by: string },
): Promise<number | null> {
  const row = await requireRow(trx, place);
  refuseOutdated(row, version, null);
  const panel = readStoredPanel(row.definition, row.key);
  const changer = { by, said: `Took ${panelName(panel)} off its page` };
  return commit(trx, changer, place, recordOf(row), null);
}

function commit(
  trx: Knex.Transaction,
  changer: { by: string; said: string },
  place: PanelPlace,
  before: PanelRecord | null,
  after: PanelRecord | null,
): Promise<number | null> {
  const records = (record: PanelRecord | null): Records => (record ? { [panelRecordName(place)]: record } : {});
  const diff = diffRecords(records(before), records(after));
  return makeChange(trx, { area: "pack", door: packDoor, changer, diff });
}

/** A place between two others is the middle of theirs, so that putting one panel in moves no other. */
function positionAt(rows: readonly PanelRow[], index: number): number {
  const [before, behind] = [rows[index - 1]?.position, rows[index]?.position];
  if (before === undefined) return behind === undefined ? 0 : behind - 1;
  return behind === undefined ? before + 1 : (before + behind) / 2;
}

async function requireRow(trx: Knex.Transaction, { pack, page, panel }: PanelPlace): Promise<PanelRow> {
  const row = await trx("panel").where({ pack, page, key: panel }).forUpdate().first<PanelRow | undefined>("*");
  if (row) return row;
  const found = requirePage(await readPack(trx, pack), page);
  throw new ProblemError(
    "not-found",
    `The page ${found.name} has no panel "${panel}". Its panels are ${found.panels.map((p) => p.key).join(", ") || "none"}.`,
  );
}

function recordOf({ definition, position }: PanelRow): PanelRecord {
  return { definition, position };
}

function refuseOutdated(row: PanelRow, version: number, yours: PanelDefinition | null): void {
  if (row.version === version) return;
  const current: PlacedPanel = { ...readStoredPanel(row.definition, row.key), version: row.version };
  throw new ProblemError(
    "changed-meanwhile",
    `Somebody changed ${panelName(current)} while you arranged it. Look at theirs, then make your change on top of it.`,
    { both: { current, yours } },
  );
}

function panelName(panel: PanelDefinition | PlacedPanel | ReturnType<typeof readStoredPanel>): string {
  if (panel.title) return `“${panel.title}”`;
  return isReadable(panel) ? `the ${panel.kind.replace("time-chart", "chart over time")}` : `the panel "${panel.key}"`;
}

/** Everything that a panel names must be there. */
function requireNamed(structure: Structure, panel: PanelDefinition): void {
  const { kpis, dimension: named } = referencesOf(panel);
  const unknown = kpis.find((key) => !structure.kpis.has(key) && !structure.kpiProblems.has(key));
  if (unknown !== undefined)
    throw new ProblemError(
      "unknown-kpi",
      `There is no KPI "${unknown}". Choose one of the library, or define it first.`,
    );
  if (!named) return;
  const dimension = structure.dimensions.find((d) => d.key === named.key);
  if (!dimension) throw new ProblemError("unknown-scope", `There is no dimension "${named.key}" to open or repeat by.`);
  if (named.level !== null && !dimension.levels.includes(named.level))
    throw new ProblemError(
      "unknown-scope",
      `${dimension.name} has no level "${named.level}". Its levels are ${dimension.levels.join(", ")}.`,
    );
}
