import { notifyManager, QueryCache, QueryClient } from "@tanstack/react-query";
import { PACKS } from "#contract/operations/packs.ts";
import { ApiProblem } from "./api.ts";
import { inOneFrame } from "./one-frame.ts";

/** How often a failed question is asked again while the server or its database is away. */
const RECOVERY_MS = 2000;

/** What tells which pages there are. */
const PAGES: readonly string[] = [PACKS.packs.name, PACKS.pack.name];

/** Questions that failed for a passing reason are asked again until they are answered. */
export function createQueryClient(): QueryClient {
  // What comes for several panels within a frame is drawn and measured once.
  notifyManager.setScheduler(inOneFrame());
  const client: QueryClient = new QueryClient({
    queryCache: new QueryCache({
      // What a page shows may have been removed by somebody else: the pages are asked for anew, so that it is said.
      onError: (error, { queryKey: [id] }) => {
        if (error instanceof ApiProblem && error.code === "not-found" && !PAGES.includes(String(id)))
          void client.invalidateQueries({ predicate: (query) => PAGES.includes(String(query.queryKey[0])) });
      },
    }),
    defaultOptions: {
      queries: {
        staleTime: 60_000,
        retry: false,
        refetchOnWindowFocus: true,
        refetchInterval: (query) =>
          query.state.error instanceof ApiProblem && query.state.error.isPassing ? RECOVERY_MS : false,
      },
    },
  });
  return client;
}
