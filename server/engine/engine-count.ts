/** More threads than these bring nothing: the server's own thread cannot feed them. */
const MOST = 8;

/**
 * How many threads answer from memory: `HACKLE_ENGINES`, 0 for none beside the server's own; where nothing is said, one
 * for each processor. Throws an `Error` that names what was said where it is no number.
 */
export function readEngineCount(said: string | undefined, processors: number): number {
  if (said === undefined || said.trim() === "") return Math.min(MOST, processors);
  const count = Number(said);
  if (!Number.isInteger(count) || count < 0)
    throw new Error(`HACKLE_ENGINES is "${said}"; it must be a number of threads, or 0 for none.`);
  return count;
}

/**
 * How many files are read and posted at once: `HACKLE_WORKERS`, 2 where nothing is said. Throws an `Error` that names what
 * was said where it is no number.
 */
export function readWorkerCount(said: string | undefined): number {
  if (said === undefined || said.trim() === "") return 2;
  const count = Number(said);
  if (!Number.isInteger(count) || count < 1 || count > 32)
    throw new Error(`HACKLE_WORKERS is "${said}"; it must be a number of files from 1 to 32.`);
  return count;
}
