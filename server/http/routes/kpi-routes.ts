import { Router, type Response } from "express";
import type { Knex } from "knex";
import { idParamSchema } from "#contract/intake.ts";
import { formulaTrySchema, kpiSaveSchema } from "#contract/kpis.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { visibleDimensions } from "#core/dimensions/confine.ts";
import { tryFormula } from "#core/kpis/try-formula.ts";
import { requireEditor } from "#server/access/roles.ts";
import type { Structure } from "#server/db/structure.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { kpiDoor } from "#server/kpis/kpi-door.ts";
import { undoChange } from "#server/history/history.ts";
import { ask } from "#server/facts/workspace.ts";
import { describeLanguage } from "#server/kpis/language.ts";
import { kpiHistory, listKpis, removeKpi, saveKpi } from "#server/kpis/library.ts";
import type { ReadingRoutes } from "./reading-routes.ts";
import { readerOf } from "./session-routes.ts";

/** The KPI library, and the language its formulas are written in. */
export function kpiRoutes({ knex, readStructure, workspaceFor }: ReadingRoutes): Router {
  const router = Router();
  /** Runs a change for an editor, and answers with the library as it is then. */
  const change = async (
    res: Response,
    work: (trx: Knex.Transaction, structure: Structure, person: string) => Promise<unknown>,
  ) => {
    const { name } = requireEditor(readerOf(res));
    const structure = await readStructure();
    await knex.transaction((trx) => work(trx, structure, name));
    res.json(await listKpis(knex, await readStructure()));
  };

  router.get(OPERATIONS.kpis.path, async (_req, res) => {
    res.json(await listKpis(knex, await readStructure()));
  });
  router.post(OPERATIONS.saveKpi.path, (req, res) =>
    change(res, async (trx, structure, by) => saveKpi(trx, structure, { ...readRequest(kpiSaveSchema, req.body), by })),
  );
  router.delete(OPERATIONS.removeKpi.path, (req, res) =>
    change(res, async (trx, _structure, by) => removeKpi(trx, req.params["kpi"], by)),
  );
  router.get(OPERATIONS.kpiHistory.path, async (req, res) => {
    res.json(await kpiHistory(knex, req.params["kpi"]));
  });
  router.post(OPERATIONS.undoKpiChange.path, (req, res) =>
    change(res, async (trx, _structure, by) =>
      undoChange(trx, { id: readRequest(idParamSchema, req.params["change"]), area: "kpi", door: kpiDoor, by }),
    ),
  );
  router.post(OPERATIONS.tryFormula.path, async (req, res) => {
    const { formula, self, ...frame } = readRequest(formulaTrySchema, req.body);
    const workspace = await workspaceFor(res);
    res.json(await ask(workspace, frame, (question) => tryFormula(formula, { self, query: frame }, question)));
  });
  router.get(OPERATIONS.language.path, async (_req, res) => {
    const structure = await readStructure();
    res.json(describeLanguage(structure, visibleDimensions(structure.dimensions, readerOf(res).scope)));
  });
  return router;
}
