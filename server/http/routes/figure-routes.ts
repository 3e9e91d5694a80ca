import { Router, type Response } from "express";
import type { Knex } from "knex";
import { monthName } from "#core/calendar/month.ts";
import { lastClosedMonth } from "#core/cube/coverage.ts";
import { OPERATIONS, panelQuerySchema, provenanceQuerySchema, sourceLinesQuerySchema } from "#contract/operations.ts";
import { frameQuerySchema } from "#contract/frame.ts";
import type { Structure } from "#server/db/structure.ts";
import { computeScorecard, computeTimeChart } from "#server/engine/compute-panel.ts";
import { describeStructure } from "#server/engine/describe-structure.ts";
import { explainFigure, listSourceLines } from "#server/engine/explain-figure.ts";
import { resolveFrame } from "#server/engine/resolve-frame.ts";
import { openWorkspace, type Workspace } from "#server/engine/workspace.ts";
import { listPacks, readPack, readPanel } from "#server/packs/packs.ts";
import { readerOf } from "./session-routes.ts";

/** What stands for the month in packs' names. */
function monthInNames({ coverage }: Structure): string {
  const month = lastClosedMonth(coverage);
  return month === undefined ? "" : monthName(month);
}

/** Packs, their panels' figures, and where figures come from. */
export function figureRoutes({ knex, readStructure }: { knex: Knex; readStructure: () => Promise<Structure> }): Router {
  const router = Router();
  const workspaceFor = async (res: Response): Promise<Workspace> =>
    openWorkspace(knex, await readStructure(), readerOf(res));

  router.get(OPERATIONS.structure.path, async (req, res) => {
    const query = frameQuerySchema.parse(req.query);
    const workspace = await workspaceFor(res);
    res.json(describeStructure(workspace, resolveFrame(query, workspace)));
  });
  router.get(OPERATIONS.packs.path, async (_req, res) => {
    res.json(await listPacks(knex, monthInNames(await readStructure())));
  });
  router.get(OPERATIONS.pack.path, async (req, res) => {
    res.json(await readPack(knex, req.params["pack"], monthInNames(await readStructure())));
  });
  router.get(OPERATIONS.panel.path, async (req, res) => {
    const query = panelQuerySchema.parse(req.query);
    const { pack, page: pageKey, panel: panelKey } = req.params as Record<"pack" | "page" | "panel", string>;
    const [workspace, { page, panel }] = await Promise.all([
      workspaceFor(res),
      readPanel(knex, { pack, page: pageKey, panel: panelKey }),
    ]);
    const resolved = resolveFrame({ pack, ...query }, workspace, page.scope);
    res.json(
      panel.kind === "scorecard"
        ? await computeScorecard(workspace, resolved, panel)
        : await computeTimeChart(workspace, resolved, query.kpi ?? panel.kpi),
    );
  });
  router.get(OPERATIONS.provenance.path, async (req, res) => {
    const query = provenanceQuerySchema.parse(req.query);
    const workspace = await workspaceFor(res);
    res.json(await explainFigure(workspace, resolveFrame(query, workspace), query.kpi, query.side));
  });
  router.get(OPERATIONS.sourceLines.path, async (req, res) => {
    const query = sourceLinesQuerySchema.parse(req.query);
    const workspace = await workspaceFor(res);
    res.json(await listSourceLines(workspace, resolveFrame(query, workspace), query));
  });
  return router;
}
