import { companyEnterSchema, companyListSchema, companyStartSchema } from "../companies.ts";
import { sessionSchema } from "../session.ts";
import { operations } from "./operation.ts";

/** The way into a company. */
export const LOBBY = operations({
  companies: {
    method: "get",
    path: "/api/companies",
    access: "anyone",
    summary: "The companies of this installation",
    answer: companyListSchema,
  },
  startCompany: {
    method: "post",
    path: "/api/companies",
    access: "anyone",
    summary: "Create a company, empty, and sign in as its administrator",
    body: companyStartSchema,
    answer: sessionSchema,
  },
  enterCompany: {
    method: "put",
    path: "/api/companies/entered",
    access: "anyone",
    summary: "Switch this browser to another company; an existing session there is resumed",
    body: companyEnterSchema,
    answer: companyListSchema,
  },
});
