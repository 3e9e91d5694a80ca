import type { Response } from "express";
import { contentDisposition } from "#server/export/downloads.ts";

/** Answers with a file of rows that are at hand; what comes from the database is a download (`server/export/downloads.ts`). */
export function answerCsv(res: Response, fileName: string, rows: Iterable<string>): void {
  res.setHeader("Content-Disposition", contentDisposition(fileName));
  // A byte-order mark, without which spreadsheets read UTF-8 as something else.
  res
    .status(200)
    .type("text/csv; charset=utf-8")
    .send(`\ufeff${[...rows].join("")}`);
}
