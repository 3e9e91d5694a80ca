import { Router } from "express";
import { OPERATIONS } from "#contract/operations.ts";
import { versionChangeSchema, versionPostSchema, type VersionLine } from "#contract/versions.ts";
import { requireEditor } from "#server/access/roles.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { postVersion } from "#server/versions/post-version.ts";
import { changeVersion, listVersions } from "#server/versions/versions.ts";
import { answerLines } from "../json-lines.ts";
import type { ReadingRoutes } from "./reading-routes.ts";
import { readerOf } from "./session-routes.ts";

/** Versions of budget, forecast and target: made from forecasts, named, frozen, retired. */
export function versionRoutes({ knex, readStructure, workspaceFor }: ReadingRoutes): Router {
  const router = Router();
  router.get(OPERATIONS.versions.path, async (_req, res) => {
    const { role } = readerOf(res);
    const mayEdit = role === "analyst" || role === "administrator";
    res.json({ versions: await listVersions(knex, await readStructure()), mayEdit });
  });
  router.post(OPERATIONS.postVersion.path, async (req, res) => {
    const reader = requireEditor(readerOf(res));
    const post = readRequest(versionPostSchema, req.body);
    await answerLines(res, written(postVersion(knex, await workspaceFor(res), post, reader.name)));
  });
  router.post(OPERATIONS.changeVersion.path, async (req, res) => {
    requireEditor(readerOf(res));
    const change = readRequest(versionChangeSchema, req.body);
    await knex.transaction((trx) => changeVersion(trx, req.params["version"], change));
    res.json({ versions: await listVersions(knex, await readStructure()), mayEdit: true });
  });
  return router;
}

async function* written(lines: AsyncIterable<VersionLine>): AsyncGenerator<string> {
  for await (const line of lines) yield `${JSON.stringify(line)}\n`;
}
