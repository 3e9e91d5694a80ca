import type { EVENTS } from "#contract/operations/events.ts";
import { sayEvent, unsayEvent } from "#server/events/say-event.ts";
import { ask } from "#server/facts/workspace.ts";
import type { Routes } from "../serve-operations.ts";
import type { ReadingMeans } from "./reading-means.ts";

/** What is said of events out of the ordinary: confirmed or dismissed, and taken back. */
export function eventRoutes({ knex, workspaceFor }: ReadingMeans): Routes<typeof EVENTS> {
  return {
    sayEvent: async (call) => {
      const { scope } = call.body;
      const question = await ask(await workspaceFor(call), scope === undefined ? {} : { scope }, (own) => own);
      return { id: await knex.transaction((trx) => sayEvent(trx, question, call.body, call.reader.name)) };
    },
    unsayEvent: ({ params }) => knex.transaction((trx) => unsayEvent(trx, params.event)),
  };
}
