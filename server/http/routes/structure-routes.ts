import { Router, type Request, type Response } from "express";
import type { Knex } from "knex";
import type { z } from "zod";
import { parseMonth } from "#core/calendar/month.ts";
import { sayCommand } from "#core/structure/say-command.ts";
import { commandTree, type TreeCommand } from "#core/structure/tree-edit.ts";
import {
  accountCommandSchema,
  calendarChangeSchema,
  datasetChangeSchema,
  dimensionChangeSchema,
  memberCommandSchema,
  newDimensionSchema,
  partTableSchema,
  scenarioItemSchema,
} from "#contract/structure.ts";
import { idParamSchema } from "#contract/intake.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { requireEditor } from "#server/access/roles.ts";
import type { Structure } from "#server/db/structure.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { addDimension, addScenario } from "#server/structure/add.ts";
import { structureDoor } from "#server/structure/structure-door.ts";
import { followKinds } from "#server/structure/follow-kinds.ts";
import { undoChange } from "#server/history/history.ts";
import {
  changeAccounts,
  changeMembers,
  changeSetting,
  refuseOutdated,
  removePart,
} from "#server/structure/change-structure.ts";
import { requireDimension } from "#server/structure/structure-door.ts";
import { memberItem, readAccounts, readMembers, type MemberItem } from "#server/structure/collections.ts";
import { accountsFromCsv, accountsToCsv, membersFromCsv, membersToCsv } from "#server/structure/csv-files.ts";
import { describeStructure } from "#server/structure/describe-structure.ts";
import { answerCsv } from "../csv.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readerOf } from "./session-routes.ts";

