const MEGABYTE = 2 ** 20;

/**
 * The bytes in which facts may be kept: `HACKLE_MEMORY` in megabytes, 0 for none; a quarter of the machine's memory
 * where nothing is said. Throws an `Error` that names what was said where it is no number.
 */
export function readMemoryBudget(said: string | undefined, machineBytes: number): number {
  if (said === undefined || said.trim() === "") return Math.floor(machineBytes / 4);
  const megabytes = Number(said);
  if (!Number.isFinite(megabytes) || megabytes < 0)
    throw new Error(`HACKLE_MEMORY is "${said}"; it must be a number of megabytes, or 0 to keep no facts in memory.`);
  return megabytes * MEGABYTE;
}
