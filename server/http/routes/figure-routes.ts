import { Router, type Request, type Response } from "express";
import type { Knex } from "knex";
import { monthName } from "#core/calendar/month.ts";
import { lastClosedMonth } from "#core/cube/coverage.ts";
import { panelSchema, type PanelDefinition } from "#contract/pack.ts";
import { panelTable } from "#contract/panel-table.ts";
import type { PanelAnswer } from "#contract/panels.ts";
import {
  memberRowsQuerySchema,
  OPERATIONS,
  panelQuerySchema,
  provenanceQuerySchema,
  sourceLinesQuerySchema,
} from "#contract/operations.ts";
import { frameQuerySchema, type FrameQuery } from "#contract/frame.ts";
import type { Structure } from "#server/db/structure.ts";
import { computeMemberRows, computeScorecard } from "#server/engine/compute-scorecard.ts";
import { computeTiles } from "#server/engine/compute-tiles.ts";
import { computeTimeChart } from "#server/engine/compute-time-chart.ts";
import { describeStructure } from "#server/engine/describe-structure.ts";
import { explainFigure, listSourceLines } from "#server/engine/explain-figure.ts";
import { resolveFrame } from "#server/engine/resolve-frame.ts";
import { openWorkspace, type Workspace } from "#server/engine/workspace.ts";
import { requireEditor } from "#server/access/roles.ts";
import { addPanel, changePanel, removePanel } from "#server/packs/change-panels.ts";
import { listPacks, readPack, readPanel } from "#server/packs/packs.ts";
import { answerCsv, csvRow, toAsync } from "../csv.ts";
import { ProblemError } from "../problem-error.ts";
import { readerOf } from "./session-routes.ts";

/** What stands for the month in packs' names. */
function monthInNames({ coverage }: Structure): string {
  const month = lastClosedMonth(coverage);
  return month === undefined ? "" : monthName(month);
}

/** A panel's own unit holds unless the reader asks for another one. */
function withOwnUnit(query: FrameQuery, { unit }: PanelDefinition): FrameQuery {
  return unit === undefined || query.unit !== undefined ? query : { ...query, unit };
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
  const panelAnswer = async (req: Request, res: Response): Promise<PanelAnswer> => {
    const query = panelQuerySchema.parse(req.query);
    const place = req.params as Record<"pack" | "page" | "panel", string>;
    const [workspace, { page, panel }] = await Promise.all([workspaceFor(res), readPanel(knex, place)]);
    const resolved = resolveFrame(withOwnUnit({ pack: place.pack, ...query }, panel), workspace, page.scope);
    switch (panel.kind) {
      case "scorecard":
        return computeScorecard(workspace, resolved, panel);
      case "tiles":
        return computeTiles(workspace, resolved, panel, query);
      case "time-chart":
        return computeTimeChart(workspace, resolved, panel, query);
    }
  };
  router.get(OPERATIONS.panelFile.path, async (req, res) => {
    const answer = await panelAnswer(req, res);
    const { heads, rows } = panelTable(answer);
    const { page, panel } = req.params as Record<"page" | "panel", string>;
    await answerCsv(res, `${page}-${panel}-${answer.frame.asOf}.csv`, toAsync([heads, ...rows].map(csvRow)));
  });
  router.get(OPERATIONS.panel.path, async (req, res) => {
    res.json(await panelAnswer(req, res));
  });
  router.get(OPERATIONS.memberRows.path, async (req, res) => {
    const query = memberRowsQuerySchema.parse(req.query);
    const { pack, page: pageKey, panel: panelKey } = req.params as Record<"pack" | "page" | "panel", string>;
    const [workspace, { page, panel }] = await Promise.all([
      workspaceFor(res),
      readPanel(knex, { pack, page: pageKey, panel: panelKey }),
    ]);
    if (panel.kind !== "scorecard")
      throw new ProblemError("invalid-request", `The panel ${panelKey} is no scorecard: it has no rows to open.`);
    const resolved = resolveFrame(withOwnUnit({ pack, ...query }, panel), workspace, page.scope);
    res.json(await computeMemberRows(workspace, resolved, panel, { kpi: query.kpi, parent: query.parent ?? null }));
  });
  router.put(OPERATIONS.changePanel.path, async (req, res) => {
    requireEditor(readerOf(res));
    const { pack, page, panel } = req.params as Record<"pack" | "page" | "panel", string>;
    const definition = panelSchema.parse(req.body);
    const structure = await readStructure();
    res.json(await knex.transaction((trx) => changePanel(trx, structure, { pack, page, panel }, definition)));
  });
  router.post(OPERATIONS.addPanel.path, async (req, res) => {
    requireEditor(readerOf(res));
    const place = req.params as Record<"pack" | "page", string>;
    const definition = panelSchema.parse(req.body);
    const structure = await readStructure();
    res.json(await knex.transaction((trx) => addPanel(trx, structure, place, definition)));
  });
  router.delete(OPERATIONS.removePanel.path, async (req, res) => {
    requireEditor(readerOf(res));
    const place = req.params as Record<"pack" | "page" | "panel", string>;
    res.json(await knex.transaction((trx) => removePanel(trx, place)));
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
