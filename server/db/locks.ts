import type { Knex } from "knex";

/**
 * The locks of the product, each for one thing of one company and until its transaction ends; none is held while a file
 * is read, a forecast is made or a client is waited for. Whoever waits for one is told after the `lock_timeout` of its
 * connection (`connect.ts`). Where several are taken, it is in this order.
 */
const LOCKS = {
  /** The registry of companies; the one lock that is of no company. */
  registry: 72_000,
  /** What is left of one company that is removed. */
  removal: 72_006,
  /** Accounts, dimensions, members, scenarios, datasets: changed one change at a time. */
  structure: 72_001,
  /** What is in force of one dataset: a posting that ends, an undo, a redo. */
  dataset: 72_002,
  /** Rates: shared by whoever converts with them, alone for whoever changes them. */
  rates: 72_003,
  /** The KPI library: changed one change at a time. */
  kpis: 72_004,
  /** One pack. */
  pack: 72_005,
} as const;

export type LockName = keyof typeof LOCKS;

interface LockOptions {
  /** Which of several it is, such as a dataset's or a pack's key. */
  readonly of?: string;
  /** Whether others may hold it too, who take it in the same way. */
  readonly isShared?: boolean;
}

/** Waits for a lock and holds it until the transaction ends. */
export async function lock(trx: Knex.Transaction, name: LockName, { of = "", isShared = false }: LockOptions = {}) {
  await trx.raw(`select pg_advisory_xact_lock${isShared ? "_shared" : ""}(${keyOf(name)})`, [of]);
}

/** Takes a lock if nobody holds it. Returns whether it was taken. */
export async function tryLock(trx: Knex.Transaction, name: LockName, { of = "" }: LockOptions = {}): Promise<boolean> {
  const { rows } = await trx.raw<{ rows: { taken: boolean }[] }>(
    `select pg_try_advisory_xact_lock(${keyOf(name)}) as taken`,
    [of],
  );
  return rows[0]!.taken;
}

/** The two numbers that PostgreSQL knows a lock by: what it is of, and whose. */
function keyOf(name: LockName): string {
  const company = name === "registry" ? "''" : "current_schema()";
  return `${LOCKS[name]}, hashtext(${company} || '/' || ?)`;
}
