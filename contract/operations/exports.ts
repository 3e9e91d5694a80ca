import { exportQuerySchema, exportableSchema } from "../exports.ts";
import { operations } from "./operation.ts";

/** Datasets as files. */
export const EXPORTS = operations({
  exportable: {
    method: "get",
    path: "/api/datasets",
    access: "reader",
    summary: "What can be exported: datasets, scenarios, members",
    answer: exportableSchema,
  },
  exportDataset: {
    method: "get",
    path: "/api/datasets/:dataset/export",
    access: "reader",
    summary: "A dataset's facts as CSV or Parquet, filtered by scenario, months and scope",
    query: exportQuerySchema,
    answer: "text/csv",
  },
});
