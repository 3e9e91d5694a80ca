import { hostname } from "node:os";
import type { Knex } from "knex";
import type { Job } from "#contract/intake.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** Tells this server process from others that share the database. */
export const SERVER_ID = `${hostname()}:${process.pid}`;

interface JobRow {
  id: number;
  kind: Job["kind"];
  state: Job["state"];
  rows: string;
  share: number;
  message: string | null;
  load_id: number | null;
}

/** Opens a job. */
export async function insertJob(
  knex: Knex,
  { kind, draftId, fileName, person }: { kind: Job["kind"]; draftId: number; fileName: string; person: string },
): Promise<number> {
  const [row]: { id: number }[] = await knex("job")
    .insert({ kind, draft_id: draftId, file_name: fileName, state: "running", server: SERVER_ID, started_by: person })
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

/**
 * Marks jobs whose server is gone: they were broken off, and a posting that did not
 * come to its commit left nothing behind. Returns how many there were.
 */
export async function markInterrupted(knex: Knex): Promise<number> {
  const running: { id: number; kind: string; server: string; stale: boolean }[] = await knex("job")
    .where({ state: "running" })
    .select("id", "kind", "server", knex.raw("seen_at < now() - interval '30 seconds' as stale"));
  const gone = running.filter((job) => job.stale || (job.server !== SERVER_ID && isGone(job.server)));
  for (const job of gone) {
    await knex("job")
      .where({ id: job.id, state: "running" })
      .update({
        state: "interrupted",
        message:
          job.kind === "post"
            ? "The server or its database stopped while this file was posted. Nothing of it was posted; the draft is as it was."
            : "The server stopped while this file was checked.",
      });
  }
  return gone.length;
}

function isGone(server: string): boolean {
  const [host, pid] = server.split(":");
  if (host !== hostname()) return false;
  try {
    process.kill(Number(pid), 0);
    return false;
  } catch {
    return true;
  }
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
