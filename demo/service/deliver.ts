import { once } from "node:events";
import { setTimeout as wait } from "node:timers/promises";
import type { Response } from "express";

/** How the simulated service behaves; real ones do all of this. */
export const MODES = ["normal", "slow", "cut", "schema"] as const;
export type Mode = (typeof MODES)[number];

const SLOW_PARTS = 12;
const SLOW_MS = 400;

/** Answers with a file in a mode: at once, drop by drop, cut off in the middle, or with other columns than agreed. */
export async function deliver(res: Response, file: { fileName: string; text: string }, mode: Mode): Promise<void> {
  const text = mode === "schema" ? otherColumns(file.text) : file.text;
  const bytes = Buffer.from(text, "utf8");
  res.setHeader("Content-Type", "text/csv; charset=utf-8");
  res.setHeader("Content-Disposition", `attachment; filename="${file.fileName}"`);
  res.setHeader("Content-Length", bytes.length);
  if (mode === "normal" || mode === "schema") return void res.end(bytes);
  const parts = mode === "slow" ? SLOW_PARTS : 2;
  const size = Math.ceil(bytes.length / parts);
  for (let part = 0; part < parts && !res.destroyed; part += 1) {
    if (mode === "cut" && part === 1) return void res.destroy();
    if (!res.write(bytes.subarray(part * size, (part + 1) * size))) await once(res, "drain");
    await wait(mode === "slow" ? SLOW_MS : 50);
  }
  res.end();
}

/** The same extract after an update of the ledger that nobody announced. */
function otherColumns(text: string): string {
  return text.replace(/^(Period|Date),.*$/m, (header) =>
    header.replace("Account", "GL code").replace("Amount", "Value EUR").replace("Measure", "Indicator"),
  );
}
