import { text as textBody, Router, type Request, type Response } from "express";
import type { Knex } from "knex";
import { parseMonth } from "#core/calendar/month.ts";
import { sayCommand } from "#core/structure/say-command.ts";
import { commandTree } from "#core/structure/tree-edit.ts";
import {
  accountCommandSchema,
  calendarChangeSchema,
  datasetChangeSchema,
  dimensionChangeSchema,
  memberCommandSchema,
  newDimensionSchema,
  scenarioItemSchema,
} from "#contract/chart.ts";
import { idParamSchema } from "#contract/intake.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { requireEditor } from "#server/access/roles.ts";
import type { Structure } from "#server/db/structure.ts";
import { addDimension, addScenario } from "#server/structure/add.ts";
import {
  changeAccounts,
  changeMembers,
  changeSetting,
  requireDimension,
  undoChange,
} from "#server/structure/change-structure.ts";
import { readAccounts, readMembers } from "#server/structure/collections.ts";
import { accountsFromCsv, accountsToCsv, membersFromCsv, membersToCsv } from "#server/structure/csv-files.ts";
import { describeChart } from "#server/structure/describe-chart.ts";
import { answerCsv, toAsync } from "../csv.ts";
import { ProblemError } from "../problem-error.ts";
import { readerOf } from "./session-routes.ts";

/** Accounts, dimensions, calendar, datasets and scenarios: reading and editing them. */
export function chartRoutes({ knex, readStructure }: { knex: Knex; readStructure: () => Promise<Structure> }): Router {
  const router = Router();
  const csvBody = textBody({ type: () => true, limit: "20mb" });
  const param = (req: Request, name: string) => String(req.params[name]);
  /** Runs a change for an editor, and answers with the structure as it is then. */
  const change = async (res: Response, work: (trx: Knex.Transaction, person: string) => Promise<unknown>) => {
    const { name } = requireEditor(readerOf(res));
    await knex.transaction((trx) => work(trx, name));
    res.json(await describeChart(knex, await readStructure()));
  };

  router.get(OPERATIONS.chart.path, async (_req, res) => {
    requireEditor(readerOf(res));
    res.json(await describeChart(knex, await readStructure()));
  });
  router.post(OPERATIONS.changeAccounts.path, (req, res) =>
    change(res, async (trx, person) => {
      const command = accountCommandSchema.parse(req.body);
      const said = sayCommand(await readAccounts(trx), command);
      return changeAccounts(trx, { person, said }, (items) => commandTree(items, command));
    }),
  );
  router.get(OPERATIONS.accountsFile.path, async (_req, res) => {
    requireEditor(readerOf(res));
    await answerCsv(res, "accounts.csv", toAsync(accountsToCsv(await readAccounts(knex))));
  });
  router.put(OPERATIONS.importAccounts.path, csvBody, (req, res) =>
    change(res, (trx, person) =>
      changeAccounts(trx, { person, said: "Took accounts over from a file" }, (items) =>
        accountsFromCsv(bodyText(req), items),
      ),
    ),
  );
  router.post(OPERATIONS.addDimension.path, (req, res) =>
    change(res, (trx) => addDimension(trx, newDimensionSchema.parse(req.body))),
  );
  router.put(OPERATIONS.changeDimension.path, (req, res) =>
    change(res, async (trx, person) => {
      const key = param(req, "dimension");
      const { name } = await requireDimension(trx, key);
      return changeSetting(
        trx,
        { person, said: `Changed the dimension ${name}` },
        { table: "dimension", key, to: dimensionChangeSchema.parse(req.body) },
      );
    }),
  );
  router.post(OPERATIONS.changeMembers.path, (req, res) =>
    change(res, async (trx, person) => {
      const command = memberCommandSchema.parse(req.body);
      const dimension = param(req, "dimension");
      const { id, name } = await requireDimension(trx, dimension);
      const said = `${name}: ${sayCommand(await readMembers(trx, id), command)}`;
      return changeMembers(trx, { person, said }, dimension, (items) => commandTree(items, command));
    }),
  );
  router.get(OPERATIONS.membersFile.path, async (req, res) => {
    requireEditor(readerOf(res));
    const dimension = param(req, "dimension");
    const { id } = await requireDimension(knex, dimension);
    await answerCsv(res, `${dimension}.csv`, toAsync(membersToCsv(await readMembers(knex, id))));
  });
  router.put(OPERATIONS.importMembers.path, csvBody, (req, res) =>
    change(res, async (trx, person) => {
      const dimension = param(req, "dimension");
      const { name } = await requireDimension(trx, dimension);
      return changeMembers(trx, { person, said: `${name}: took members over from a file` }, dimension, (items) =>
        membersFromCsv(bodyText(req), items),
      );
    }),
  );
  router.put(OPERATIONS.changeCalendar.path, (req, res) =>
    change(res, (trx, person) => {
      const { name, startMonth } = calendarChangeSchema.parse(req.body);
      const to = {
        ...(name === undefined ? {} : { name }),
        ...(startMonth === undefined ? {} : { fiscal_start_month: startMonth }),
      };
      return changeSetting(trx, { person, said: "Changed the calendar" }, { table: "company", key: "1", to });
    }),
  );
  router.put(OPERATIONS.changeDataset.path, (req, res) =>
    change(res, async (trx, person) => {
      const key = param(req, "dataset");
      const to = datasetChangeSchema.parse(req.body);
      for (const dimension of to.dimensions ?? []) await requireDimension(trx, dimension);
      return changeSetting(
        trx,
        { person, said: `Changed the dataset ${to.name ?? key}` },
        { table: "dataset", key, to },
      );
    }),
  );
  router.post(OPERATIONS.addScenario.path, (req, res) =>
    change(res, (trx) => {
      const { madeAfter, ...rest } = scenarioItemSchema.parse(req.body);
      return addScenario(trx, { ...rest, madeAfter: madeAfter === null ? null : parseMonth(madeAfter)! });
    }),
  );
  router.post(OPERATIONS.undoChange.path, (req, res) =>
    change(res, (trx, person) => undoChange(trx, idParamSchema.parse(req.params["change"]), person)),
  );
  return router;
}

function bodyText(req: Request): string {
  if (typeof req.body !== "string" || req.body === "")
    throw new ProblemError("invalid-request", "The file is empty. Export the list first to see how it is laid out.");
  return req.body;
}
