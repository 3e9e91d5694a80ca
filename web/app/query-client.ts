import { notifyManager, QueryClient } from "@tanstack/react-query";
import { ApiProblem } from "./api.ts";
import { inOneFrame } from "./one-frame.ts";

/** How often a failed question is asked again while the server or its database is away. */
const RECOVERY_MS = 2000;

/** Questions that failed for a passing reason are asked again until they are answered. */
export function createQueryClient(): QueryClient {
  // What comes for several panels within a frame is drawn and measured once.
  notifyManager.setScheduler(inOneFrame());
  return new QueryClient({
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
}
