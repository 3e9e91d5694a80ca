import type { Knex } from "knex";
import type { PEOPLE } from "#contract/operations/people.ts";
import { addPerson, changePerson, listPeople, removePerson } from "#server/access/people.ts";
import type { Routes } from "../serve-operations.ts";

/** The people of a company, for its administrators. */
export function peopleRoutes(knex: Knex): Routes<typeof PEOPLE> {
  return {
    people: ({ reader }) => listPeople(knex, reader),
    addPerson: async ({ reader, body }) => {
      await addPerson(knex, body);
      return listPeople(knex, reader);
    },
    changePerson: async ({ reader, params, body }) => {
      await changePerson(knex, reader, params.person, body);
      return listPeople(knex, reader);
    },
    removePerson: async ({ reader, params }) => {
      await removePerson(knex, reader, params.person);
      return listPeople(knex, reader);
    },
  };
}
