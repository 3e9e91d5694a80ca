import type { Knex } from "knex";
import type { KPIS } from "#contract/operations/kpis.ts";
import { visibleDimensions } from "#core/dimensions/confine.ts";
import { tryFormula } from "#core/workbench/try-formula.ts";
import type { Structure } from "#server/db/structure.ts";
import { ask } from "#server/facts/workspace.ts";
import { undoChange } from "#server/history/history.ts";
import { kpiRepository } from "#server/kpis/kpi-repository.ts";
import { describeLanguage } from "#server/kpis/language.ts";
import { kpiHistory, listKpis, removeKpi, saveKpi } from "#server/kpis/library.ts";
import type { Routes } from "../serve-operations.ts";
import type { ReadingMeans } from "./reading-means.ts";

/** The KPI library, and the language its formulas are written in. */
export function kpiRoutes({ knex, readStructure, workspaceFor }: ReadingMeans): Routes<typeof KPIS> {
  const list = async () => listKpis(knex, await readStructure());
  /** Runs a change, and answers with the library as it is then. */
  const change = async (work: (trx: Knex.Transaction, structure: Structure) => Promise<unknown>) => {
    const structure = await readStructure();
    await knex.transaction((trx) => work(trx, structure));
    return list();
  };
  return {
    kpis: list,
    saveKpi: ({ body, reader }) => change((trx, structure) => saveKpi(trx, structure, { ...body, by: reader.name })),
    removeKpi: ({ params, reader }) => change((trx) => removeKpi(trx, params.kpi, reader.name)),
    kpiHistory: ({ params }) => kpiHistory(knex, params.kpi),
    undoKpiChange: ({ params, reader }) =>
      change((trx) => undoChange(trx, { id: params.change, area: "kpi", repository: kpiRepository, by: reader.name })),
    tryFormula: async (call) => {
      const { formula, self, ...frame } = call.body;
      return ask(await workspaceFor(call), frame, (question) => tryFormula(formula, { self, query: frame }, question));
    },
    language: async ({ reader }) => {
      const structure = await readStructure();
      return describeLanguage(structure, visibleDimensions(structure.dimensions, reader.scope));
    },
  };
}
