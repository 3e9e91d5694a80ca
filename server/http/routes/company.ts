import type { Knex } from "knex";
import type { COMPANY } from "#contract/operations/company.ts";
import { describeSession } from "#server/access/describe-session.ts";
import { COMPANY_COOKIE, sessionCookie } from "#server/access/session-cookie.ts";
import { changeCompany, describeCompany } from "#server/companies/company-settings.ts";
import { exportCompany } from "#server/companies/export-company.ts";
import { SAMPLE_COMPANY, type RegisteredCompany } from "#server/companies/registry.ts";
import type { FileStore } from "#server/intake/file-store.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { Routes } from "../serve-operations.ts";

/** What a company says of itself, and how it is exported or removed. */
export function companyRoutes({
  knex,
  registered,
  store,
  onRemoved,
  exportsKnex,
}: {
  knex: Knex;
  registered: RegisteredCompany;
  store: FileStore;
  onRemoved: () => Promise<void>;
  exportsKnex: Knex;
}): Routes<typeof COMPANY> {
  const isSample = registered.key === SAMPLE_COMPANY.key;
  const describe = async () => ({ ...(await describeCompany(knex)), isSample });
  return {
    company: describe,
    changeCompany: async ({ body }) => {
      await knex.transaction((trx) => changeCompany(trx, body));
      return describe();
    },
    setCompanyLook: async ({ body, reader }) => {
      await knex("company").update(body);
      return describeSession(knex, reader);
    },
    companyFile: () => ({
      fileName: `${registered.key}.zip`,
      type: "application/zip",
      write: (path, signal) => exportCompany(exportsKnex, store, path, signal),
    }),
    removeCompany: async ({ body, res }) => {
      const { name } = await describe();
      if (isSample)
        throw new ProblemError(
          "invalid-change",
          "The sample company cannot be deleted. Start Hackle with HACKLE_SAMPLE=off to hide it.",
        );
      if (body.name.trim() !== name)
        throw new ProblemError(
          "invalid-change",
          `Type the company's name, ${name}, to delete it. Nothing was deleted.`,
        );
      await onRemoved();
      res.clearCookie(COMPANY_COOKIE, { path: "/" }).clearCookie(sessionCookie(registered), { path: "/" });
    },
  };
}
