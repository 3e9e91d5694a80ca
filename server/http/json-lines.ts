import { once } from "node:events";
import type { Response } from "express";

/**
 * Answers with one JSON document a line, each sent as soon as it is there. When whoever asked is gone, no further line
 * is asked for: what would have made it is not done.
 */
export async function answerLines(res: Response, lines: AsyncIterable<unknown>): Promise<void> {
  res.status(200).type("application/x-ndjson; charset=utf-8");
  for await (const line of lines) {
    if (res.destroyed) return;
    const isTaken = res.write(`${JSON.stringify(line)}\n`);
    // Compression would hold lines back until it has enough of them.
    (res as Response & { flush?: () => void }).flush?.();
    if (!isTaken) await Promise.race([once(res, "drain"), once(res, "close")]);
  }
  res.end();
}
