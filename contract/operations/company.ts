import { companyChangeSchema, companyRemoveSchema, companySchema } from "../companies.ts";
import { companyLookSchema, sessionSchema } from "../session.ts";
import { operations } from "./operation.ts";

/** The company itself: its settings, its export, its removal. */
export const COMPANY = operations({
  company: {
    method: "get",
    path: "/api/company",
    access: "reader",
    summary: "The company's settings",
    answer: companySchema,
  },
  changeCompany: {
    method: "put",
    path: "/api/company",
    access: "administrator",
    summary: "Change the company's settings",
    body: companyChangeSchema,
    answer: companySchema,
  },
  setCompanyLook: {
    method: "put",
    path: "/api/company/look",
    access: "editor",
    summary: "Choose the company's palette",
    body: companyLookSchema,
    answer: sessionSchema,
  },
  companyFile: {
    method: "get",
    path: "/api/company/export.zip",
    access: "administrator",
    summary: "Export the whole company: its tables as CSV, and its uploaded files",
    answer: "application/zip",
  },
  removeCompany: {
    method: "post",
    path: "/api/company/remove",
    access: "administrator",
    summary: "Delete the company; its name confirms it",
    body: companyRemoveSchema,
    answer: null,
  },
});