/** Accounts, dimensions, calendar, datasets and scenarios: reading and editing them. */
export function structureRoutes({
  knex,
  readStructure,
}: {
  knex: Knex;
  readStructure: () => Promise<Structure>;
}): Router {
  const router = Router();
  const param = (req: Request, name: string) => String(req.params[name]);
  /** Runs a change for an editor, and answers with the structure as it is then. */
  const change = async (res: Response, work: (trx: Knex.Transaction, person: string) => Promise<unknown>) => {
    const { name } = requireEditor(readerOf(res));
    await knex.transaction((trx) => work(trx, name));
    res.json(await describeStructure(knex, await readStructure()));
  };

  router.get(OPERATIONS.structure.path, async (_req, res) => {
    requireEditor(readerOf(res));
    res.json(await describeStructure(knex, await readStructure()));
  });
  router.post(OPERATIONS.changeAccounts.path, (req, res) =>
    change(res, async (trx, person) => {
      const command = readRequest(accountCommandSchema, req.body);
      const items = await readAccounts(trx);
      await refuseOutdated(trx, { table: "account" }, command, items);
      const said = sayCommand(items, command);
      return changeAccounts(trx, { by: person, said }, (items) => commandTree(items, command));
    }),
  );
  router.get(OPERATIONS.accountsFile.path, async (_req, res) => {
    requireEditor(readerOf(res));
    answerCsv(res, "accounts.csv", accountsToCsv(await readAccounts(knex)));
  });
  router.put(OPERATIONS.importAccounts.path, (req, res) =>
    change(res, (trx, person) =>
      changeAccounts(trx, { by: person, said: "Took accounts over from a file" }, (items) =>
        accountsFromCsv(bodyText(req), items),
      ),
    ),
  );
  router.post(OPERATIONS.addDimension.path, (req, res) =>
    change(res, (trx) => addDimension(trx, readRequest(newDimensionSchema, req.body))),
  );
  router.put(OPERATIONS.changeDimension.path, (req, res) =>
    change(res, async (trx, person) => {
      const key = param(req, "dimension");
      const { name } = await requireDimension(trx, key);
      const { was, ...to } = readRequest(dimensionChangeSchema, req.body);
      return changeSetting(
        trx,
        { by: person, said: `Changed the dimension ${name}` },
        { table: "dimension", key, to, was },
      );
    }),
  );
  router.post(OPERATIONS.changeMembers.path, (req, res) =>
    change(res, async (trx, person) => {
      const command = memberCommand(readRequest(memberCommandSchema, req.body));
      const dimension = param(req, "dimension");
      const { id, name } = await requireDimension(trx, dimension);
      const items = await readMembers(trx, id);
      await refuseOutdated(trx, { table: "member", dimensionId: id }, command, items);
      const said = `${name}: ${sayCommand(items, command)}`;
      return changeMembers(trx, { by: person, said }, dimension, (items) => commandTree(items, command));
    }),
  );
  router.get(OPERATIONS.membersFile.path, async (req, res) => {
    requireEditor(readerOf(res));
    const dimension = param(req, "dimension");
    const { id } = await requireDimension(knex, dimension);
    answerCsv(res, `${dimension}.csv`, membersToCsv(await readMembers(knex, id)));
  });
  router.put(OPERATIONS.importMembers.path, (req, res) =>
    change(res, async (trx, person) => {
      const dimension = param(req, "dimension");
      const { name } = await requireDimension(trx, dimension);
      return changeMembers(trx, { by: person, said: `${name}: took members over from a file` }, dimension, (items) =>
        membersFromCsv(bodyText(req), items),
      );
    }),
  );
  router.put(OPERATIONS.changeCalendar.path, (req, res) =>
    change(res, (trx, person) => {
      const { was, ...to } = readRequest(calendarChangeSchema, req.body);
      const rowOf = ({ name, startMonth }: Omit<typeof to, "was">) => ({
        ...(name === undefined ? {} : { name }),
        ...(startMonth === undefined ? {} : { fiscal_start_month: startMonth }),
      });
      return changeSetting(
        trx,
        { by: person, said: "Changed the calendar" },
        { table: "company", key: "1", to: rowOf(to), was: was && rowOf(was) },
      );
    }),
  );
  router.put(OPERATIONS.changeDataset.path, (req, res) =>
    change(res, async (trx, person) => {
      const key = param(req, "dataset");
      const { was, ...to } = readRequest(datasetChangeSchema, req.body);
      for (const dimension of to.dimensions ?? []) await requireDimension(trx, dimension);
      const rowOf = ({ daysWithoutLines, ...rest }: Omit<typeof to, "was">) => ({
        ...rest,
        ...(daysWithoutLines === undefined ? {} : { days_without_lines: daysWithoutLines }),
      });
      return changeSetting(
        trx,
        { by: person, said: `Changed the dataset ${to.name ?? key}` },
        { table: "dataset", key, to: rowOf(to), was: was && rowOf(was) },
      );
    }),
  );
  router.post(OPERATIONS.addScenario.path, (req, res) =>
    change(res, (trx) => {
      const { madeAfter, ...rest } = readRequest(scenarioItemSchema, req.body);
      return addScenario(trx, { ...rest, madeAfter: madeAfter === null ? null : parseMonth(madeAfter)! });
    }),
  );
  router.delete(OPERATIONS.removePart.path, (req, res) =>
    change(res, (trx, person) =>
      removePart(trx, person, {
        table: readRequest(partTableSchema, req.params["table"]),
        key: param(req, "key"),
      }),
    ),
  );
  router.post(OPERATIONS.undoChange.path, (req, res) =>
    change(res, async (trx, person) => {
      const before = await readAccounts(trx);
      await undoChange(trx, {
        id: readRequest(idParamSchema, req.params["change"]),
        area: "structure",
        door: structureDoor,
        by: person,
      });
      await followKinds(trx, before, await readAccounts(trx), person);
    }),
  );
  return router;
}

/** A command with its months as the core counts them. */
function memberCommand(command: z.infer<typeof memberCommandSchema>): TreeCommand<MemberItem> & { version?: number } {
  return "item" in command ? { ...command, item: memberItem(command.item) } : command;
}

function bodyText(req: Request): string {
  if (typeof req.body !== "string" || req.body === "")
    throw new ProblemError("invalid-request", "The file is empty. Export the list first to see how it is laid out.");
  return req.body;
}
