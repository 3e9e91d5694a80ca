import type { Cluster } from "./postgres/cluster.ts";

const LOOK_MS = 2000;
/** Processes of a server that died may hold its memory for as long as their last query runs. */
const LONGEST_PAUSE_MS = 15_000;

/**
 * Keeps a PostgreSQL running: one that died is started again, and tried again for as long as it takes, with longer
 * pauses. Tells in words what happened. Returns how to stop watching.
 */
export function superviseCluster(
  cluster: Pick<Cluster, "hasCrashed" | "restart">,
  { say, lookMs = LOOK_MS }: { say: (sentence: string) => void; lookMs?: number },
): { stop(): void } {
  let timer: NodeJS.Timeout | undefined;
  let failures = 0;
  const later = (pause: number) => void (timer = setTimeout(look, pause));
  const look = (): void => {
    try {
      if (failures > 0 || cluster.hasCrashed()) {
        if (failures === 0) say("PostgreSQL died; starting it again …");
        cluster.restart();
        say("PostgreSQL is back.");
        failures = 0;
      }
    } catch (error) {
      failures += 1;
      if (failures === 1)
        say(
          `It does not come up yet, and is tried again until it does. ${error instanceof Error ? error.message : String(error)}`,
        );
    }
    later(failures === 0 ? lookMs : Math.min(LONGEST_PAUSE_MS, lookMs * 2 ** (failures - 1)));
  };
  later(lookMs);
  return { stop: () => clearTimeout(timer) };
}
