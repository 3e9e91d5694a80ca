import { Router, type Response } from "express";
import type { Knex } from "knex";
import { OPERATIONS } from "#contract/operations.ts";
import {
  adjustmentIdSchema,
  adjustmentSchema,
  versionChangeSchema,
  versionCopySchema,
  versionPostSchema,
  type VersionLine,
} from "#contract/versions.ts";
import { requireEditor } from "#server/access/roles.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { ask } from "#server/facts/workspace.ts";
import { adjustVersion, takeBackAdjustment } from "#server/versions/adjust-version.ts";
import { copyVersion } from "#server/versions/copy-version.ts";
import { postVersion, refitVersion } from "#server/versions/post-version.ts";
import { changeVersion, listVersions } from "#server/versions/versions.ts";
import { answerLines } from "../json-lines.ts";
import type { ReadingRoutes } from "./reading-routes.ts";
import { readerOf } from "./session-routes.ts";

/** Versions of budget, forecast and target: made from forecasts, named, frozen, retired. */
export function versionRoutes({ knex, readStructure, workspaceFor }: ReadingRoutes): Router {
  const router = Router();
  /** Runs a change for an editor, and answers with the versions as they are then. */
  const change = async (res: Response, work: (trx: Knex.Transaction, person: string) => Promise<unknown>) => {
    const { name } = requireEditor(readerOf(res));
    await knex.transaction((trx) => work(trx, name));
    res.json({ versions: await listVersions(knex, await readStructure(), readerOf(res)), mayEdit: true });
  };
  router.get(OPERATIONS.versions.path, async (_req, res) => {
    const { role } = readerOf(res);
    const mayEdit = role === "analyst" || role === "administrator";
    res.json({ versions: await listVersions(knex, await readStructure(), readerOf(res)), mayEdit });
  });
  router.post(OPERATIONS.postVersion.path, async (req, res) => {
    const reader = requireEditor(readerOf(res));
    const post = readRequest(versionPostSchema, req.body);
    await answerLines(res, written(postVersion(knex, await workspaceFor(res), post, reader.name)));
  });
  router.post(OPERATIONS.changeVersion.path, async (req, res) => {
    const asked = readRequest(versionChangeSchema, req.body);
    await change(res, (trx) => changeVersion(trx, req.params["version"], asked));
  });
  router.post(OPERATIONS.copyVersion.path, (req, res) =>
    change(res, (trx, person) =>
      copyVersion(trx, req.params["version"], readRequest(versionCopySchema, req.body).name, person),
    ),
  );
  router.post(OPERATIONS.refitVersion.path, async (req, res) => {
    const { name } = requireEditor(readerOf(res));
    await answerLines(res, written(refitVersion(knex, await workspaceFor(res), req.params["version"], name)));
  });
  router.post(OPERATIONS.adjustVersion.path, async (req, res) => {
    requireEditor(readerOf(res));
    const adjustment = readRequest(adjustmentSchema, req.body);
    const scope = adjustment.scope === undefined ? {} : { scope: adjustment.scope };
    const question = await ask(await workspaceFor(res), scope, (own) => own);
    await change(res, (trx, person) => adjustVersion(trx, req.params["version"], question, adjustment, person));
  });
  router.delete(OPERATIONS.takeBackAdjustment.path, (req, res) =>
    change(res, (trx, person) => {
      const { adjustment } = readRequest(adjustmentIdSchema, req.params);
      return takeBackAdjustment(trx, req.params["version"], adjustment, person);
    }),
  );
  return router;
}

async function* written(lines: AsyncIterable<VersionLine>): AsyncGenerator<string> {
  for await (const line of lines) yield `${JSON.stringify(line)}\n`;
}
