import { Router } from "express";
import type { Knex } from "knex";
import { idParamSchema } from "#contract/intake.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { tokenCreateSchema } from "#contract/tokens.ts";
import { createToken, listTokens, revokeToken } from "#server/access/api-tokens.ts";
import type { Space } from "#server/companies/registry.ts";
import { readerOf } from "./session-routes.ts";
import { readRequest } from "#server/problems/to-problem.ts";

/** Personal tokens for other programs. */
export function tokenRoutes(knex: Knex, space: Pick<Space, "key">): Router {
  const router = Router();
  router.get(OPERATIONS.tokens.path, async (_req, res) => {
    res.json(await listTokens(knex, readerOf(res)));
  });
  router.post(OPERATIONS.createToken.path, async (req, res) => {
    res.json(await createToken(knex, space, readerOf(res), readRequest(tokenCreateSchema, req.body).name));
  });
  router.delete(OPERATIONS.revokeToken.path, async (req, res) => {
    await revokeToken(knex, readerOf(res), readRequest(idParamSchema, req.params["token"]));
    res.status(204).end();
  });
  return router;
}
