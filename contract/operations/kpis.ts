import {
  formulaTriedSchema,
  formulaTrySchema,
  kpiHistorySchema,
  kpiLibrarySchema,
  kpiSaveSchema,
  languageSchema,
} from "../kpis.ts";
import { idSchema, operations } from "./operation.ts";

/** The KPI library, and the language its formulas are written in. */
export const KPIS = operations({
  kpis: { method: "get", path: "/api/kpis", access: "reader", summary: "The KPI library", answer: kpiLibrarySchema },
  saveKpi: {
    method: "post",
    path: "/api/kpis",
    access: "editor",
    summary: "Add a KPI, or change one",
    body: kpiSaveSchema,
    answer: kpiLibrarySchema,
  },
  removeKpi: {
    method: "delete",
    path: "/api/kpis/:kpi",
    access: "editor",
    summary: "Remove a KPI that nothing uses",
    answer: kpiLibrarySchema,
  },
  kpiHistory: {
    method: "get",
    path: "/api/kpis/:kpi/history",
    access: "reader",
    summary: "A KPI's history",
    answer: kpiHistorySchema,
  },
  undoKpiChange: {
    method: "post",
    path: "/api/kpis/changes/:change/undo",
    access: "editor",
    params: { change: idSchema },
    summary: "Undo a change of a KPI",
    answer: kpiLibrarySchema,
  },
  tryFormula: {
    method: "post",
    path: "/api/formula/try",
    access: "reader",
    summary: "Evaluate a formula, or say where it is wrong",
    body: formulaTrySchema,
    answer: formulaTriedSchema,
  },
  language: {
    method: "get",
    path: "/api/formula/language",
    access: "reader",
    summary: "The formula language: functions and names",
    answer: languageSchema,
  },
});
