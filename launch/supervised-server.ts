import type { ServerProcess } from "./server-process.ts";

/** After so many deaths within so long the fault is not a passing one. */
const MOST_DEATHS = 5;
const WITHIN_MS = 60_000;
const PAUSE_MS = 300;

/**
 * Keeps a server running: one that dies is started again, unless it dies again and again. Tells in words what happened;
 * `onGivenUp` is called once when it is left down.
 */
export async function superviseServer(
  start: () => Promise<ServerProcess>,
  { say, onGivenUp }: { say: (sentence: string) => void; onGivenUp: () => void },
): Promise<{ stop(): Promise<void> }> {
  let server = await start();
  let isStopping = false;
  let deaths: number[] = [];
  const watch = (running: ServerProcess): void => {
    running.child.once("exit", (code, signal) => {
      if (isStopping) return;
      void startAgain(signal ?? `code ${code}`);
    });
  };
  const startAgain = async (how: string): Promise<void> => {
    const now = Date.now();
    deaths = [...deaths.filter((time) => now - time < WITHIN_MS), now];
    if (deaths.length > MOST_DEATHS) {
      say(`The server died ${deaths.length} times within a minute (${how}) and is left down. Its log is above.`);
      onGivenUp();
      return;
    }
    say(`The server died (${how}); starting it again …`);
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    if (isStopping) return;
    try {
      server = await start();
    } catch (error) {
      await startAgain(error instanceof Error ? error.message : String(error));
      return;
    }
    if (isStopping) return server.stop();
    watch(server);
    say("The server is back.");
  };
  watch(server);
  return {
    stop: async () => {
      isStopping = true;
      await server.stop();
    },
  };
}
