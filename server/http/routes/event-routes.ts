import { Router } from "express";
import { eventIdSchema, eventSaySchema } from "#contract/events.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { requireEditor } from "#server/access/roles.ts";
import { sayEvent, unsayEvent } from "#server/events/say-event.ts";
import { ask } from "#server/facts/workspace.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import type { ReadingRoutes } from "./reading-routes.ts";
import { readerOf } from "./session-routes.ts";

/** What is said of events out of the ordinary: confirmed or dismissed, and taken back. */
export function eventRoutes({ knex, workspaceFor }: ReadingRoutes): Router {
  const router = Router();
  router.post(OPERATIONS.sayEvent.path, async (req, res) => {
    const { name } = requireEditor(readerOf(res));
    const said = readRequest(eventSaySchema, req.body);
    const question = await ask(
      await workspaceFor(res),
      said.scope === undefined ? {} : { scope: said.scope },
      (own) => own,
    );
    res.json({ id: await knex.transaction((trx) => sayEvent(trx, question, said, name)) });
  });
  router.delete(OPERATIONS.unsayEvent.path, async (req, res) => {
    requireEditor(readerOf(res));
    const { event } = readRequest(eventIdSchema, req.params);
    await knex.transaction((trx) => unsayEvent(trx, event));
    res.status(204).end();
  });
  return router;
}
