import type { Knex } from "knex";
import { OPEN_JOB_STATES } from "#core/checks/job-state.ts";
import type { Job } from "#contract/intake.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { Progress } from "../drafts/run-file.ts";

interface JobRow {
  id: number;
  kind: Job["kind"];
  state: Job["state"];
  rows: string;
  share: number;
  message: string | null;
  load_id: number | null;
}

/** Opens a job that waits for its turn. */
export async function insertJob(
  knex: Knex,
  { kind, draftId, fileName, person }: { kind: Job["kind"]; draftId: number; fileName: string; person: string },
): Promise<number> {
  const [row]: { id: number }[] = await knex("job")
    .insert({ kind, draft_id: draftId, file_name: fileName, state: "waiting", started_by: person })
    .returning("id");
  return row!.id;
}

/** A job as it stands. Throws a problem when there is none. */
export async function readJob(knex: Knex, id: number): Promise<Job> {
  const row: JobRow | undefined = await knex("job").where({ id }).first<JobRow | undefined>("*");
  if (!row) throw new ProblemError("not-found", `There is no job ${id}.`);
  return wireJob(row);
}

/** The last job on a draft. */
export async function lastJob(knex: Knex, draftId: number): Promise<Job | null> {
  const row: JobRow | undefined = await knex("job")
    .where({ draft_id: draftId })
    .orderBy("id", "desc")
    .first<JobRow | undefined>("*");
  return row ? wireJob(row) : null;
}

/** Notes that a job is being done, and how far it has come. */
export async function noteProgress(knex: Knex, id: number, { rows, share }: Progress): Promise<void> {
  await knex("job")
    .where({ id })
    .whereIn("state", OPEN_JOB_STATES)
    .update({ state: "running", rows, share, seen_at: knex.fn.now() });
}

/** Notes how a job ended; one that has ended stays as it is. */
export async function endJob(
  knex: Knex,
  id: number,
  outcome: { state: Job["state"]; message?: string; share?: number; rows?: number },
): Promise<void> {
  await knex("job").where({ id }).whereIn("state", OPEN_JOB_STATES).update(outcome);
}

function wireJob(row: JobRow): Job {
  return {
    id: row.id,
    kind: row.kind,
    state: row.state,
    rows: Number(row.rows),
    share: row.share,
    message: row.message,
    loadId: row.load_id,
  };
}
