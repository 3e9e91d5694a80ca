import { tryLock } from "#server/db/locks.ts";
import type { Knex } from "knex";
import { monthsName, type FiscalCalendar } from "#core/calendar/fiscal-calendar.ts";
import { overlapping } from "#core/checks/already-posted.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { RATES_DATASET } from "#core/currency/rates-dataset.ts";
import { keepConverted } from "#server/facts/currency-rates.ts";
import { readPostedSlices } from "../posted.ts";
import { bringBack, moveAside, noteMoved, type Slice } from "./set-aside.ts";

interface LoadRow {
  readonly id: number;
  readonly file_name: string;
  readonly undone_at: Date | null;
  readonly dataset: string;
}
interface MonthRow {
  readonly scenario_id: number;
  readonly month: number;
  readonly set_aside_by: number | null;
}

/**
 * Undoes a load: its facts go out of force, and what it had replaced comes back, to the
 * last line. Throws a problem when a later load has taken its place in part.
 */
export async function undoLoad(
  trx: Knex.Transaction,
  id: number,
  person: string,
  calendar: FiscalCalendar,
): Promise<void> {
  const load = await lockLoad(trx, id);
  if (load.undone_at) throw new ProblemError("invalid-change", `${load.file_name} has already been undone.`);
  const hindrance = await undoHindrance(trx, load, calendar);
  if (hindrance) throw new ProblemError("in-use", hindrance);
  const months = await monthsOfLoad(trx, id);
  const own = months.map((m) => ({ loadId: id, scenarioId: m.scenario_id, month: m.month }));
  const replaced = await replacedBy(trx, id);
  await moveAside(trx, id, own);
  await bringBack(trx, replaced);
  await trx("load").where({ id }).update({ undone_at: new Date(), undone_by: person });
  await keepConverted(trx, load.dataset === RATES_DATASET.key ? "alone" : "shared");
  await noteMoved(trx, [...own, ...replaced]);
}

/** Brings an undone load back into force, and sets aside again what it replaces. */
export async function redoLoad(trx: Knex.Transaction, id: number, calendar: FiscalCalendar): Promise<void> {
  const load = await lockLoad(trx, id);
  if (!load.undone_at) throw new ProblemError("invalid-change", `${load.file_name} is already active.`);
  const hindrance = await redoHindrance(trx, load, calendar);
  if (hindrance) throw new ProblemError("in-use", hindrance);
  const replaced = await replacedBy(trx, id);
  const months = await monthsOfLoad(trx, id);
  const own = months.map((m) => ({ loadId: id, scenarioId: m.scenario_id, month: m.month }));
  await moveAside(trx, id, replaced);
  await bringBack(trx, own);
  await trx("load").where({ id }).update({ undone_at: null, undone_by: null });
  await keepConverted(trx, load.dataset === RATES_DATASET.key ? "alone" : "shared");
  await noteMoved(trx, [...replaced, ...own]);
}

/** Why a load cannot be undone, or, when it is, brought back; `null` when it can. */
export async function hindranceOf(knex: Knex, id: number, calendar: FiscalCalendar): Promise<string | null> {
  const load = await readLoad(knex, id);
  return load.undone_at ? redoHindrance(knex, load, calendar) : undoHindrance(knex, load, calendar);
}

async function undoHindrance(knex: Knex, load: LoadRow, calendar: FiscalCalendar): Promise<string | null> {
  const adjusted = await adjustedVersion(knex, load.id);
  if (adjusted !== null)
    return `${load.file_name} is a part of ${adjusted}, which follows from its adjustments: take those back under Versions.`;
  const taken = (await monthsOfLoad(knex, load.id)).filter((m) => m.set_aside_by !== null);
  if (taken.length === 0) return null;
  const later: { file_name: string } | undefined = await knex("load")
    .where({ id: taken[0]!.set_aside_by! })
    .first("file_name");
  return `${later?.file_name ?? "A later load"} has taken the place of ${load.file_name} for ${monthsName(
    calendar,
    taken.map((m) => m.month),
  )}. Undo that one first; this one then counts again.`;
}

/** The version that a load is of, where it was changed by hand: its amounts follow from that. */
async function adjustedVersion(knex: Knex, load: number): Promise<string | null> {
  const row: { name: string } | undefined = await knex("scenario")
    .whereNotNull("model_part_id")
    .where((either) => {
      const own = knex("load_month").where({ load_id: load }).select("scenario_id");
      void either.whereIn("id", own).orWhereIn("model_part_id", own);
    })
    .first("name");
  return row?.name ?? null;
}

async function redoHindrance(knex: Knex, load: LoadRow, calendar: FiscalCalendar): Promise<string | null> {
  const own = await replacedBy(knex, load.id);
  const isOwn = (slice: Slice) =>
    own.some((s) => s.loadId === slice.loadId && s.scenarioId === slice.scenarioId && s.month === slice.month);
  const { rows } = await knex.raw<{
    rows: { scenario: string; month: number; day_mask: string | null; accounts: string[] }[];
  }>(
    `select scenario.key as scenario, load_month.month, load_month.day_mask, array(
       select account.key from load_account join account on account.id = account_id
       where load_account.load_id = load_month.load_id and load_account.scenario_id = scenario.id) as accounts
     from load_month join scenario on scenario.id = scenario_id where load_id = ?`,
    [load.id],
  );
  const result = {
    months: rows.map((r) => ({
      scenario: r.scenario,
      month: r.month,
      days: r.day_mask === null ? null : Number(r.day_mask),
    })),
    accounts: rows.flatMap((r) => r.accounts.map((account) => ({ scenario: r.scenario, account }))),
  };
  const others = overlapping(result, await readPostedSlices(knex, load.dataset)).filter((slice) => !isOwn(slice));
  if (others.length === 0) return null;
  return `${others[0]!.fileName} was posted for ${monthsName(calendar, [...new Set(others.map((s) => s.month))])} since. Undo that one first, or leave this one undone.`;
}

async function lockLoad(trx: Knex.Transaction, id: number): Promise<LoadRow> {
  const load = await readLoad(trx, id);
  if (!(await tryLock(trx, "dataset", { of: load.dataset })))
    throw new ProblemError(
      "someone-posting",
      "A file is being posted to this dataset at the moment. Wait until it is done and try again.",
    );
  // Once more, now that nobody else may change it.
  return readLoad(trx, id);
}

async function readLoad(knex: Knex, id: number): Promise<LoadRow> {
  const load: LoadRow | undefined = await knex("load")
    .join("dataset", "dataset.id", "load.dataset_id")
    .where("load.id", id)
    .first("load.id", "file_name", "undone_at", "dataset.key as dataset");
  if (!load) throw new ProblemError("not-found", `There is no load ${id}.`);
  return load;
}

async function monthsOfLoad(knex: Knex, id: number): Promise<MonthRow[]> {
  return knex("load_month").where({ load_id: id }).select("scenario_id", "month", "set_aside_by");
}

async function replacedBy(knex: Knex, id: number): Promise<Slice[]> {
  const rows: { replaced_id: number; scenario_id: number; month: number }[] = await knex("load_replaces")
    .where({ load_id: id })
    .select("replaced_id", "scenario_id", "month");
  return rows.map((row) => ({ loadId: row.replaced_id, scenarioId: row.scenario_id, month: row.month }));
}
