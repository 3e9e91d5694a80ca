import { Router, type Response } from "express";
import type { Knex } from "knex";
import { personAddSchema, personChangeSchema } from "#contract/companies.ts";
import { idParamSchema } from "#contract/intake.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { addPerson, changePerson, listPeople, removePerson } from "#server/access/people.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { readerOf } from "./session-routes.ts";

/** The people of a company, for its administrators. */
export function peopleRoutes(knex: Knex): Router {
  const router = Router();
  const answer = async (res: Response) => res.json(await listPeople(knex, readerOf(res)));
  router.get(OPERATIONS.people.path, (_req, res) => answer(res));
  router.post(OPERATIONS.addPerson.path, async (req, res) => {
    await addPerson(knex, readerOf(res), readRequest(personAddSchema, req.body));
    await answer(res);
  });
  router.put(OPERATIONS.changePerson.path, async (req, res) => {
    const id = readRequest(idParamSchema, req.params["person"]);
    await changePerson(knex, readerOf(res), id, readRequest(personChangeSchema, req.body));
    await answer(res);
  });
  router.delete(OPERATIONS.removePerson.path, async (req, res) => {
    await removePerson(knex, readerOf(res), readRequest(idParamSchema, req.params["person"]));
    await answer(res);
  });
  return router;
}
