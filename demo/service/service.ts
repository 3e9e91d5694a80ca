import express, { type Express } from "express";
import { formatMonth, parseMonth } from "#core/calendar/month.ts";
import { correctedLedger, ledgerExtract, operationsExtract } from "../generate/feed.ts";
import { LAST_CLOSED } from "../company/scenarios.ts";
import { deliver, MODES, type Mode } from "./deliver.ts";

/** The last month the simulated company has lived through: what lies behind it is not there yet. */
const LAST_LIVED = parseMonth("2027-03")!;

/**
 * A small ledger and operations service, as a company would run one. It delivers the
 * extract that follows a period, or a corrected one, and can be asked to misbehave:
 *
 * - `GET /ledger/extract?after=2026-10` the next month's ledger
 * - `GET /ledger/extract?corrected=2026-10` a month again, corrected
 * - `GET /operations/extract?after=2026-11-17` the days that follow, to the end of their month
 * - with `mode=slow`, `cut` or `schema`: slow, cut off in the middle, other columns
 */
export function createService(): Express {
  const app = express();
  app.disable("x-powered-by");
  app.get("/ledger/extract", async (req, res) => {
    const mode = modeOf(req.query["mode"]);
    const corrected = parseMonth(textOf(req.query["corrected"]));
    if (corrected !== undefined) {
      if (corrected !== LAST_CLOSED)
        return void res.status(404).json({ detail: `There is no correction of ${formatMonth(corrected)}.` });
      return deliver(res, correctedLedger(), mode);
    }
    const after = parseMonth(textOf(req.query["after"]));
    if (after === undefined)
      return void res.status(400).json({ detail: "Say after which month, such as after=2026-10." });
    if (after >= LAST_LIVED) return void res.status(204).end();
    await deliver(res, ledgerExtract(after + 1), mode);
  });
  app.get("/operations/extract", async (req, res) => {
    const match = /^(\d{4}-\d{2})-(\d{2})$/.exec(textOf(req.query["after"]));
    const month = parseMonth(match?.[1] ?? "");
    if (!match || month === undefined)
      return void res.status(400).json({ detail: "Say after which day, such as after=2026-11-17." });
    const file = operationsExtract(month, Number(match[2]));
    if (file.month > LAST_LIVED) return void res.status(204).end();
    await deliver(res, file, modeOf(req.query["mode"]));
  });
  return app;
}

function modeOf(value: unknown): Mode {
  return MODES.find((mode) => mode === value) ?? "normal";
}

/** A query's value, when it is given once. */
function textOf(value: unknown): string {
  return typeof value === "string" ? value : "";
}
