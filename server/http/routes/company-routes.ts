import { asDateWriting, asNumberWriting } from "#core/words/writing.ts";
import { Router, type Response } from "express";
import type { Knex } from "knex";
import { companyChangeSchema, companyRemoveSchema, type Company } from "#contract/companies.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { requireAdministrator } from "#server/access/roles.ts";
import { COMPANY_COOKIE, sessionCookie } from "#server/access/session-cookie.ts";
import { exportCompany } from "#server/companies/export-company.ts";
import { SAMPLE_SPACE, type Space } from "#server/companies/registry.ts";
import { refuseOtherCurrency } from "#server/facts/currency-rates.ts";
import type { Downloads } from "#server/export/downloads.ts";
import { refuseOverwritten } from "#server/history/refuse-overwritten.ts";
import { noteChange } from "#server/db/data-version.ts";
import type { FileStore } from "#server/intake/file-store.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { readerOf } from "./session-routes.ts";

/** What a company says of itself, and how it is taken along or ended. */
export function companyRoutes({
  knex,
  space,
  store,
  onRemoved,
  exportsKnex,
  downloads,
  personOf,
}: {
  knex: Knex;
  space: Space;
  store: FileStore;
  onRemoved: () => Promise<void>;
  exportsKnex: Knex;
  downloads: Downloads;
  personOf: (res: Response) => string;
}): Router {
  const router = Router();
  const isSample = space.key === SAMPLE_SPACE.key;
  const describe = async (database: Knex = knex): Promise<Company> => {
    const row = await database("company").first<
      | {
          name: string;
          currency: string;
          numbers: string;
          dates: string;
          week_start: number;
          fiscal_start_month: number;
        }
      | undefined
    >("name", "currency", "numbers", "dates", "week_start", "fiscal_start_month");
    return {
      name: row?.name ?? "",
      currency: row?.currency ?? "EUR",
      startMonth: row?.fiscal_start_month ?? 1,
      numbers: asNumberWriting(row?.numbers) ?? "1,234.5",
      dates: asDateWriting(row?.dates) ?? "30 November 2026",
      weekStart: row?.week_start ?? 1,
      isSample,
    };
  };
  router.get(OPERATIONS.company.path, async (_req, res) => {
    res.json(await describe());
  });
  router.put(OPERATIONS.changeCompany.path, async (req, res) => {
    requireAdministrator(readerOf(res));
    const { was, ...to } = readRequest(companyChangeSchema, req.body);
    const { weekStart, ...plain } = to;
    const change = { ...plain, ...(weekStart === undefined ? {} : { week_start: weekStart }) };
    await knex.transaction(async (trx) => {
      await trx("company").forUpdate().first("id");
      refuseOverwritten<Omit<Company, "isSample" | "startMonth">>("the company", { now: await describe(trx), was, to });
      if (change.currency !== undefined) await refuseOtherCurrency(trx, change.currency);
      if (Object.keys(change).length > 0) await trx("company").update(change);
      await noteChange(trx);
    });
    res.json(await describe());
  });
  router.get(OPERATIONS.companyFile.path, async (_req, res) => {
    requireAdministrator(readerOf(res));
    await downloads.send(res, {
      fileName: `${space.key}.zip`,
      type: "application/zip",
      person: personOf(res),
      write: (path, signal) => exportCompany(exportsKnex, store, path, signal),
    });
  });
  router.post(OPERATIONS.removeCompany.path, async (req, res) => {
    requireAdministrator(readerOf(res));
    const { name } = readRequest(companyRemoveSchema, req.body);
    const own = await describe();
    if (isSample)
      throw new ProblemError(
        "invalid-change",
        "The sample company is not removed here. Start Hackle with HACKLE_SAMPLE=off to be without it.",
      );
    if (name.trim() !== own.name)
      throw new ProblemError(
        "invalid-change",
        `Write the company's name, ${own.name}, to remove it. Nothing was removed.`,
      );
    await onRemoved();
    res.clearCookie(COMPANY_COOKIE, { path: "/" }).clearCookie(sessionCookie(space), { path: "/" }).status(204).end();
  });
  return router;
}
