import type { Knex } from "knex";

/**
 * The queue of work of all companies: one table beside the registry, so that a company that has nothing to do costs
 * nothing. Work is enqueued in the transaction that it follows from, claimed by one server, which shows that it lives, and
 * taken out when it has ended. What a server claimed that died is claimed by another one.
 */
const TABLE = "hackle_companies.work";

/** The channel on which PostgreSQL tells that there is work. */
export const WORK_CHANNEL = "hackle_work";

/** A server that was not heard of for so long has let go of what it claimed. */
const SILENT = "interval '30 seconds'";

/** Work to be done for a company. */
export interface NewWork {
  readonly company: string;
  readonly task: string;
  /** What it is about, as plain data. */
  readonly subject: Readonly<Record<string, unknown>>;
  /** Of what waits with one such word, the latest takes the place of the others. */
  readonly once?: string;
  /** Of what has one such word, one at a time is done. */
  readonly alone?: string;
  readonly runAfter?: Date;
  /** Whether what waits with the same word keeps its time: then it is not put off for as long as more comes. */
  readonly isNotPutOff?: boolean;
}

/** Work that a server has claimed. */
export interface ClaimedWork {
  readonly id: string;
  readonly company: string;
  readonly task: string;
  readonly subject: Readonly<Record<string, unknown>>;
  /** How often it was claimed; above 1 where whoever had it before did not come to its end. */
  readonly attempts: number;
}

/** Makes the table, where it is not there yet. */
export async function createQueue(trx: Knex): Promise<void> {
  await trx.raw(`
    create table if not exists ${TABLE} (
      id bigint generated always as identity primary key,
      company text not null,
      task text not null,
      subject jsonb not null,
      once text,
      alone text,
      run_after timestamptz not null default now(),
      claimed_by text,
      seen_at timestamptz,
      attempts integer not null default 0,
      cancel_asked boolean not null default false,
      enqueued_at timestamptz not null default now()
    );
    create unique index if not exists work_once on ${TABLE} (company, once) where claimed_by is null;
    create unique index if not exists work_alone on ${TABLE} (company, alone) where claimed_by is not null;
    create index if not exists work_due on ${TABLE} (run_after);
  `);
}

/** Puts work into the queue, in the transaction it follows from where one is given. */
export async function enqueue(knex: Knex, work: NewWork): Promise<void> {
  const { company, task, subject, once = null, alone = null, runAfter, isNotPutOff = false } = work;
  await knex.raw(
    `insert into ${TABLE} (company, task, subject, once, alone, run_after)
     values (?, ?, ?::jsonb, ?, ?, coalesce(?::timestamptz, now()))
     on conflict (company, once) where claimed_by is null
     do update set subject = excluded.subject, attempts = 0,
       run_after = case when ? then least(work.run_after, excluded.run_after) else excluded.run_after end`,
    [company, task, JSON.stringify(subject), once, alone, runAfter ?? null, isNotPutOff] as never,
  );
  if (!runAfter) await knex.raw("select pg_notify(?, '')", [WORK_CHANNEL]);
}

/**
 * Claims the next work of some tasks: what has waited longest, of the company that has least going on. `undefined` where
 * there is none.
 */
export async function claim(knex: Knex, serverId: string, tasks: readonly string[]): Promise<ClaimedWork | undefined> {
  try {
    const { rows } = await knex.raw<{ rows: ClaimedWork[] }>(
      `update ${TABLE} as mine set claimed_by = ?, seen_at = now(), attempts = attempts + 1
       where id = (
         select next.id from ${TABLE} as next
         where next.run_after <= now() and next.task = any(?)
           and (next.claimed_by is null or next.seen_at < now() - ${SILENT})
           and not exists (
             select 1 from ${TABLE} as other
             where other.company = next.company and other.alone = next.alone and other.id <> next.id
               and other.claimed_by is not null)
         order by (select count(*) from ${TABLE} as busy where busy.company = next.company and busy.claimed_by is not null),
           next.run_after, next.id
         limit 1 for update skip locked)
       returning id, company, task, subject, attempts`,
      [serverId, tasks as string[]],
    );
    return rows[0];
  } catch (error) {
    // Another server was quicker with what is done alone.
    if ((error as { code?: string }).code === "23505") return undefined;
    throw error;
  }
}

/** Shows that claimed work is still being done. Returns what is still one's own, and of what an end was asked for. */
export async function showAlive(
  knex: Knex,
  serverId: string,
  ids: readonly string[],
): Promise<{ readonly own: ReadonlySet<string>; readonly cancelled: ReadonlySet<string> }> {
  const { rows } = await knex.raw<{ rows: { id: string; cancel_asked: boolean }[] }>(
    `update ${TABLE} set seen_at = now() where id = any(?::bigint[]) and claimed_by = ? returning id, cancel_asked`,
    [ids as string[], serverId],
  );
  return {
    own: new Set(rows.map(({ id }) => id)),
    cancelled: new Set(rows.filter((row) => row.cancel_asked).map(({ id }) => id)),
  };
}

/** Takes work that has ended out of the queue. */
export async function endWork(knex: Knex, serverId: string, id: string): Promise<void> {
  await knex.raw(`delete from ${TABLE} where id = ? and claimed_by = ?`, [id, serverId]);
}

/** Lets go of work that was not ended: it is claimed again, by anybody, from a time on. */
export async function letGo(knex: Knex, serverId: string, id: string, runAfter: Date): Promise<void> {
  await knex.raw(`update ${TABLE} set seen_at = '-infinity', run_after = ? where id = ? and claimed_by = ?`, [
    runAfter,
    id,
    serverId,
  ]);
}

/** Lets go of what servers have claimed that are known to be gone. */
export async function releaseGone(knex: Knex, isGone: (serverId: string) => boolean): Promise<void> {
  const { rows } = await knex.raw<{ rows: { claimed_by: string }[] }>(
    `select distinct claimed_by from ${TABLE} where claimed_by is not null and seen_at > '-infinity'`,
  );
  const gone = rows.map((row) => row.claimed_by).filter(isGone);
  if (gone.length > 0) await knex.raw(`update ${TABLE} set seen_at = '-infinity' where claimed_by = any(?)`, [gone]);
}

/**
 * Asks that work of a company be given up whose subject has these values. What waits is taken out and returned; what is
 * being done is told to its server.
 */
export async function cancelWork(
  knex: Knex,
  company: string,
  subject: Readonly<Record<string, unknown>>,
): Promise<ClaimedWork[]> {
  const where = [company, JSON.stringify(subject)];
  const { rows } = await knex.raw<{ rows: ClaimedWork[] }>(
    `delete from ${TABLE} where company = ? and subject @> ?::jsonb and claimed_by is null
     returning id, company, task, subject, attempts`,
    where,
  );
  await knex.raw(
    `update ${TABLE} set cancel_asked = true where company = ? and subject @> ?::jsonb and claimed_by is not null`,
    where,
  );
  await knex.raw("select pg_notify(?, '')", [WORK_CHANNEL]);
  return rows;
}

/** Forgets all work of a company that is gone. */
export async function forgetWork(knex: Knex, company: string): Promise<void> {
  await knex.raw(`delete from ${TABLE} where company = ?`, [company]);
}
