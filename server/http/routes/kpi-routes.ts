import { Router, type Response } from "express";
import type { Knex } from "knex";
import { idParamSchema } from "#contract/intake.ts";
import { formulaTrySchema, kpiSaveSchema } from "#contract/kpis.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { visibleDimensions } from "#server/access/confine.ts";
import { requireEditor } from "#server/access/roles.ts";
import type { Structure } from "#server/db/structure.ts";
import { readAlerts } from "#server/engine/standings.ts";
import { openWorkspace } from "#server/engine/workspace.ts";
import { describeLanguage } from "#server/kpis/language.ts";
import { kpiHistory, listKpis, removeKpi, saveKpi, undoKpiChange } from "#server/kpis/library.ts";
import { tryFormula } from "#server/kpis/try-formula.ts";
import { readerOf } from "./session-routes.ts";

/** The KPI library, and the language its formulas are written in. */
export function kpiRoutes({ knex, readStructure }: { knex: Knex; readStructure: () => Promise<Structure> }): Router {
  const router = Router();
  /** Runs a change for an editor, and answers with the library as it is then. */
  const change = async (
    res: Response,
    work: (trx: Knex.Transaction, structure: Structure, person: string) => Promise<void>,
  ) => {
    const { name } = requireEditor(readerOf(res));
    const structure = await readStructure();
    await knex.transaction((trx) => work(trx, structure, name));
    res.json(await listKpis(knex, await readStructure()));
  };

  router.get(OPERATIONS.alerts.path, async (_req, res) => {
    res.json(await readAlerts(knex, await readStructure(), readerOf(res)));
  });
  router.get(OPERATIONS.kpis.path, async (_req, res) => {
    res.json(await listKpis(knex, await readStructure()));
  });
  router.post(OPERATIONS.saveKpi.path, (req, res) =>
    change(res, async (trx, structure, by) => saveKpi(trx, structure, { ...kpiSaveSchema.parse(req.body), by })),
  );
  router.delete(OPERATIONS.removeKpi.path, (req, res) =>
    change(res, async (trx, structure, by) => removeKpi(trx, structure, req.params["kpi"], by)),
  );
  router.get(OPERATIONS.kpiHistory.path, async (req, res) => {
    res.json(await kpiHistory(knex, req.params["kpi"]));
  });
  router.post(OPERATIONS.undoKpiChange.path, (req, res) =>
    change(res, async (trx, structure, by) =>
      undoKpiChange(trx, structure, idParamSchema.parse(req.params["change"]), by),
    ),
  );
  router.post(OPERATIONS.tryFormula.path, async (req, res) => {
    const asked = formulaTrySchema.parse(req.body);
    res.json(await tryFormula(openWorkspace(knex, await readStructure(), readerOf(res)), asked));
  });
  router.get(OPERATIONS.language.path, async (_req, res) => {
    const structure = await readStructure();
    res.json(describeLanguage(structure, visibleDimensions(structure.dimensions, readerOf(res).scope)));
  });
  return router;
}
