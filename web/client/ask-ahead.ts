import type { QueryClient } from "@tanstack/react-query";
import type { Question } from "#contract/views.ts";
import { answerQuery } from "./answer.ts";

/**
 * Asks for what a view will need in one round, while its code is still on its way; what is at hand is not asked again.
 * Resolves once all of it is there or has failed: whatever fails is told where it is shown.
 */
export async function askAhead(client: QueryClient, needed: readonly Question[]): Promise<void> {
  await Promise.all(needed.map(([operation, args]) => client.prefetchQuery(answerQuery(operation, args as never))));
}
