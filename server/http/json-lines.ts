import { once } from "node:events";
import type { Response } from "express";

/**
 * Answers with lines of JSON, one document each, sent as soon as it is there. When whoever asked is gone, no further line
 * is asked for: what would have made it is not done.
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
    if (!isTaken) await Promise.race([once(res, "drain"), once(res, "close")]);
  }
  res.end();
}
