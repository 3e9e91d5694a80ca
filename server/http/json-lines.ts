import type { Response } from "express";

/** Lines of JSON, as an answer's type. */
export const LINES_TYPE = "application/x-ndjson";

/**
 * Answers with lines of JSON, one document each, sent as soon as it is there. When whoever asked is gone, no further line
 * is asked for: what would have made it is not done. Whoever does not read holds up nothing but their own answer, and that
 * only until `SLOW_MS` have passed without a line being taken.
 */
export async function answerLines(res: Response, lines: AsyncIterable<string>): Promise<void> {
  const iterator = lines[Symbol.asyncIterator]();
  // The first line is made before anything is answered, so that what goes wrong at once is still a problem document.
  let next = await iterator.next();
  res.status(200).type(`${LINES_TYPE}; charset=utf-8`);
  // Heard by one pair of listeners throughout: what packs answers takes "drain" over, and gives no listener back.
  let settle: ((isInTime: boolean) => void) | undefined;
  const onSettled = () => settle?.(true);
  res.on("drain", onSettled).on("close", onSettled);
  const drained = () =>
    new Promise<boolean>((resolve) => {
      const timer = setTimeout(() => settle?.(false), SLOW_MS);
      settle = (isInTime) => {
        clearTimeout(timer);
        resolve(isInTime);
      };
    });
  try {
    for (; !next.done; next = await iterator.next()) {
      if (res.destroyed) {
        await iterator.return?.();
        return;
      }
      const isTaken = res.write(next.value);
      // Compression would hold lines back until it has enough of them.
      (res as Response & { flush?: () => void }).flush?.();
      if (!isTaken && !(await drained())) res.destroy();
    }
    res.end();
  } finally {
    res.off("drain", onSettled).off("close", onSettled);
  }
}

/** So long a line may wait to be taken. */
const SLOW_MS = 30_000;
