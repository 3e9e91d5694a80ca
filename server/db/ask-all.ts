import type { Knex } from "knex";

/** Asks several queries: at once over the pool, one after the other on a transaction's single connection. */
export async function askAll<T extends readonly unknown[]>(
  knex: Knex,
  queries: readonly [...{ [K in keyof T]: PromiseLike<T[K]> }],
): Promise<T> {
  if (!knex.isTransaction) {
    const asked = (queries as readonly PromiseLike<unknown>[]).map((query) => Promise.resolve(query));
    return (await Promise.all(asked)) as unknown as T;
  }
  const answers: unknown[] = [];
  // Knex sends a query only when it is awaited.
  for (const query of queries as readonly PromiseLike<unknown>[]) answers.push(await query);
  return answers as unknown as T;
}
