import type { Response } from "express";

/**
 * Answers with lines of JSON, one document each, sent as soon as it is there. When whoever asked is gone, no further line
 * is asked for: what would have made it is not done. Whoever does not read holds up nothing but their own answer, and that
 * only until `SLOW_MS` have passed without a line being taken.
 */
export async function answerLines(res: Response, lines: AsyncIterable<string>): Promise<void> {
  const iterator = lines[Symbol.asyncIterator]();
  // The first line is made before anything is answered, so that what goes wrong at once is still a problem document.
  let next = await iterator.next();
  res.status(200).type("application/x-ndjson; charset=utf-8");
  for (; !next.done; next = await iterator.next()) {
    if (res.destroyed) {
      await iterator.return?.();
      return;
    }
    const isTaken = res.write(next.value);
    // Compression would hold lines back until it has enough of them.
    (res as Response & { flush?: () => void }).flush?.();
    if (!isTaken && !(await drained(res))) res.destroy();
  }
  res.end();
}

const SLOW_MS = 30_000;

/** Waits until more can be written, or whoever asked is gone. Returns whether either came about in time. */
function drained(res: Response): Promise<boolean> {
  return new Promise((resolve) => {
    const settle = (isInTime: boolean) => {
      clearTimeout(timer);
      res.off("drain", onTime).off("close", onTime);
      resolve(isInTime);
    };
    const onTime = () => settle(true);
    const timer = setTimeout(() => settle(false), SLOW_MS);
    res.on("drain", onTime).on("close", onTime);
  });
}
