import { alertsSchema } from "../alerts.ts";
import { homeSchema } from "../home.ts";
import { operations } from "./operation.ts";

/** What a reader meets first. */
export const HOME = operations({
  home: {
    method: "get",
    path: "/api/home",
    access: "reader",
    summary: "The open month and what it lacks, and KPIs off plan",
    answer: homeSchema,
  },
  alerts: {
    method: "get",
    path: "/api/alerts",
    access: "reader",
    summary: "KPIs whose status changed with the last load",
    answer: alertsSchema,
  },
});
