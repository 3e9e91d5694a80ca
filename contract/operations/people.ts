import { personAddSchema, personChangeSchema, personListSchema } from "../companies.ts";
import { idSchema, operations } from "./operation.ts";

/** The company's people. */
export const PEOPLE = operations({
  people: {
    method: "get",
    path: "/api/people",
    access: "administrator",
    summary: "The company's people",
    answer: personListSchema,
  },
  addPerson: {
    method: "post",
    path: "/api/people",
    access: "administrator",
    summary: "Add a person with an initial password",
    body: personAddSchema,
    answer: personListSchema,
  },
  changePerson: {
    method: "put",
    path: "/api/people/:person",
    access: "administrator",
    params: { person: idSchema },
    summary: "Change a person, or reset their password",
    body: personChangeSchema,
    answer: personListSchema,
  },
  removePerson: {
    method: "delete",
    path: "/api/people/:person",
    access: "administrator",
    params: { person: idSchema },
    summary: "Remove a person; their loads stay under their name",
    answer: personListSchema,
  },
});
