import { once } from "node:events";
import type { Response } from "express";

/** Answers with a file that comes row by row, at the pace of whoever reads it. */
export async function answerCsv(res: Response, fileName: string, rows: AsyncIterable<string>): Promise<void> {
  const iterator = rows[Symbol.asyncIterator]();
  // The first row is made before anything is answered, so that what goes wrong at once is still a problem document.
  let next = await iterator.next();
  res.status(200).type("text/csv; charset=utf-8");
  res.setHeader("Content-Disposition", contentDisposition(fileName));
  // A byte-order mark, without which spreadsheets read UTF-8 as something else.
  let chunk = "\ufeff";
  while (!next.done && !res.destroyed) {
    chunk += next.value;
    if (chunk.length > 32_768) {
      if (!res.write(chunk)) await Promise.race([once(res, "drain"), once(res, "close")]);
      chunk = "";
    }
    next = await iterator.next();
  }
  await iterator.return?.();
  res.end(chunk);
}

/** The header that names a download, in any script (RFC 6266). */
export function contentDisposition(fileName: string): string {
  const plain = fileName.replace(/[^\x20-\x7e]|["\\]/g, "_");
  return `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(fileName)}`;
}

/** Rows that are there already, as `answerCsv` takes them. */
export async function* toAsync<T>(items: Iterable<T>): AsyncGenerator<T> {
  await Promise.resolve();
  yield* items;
}
