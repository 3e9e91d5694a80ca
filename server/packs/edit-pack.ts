import type { Knex } from "knex";
import { inWriting } from "#core/formats/writing.ts";
import { applyDiff, diffRecords, isEmptyDiff, type Records, type RecordsDiff } from "#core/history/records-diff.ts";
import type { SettingConflict } from "#core/history/merge-diff.ts";
import { namedAtAllTimes, type PackEdit } from "#contract/pack.ts";
import { panelOf, parseRecordName, type PageRecord, type PanelRecord } from "#contract/pack-records.ts";
import type { Structure } from "#server/db/structure.ts";
import { makeChange } from "#server/history/history.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readEdit, refuseUnfit } from "./check-edit.ts";
import { editWords } from "./edit-words.ts";
import { packRepository } from "./pack-repository.ts";
import { panelName } from "./panel-name.ts";

/**
 * Makes an edit of a pack on top of what it is now. Where somebody changed the same setting since, nothing is done
 * and both versions are told. An edit that comes twice, as after an answer that was lost, is done once. Returns the
 * number of the change, or `null` when nothing was left to change.
 */
export async function editPack(
  trx: Knex.Transaction,
  structure: Structure,
  pack: string,
  { edit, diff: asked, takesBack, by }: PackEdit & { by: string },
): Promise<number | null> {
  const now = await packRepository.read(trx, [`pack/${pack}`]);
  const done = await trx("change").where({ edit }).first<{ id: number } | undefined>("id");
  if (done) return done.id;
  const { diff, conflicts } = packRepository.merge!(now, readEdit(pack, asked));
  if (conflicts.length > 0) refuseConflict(now, conflicts, asked);
  refuseUnfit(structure, now, diff);
  const changer = {
    by,
    said: inWriting(structure, () => editWords(now, diff)),
    edit,
    ...(takesBack ? { takesBack } : {}),
  };
  return makeChange(trx, { area: "pack", repository: packRepository, changer, diff });
}

/**
 * Puts a page back to as it was after a change, whatever was done to it since and by whom. Returns the number of the
 * change, which can itself be taken back; `null` where it is so already.
 */
export async function restorePage(
  trx: Knex.Transaction,
  { pack, page, change, by }: { pack: string; page: string; change: number; by: string },
): Promise<number | null> {
  const isOfPage = (name: string) => {
    const read = parseRecordName(name);
    return read !== undefined && read.kind !== "pack" && read.pack === pack && read.page === page;
  };
  const now = await packRepository.read(trx, [`pack/${pack}`]);
  const own = Object.fromEntries(Object.entries(now).filter(([name]) => isOfPage(name)));
  const later = await trx("change")
    .where({ area: "pack" })
    .andWhere("id", ">=", change)
    .orderBy("id", "desc")
    .select<{ id: number; at: Date; diff: RecordsDiff }[]>("id", "at", "diff");
  const start = later.at(-1);
  if (start?.id !== change || !Object.keys(namesOf(start.diff)).some(isOfPage))
    throw new ProblemError("not-found", `There is no change ${change} of the page "${page}".`);
  let target: Records = own;
  for (const { id, diff } of later) if (id !== change) target = takenBack(target, diff, isOfPage);
  const diff = diffRecords(own, target);
  const name = (own[`page/${pack}/${page}`] as PageRecord | undefined)?.name ?? page;
  const at = start.at.toISOString().slice(0, 16).replace("T", " at ");
  const changer = { by, said: `Put ${name} back to as it was on ${at} UTC` };
  return isEmptyDiff(diff) ? null : makeChange(trx, { area: "pack", repository: packRepository, changer, diff });
}

function namesOf({ added, changed, removed }: RecordsDiff): Records {
  return { ...added, ...changed, ...removed };
}

/** A state without a change: what it wrote is as it was before, whatever it is now. */
function takenBack(state: Records, { added, changed, removed }: RecordsDiff, isOf: (name: string) => boolean): Records {
  const part = <V>(records: Readonly<Record<string, V>>) =>
    Object.fromEntries(Object.entries(records).filter(([name]) => isOf(name)));
  const before = Object.entries(part(changed)).map(([name, { from }]) => [name, from] as const);
  const without = { added: {}, changed: {}, removed: pick(state, Object.keys(part(added))) };
  return { ...applyDiff(state, without), ...Object.fromEntries(before), ...part(removed) };
}

function pick(state: Records, names: readonly string[]): Records {
  return Object.fromEntries(names.filter((name) => Object.hasOwn(state, name)).map((name) => [name, state[name]]));
}

function refuseConflict(now: Records, conflicts: readonly SettingConflict[], asked: RecordsDiff): never {
  const [{ record, setting }] = conflicts as [SettingConflict];
  const wanted = asked.added[record] ?? asked.changed[record]?.to ?? null;
  throw new ProblemError(
    "changed-meanwhile",
    `Somebody changed ${nameOfRecord(record, now[record] ?? wanted)} while you did${setting === "" ? "" : ` (${settingWords(setting)})`}. Look at theirs, then make your change on top of it.`,
    { both: { record, current: now[record] ?? null, yours: wanted } },
  );
}

function nameOfRecord(name: string, record: unknown): string {
  const read = parseRecordName(name);
  if (read?.kind !== "panel") return namedAtAllTimes((record as { name?: string } | null)?.name ?? name);
  return panelName(panelOf(read.panel, record as PanelRecord));
}

/** A setting's path as words: "its title", "its KPI". */
function settingWords(setting: string): string {
  return `its ${setting.split(".").at(-1)!.replaceAll("-", " ")}`;
}
