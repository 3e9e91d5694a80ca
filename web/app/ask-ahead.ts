import type { QueryClient } from "@tanstack/react-query";
import type { OperationArguments, OperationId } from "#contract/operation-types.ts";
import { answerQuery } from "./questions.ts";

/** What every page needs, whichever it is. */
const ALWAYS = [
  ["session", {}],
  ["packs", {}],
] as const satisfies readonly Ahead[];

type Ahead = { readonly [Id in OperationId]: readonly [Id, OperationArguments<Id>] }[OperationId];

/**
 * Asks for what a page will need in one round, while its code is still on its way; what is at hand is not asked again.
 * Nothing waits for it: whatever fails is told where it is shown.
 */
export function askAhead(client: QueryClient, needed: readonly Ahead[]): null {
  for (const [id, args] of [...ALWAYS, ...needed]) void client.prefetchQuery(answerQuery(id, args as never));
  return null;
}
