import type { Knex } from "knex";

/** Asks several queries by name: at once over the pool, one after the other on a transaction's single connection. */
export async function askNamed<T extends object>(
  knex: Knex,
  queries: { readonly [Name in keyof T]: PromiseLike<T[Name]> },
): Promise<T> {
  const named = Object.entries<PromiseLike<unknown>>(queries);
  const answers: [name: string, answer: unknown][] = [];
  if (knex.isTransaction) {
    // Knex sends a query only when it is awaited.
    for (const [name, query] of named) answers.push([name, await query]);
  } else
    answers.push(...(await Promise.all(named.map(async ([name, query]) => [name, await query] as [string, unknown]))));
  return Object.fromEntries(answers) as T;
}
