import cluster, { type Worker } from "node:cluster";
import type { Logger } from "pino";

/** Between a process that died and the one in its place; longer each time it dies again at once. */
const FIRST_PAUSE_MS = 300;
const LONGEST_PAUSE_MS = 30_000;
/** A process that lived so long was sound. */
const SOUND_MS = 60_000;
const STOP_MS = 5000;

/**
 * Runs the server as several processes that share its port. One that dies is replaced, unless none ever came to listen:
 * then `onGivenUp` is called. `onListening` is called once all of them listen. Returns how to stop them.
 */
export function leadProcesses(
  count: number,
  { logger, onListening, onGivenUp }: { logger: Logger; onListening: () => void; onGivenUp: () => void },
): { stop(): Promise<void> } {
  let isStopping = false;
  let listened = 0;
  const start = (pause: number): void => {
    const began = Date.now();
    const worker = cluster.fork();
    worker.once("listening", () => {
      listened += 1;
      if (listened === count) onListening();
    });
    worker.once("exit", (code, signal) => {
      if (isStopping) return;
      if (listened === 0) {
        isStopping = true;
        onGivenUp();
        return;
      }
      logger.error({ pid: worker.process.pid, code, signal }, "a server process died; another one takes its place");
      const next = Date.now() - began > SOUND_MS ? FIRST_PAUSE_MS : Math.min(2 * pause, LONGEST_PAUSE_MS);
      setTimeout(() => isStopping || start(next), pause);
    });
  };
  for (let i = 0; i < count; i += 1) start(FIRST_PAUSE_MS);
  return {
    stop: async () => {
      isStopping = true;
      await Promise.all(Object.values(cluster.workers ?? {}).map((worker) => stop(worker!)));
    },
  };
}

async function stop(worker: Worker): Promise<void> {
  if (worker.isDead()) return;
  const gone = new Promise<void>((resolve) => worker.once("exit", () => resolve()));
  worker.process.kill("SIGTERM");
  const force = setTimeout(() => worker.process.kill("SIGKILL"), STOP_MS);
  await gone;
  clearTimeout(force);
}

/**
 * How many processes serve: `HACKLE_PROCESSES`, 1 where nothing is said. Throws an `Error` that names what was said where
 * it is no number.
 */
export function readProcessCount(said: string | undefined): number {
  if (said === undefined || said.trim() === "") return 1;
  const count = Number(said);
  if (!Number.isInteger(count) || count < 1 || count > 64)
    throw new Error(`HACKLE_PROCESSES is "${said}"; it must be a number from 1 to 64.`);
  return count;
}
