import { inWriting, numberMarks } from "#core/words/writing.ts";
import { Router, type Request, type Response } from "express";
import { frameChoices } from "#core/frame/frame-choices.ts";
import { explainFigure } from "#core/provenance/explain-figure.ts";
import { frameQuerySchema } from "#contract/frame.ts";
import { panelFrame, type ChoiceText } from "#contract/panels/panel-frame.ts";
import { tryPanelsSchema } from "#contract/page-answers.ts";
import { OPERATIONS, provenanceQuerySchema, sourceLinesQuerySchema } from "#contract/operations.ts";
import { listSourceLines } from "#server/facts/source-lines.ts";
import { ask, writingFor } from "#server/facts/workspace.ts";
import type { EnginePool } from "#server/engine/engine-pool.ts";
import { answerPage, answerTried } from "#server/engine/answer-page.ts";
import { readPageScope, readPanel } from "#server/packs/packs.ts";
import { panelWork } from "#server/engine/panel-work.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { csvRow } from "#server/csv/csv-row.ts";
import { answerCsv } from "../csv.ts";
import { answerLines } from "../json-lines.ts";
import type { ReadingRoutes } from "./reading-routes.ts";

/** Panels' figures, and where figures come from. */
export function figureRoutes({
  knex,
  workspaceFor,
  engines,
}: ReadingRoutes & { readonly engines: EnginePool }): Router {
  const router = Router();
  const placeOf = (req: Request) => req.params as Record<"pack" | "page" | "panel", string>;

  router.get(OPERATIONS.frameChoices.path, async (req, res) => {
    const query = readRequest(frameQuerySchema, req.query);
    const workspace = await workspaceFor(res);
    const scope = await readPageScope(knex, workspace.structure, query);
    res.json(await ask(workspace, query, ({ company, access, asked }) => frameChoices(company, access, asked), scope));
  });
  router.get(OPERATIONS.pageAnswers.path, async (req, res) => {
    const { pack, page } = placeOf(req);
    const onFault = (err: unknown) => req.log.error({ err, url: req.path }, "unforeseen error in a panel");
    const workspace = await workspaceFor(res);
    await answerLines(res, answerPage({ knex, workspace, engines }, { pack, page }, req.query, onFault));
  });

  router.post(OPERATIONS.tryPanels.path, async (req, res) => {
    const tried = readRequest(tryPanelsSchema, req.body);
    const onFault = (err: unknown) => req.log.error({ err, url: req.path }, "unforeseen error in a panel");
    const workspace = await workspaceFor(res);
    await answerLines(res, answerTried({ knex, workspace, engines }, tried, onFault));
  });

  /** A panel's work in the frame and with the choices that the address gives. */
  const openPanel = async (req: Request, res: Response) => {
    const place = placeOf(req);
    const [workspace, { page, panel }] = await Promise.all([workspaceFor(res), readPanel(knex, place)]);
    const work = panelWork(panel);
    const choice = work.readChoice(req.query) as ChoiceText;
    const frame = panelFrame(panel, { pack: place.pack, ...readRequest(frameQuerySchema, req.query) }, choice);
    return {
      work,
      choice,
      writing: writingFor(workspace.structure, workspace.reader),
      ask: <T>(compute: Parameters<typeof ask<T>>[2]) => ask(workspace, frame, compute, page.scope),
    };
  };
  router.get(OPERATIONS.panelFile.path, async (req, res) => {
    const { work, choice, ask, writing } = await openPanel(req, res);
    const answer = await ask((question) => work.compute(choice, question));
    const { columns, rows, decimal } = inWriting(writing, () => ({
      ...work.table(answer),
      decimal: numberMarks().decimal,
    }));
    const { page, panel } = placeOf(req);
    const heads = columns.map((column) => column.head);
    answerCsv(
      res,
      `${page}-${panel}-${answer.frame.asOf}.csv`,
      [heads, ...rows].map((row) => csvRow(row, decimal)),
    );
  });
  router.get(OPERATIONS.panel.path, async (req, res) => {
    const { work, choice, ask } = await openPanel(req, res);
    res.json(await ask((question) => work.compute(choice, question)));
  });
  router.get(OPERATIONS.panelDetail.path, async (req, res) => {
    const { work, ask } = await openPanel(req, res);
    const detail = work.detail(req.query);
    res.json(await ask(detail));
  });

  router.get(OPERATIONS.provenance.path, async (req, res) => {
    const query = readRequest(provenanceQuerySchema, req.query);
    const workspace = await workspaceFor(res);
    const scope = await readPageScope(knex, workspace.structure, query);
    res.json(await ask(workspace, query, (question) => explainFigure(question, query), scope));
  });
  router.get(OPERATIONS.sourceLines.path, async (req, res) => {
    const query = readRequest(sourceLinesQuerySchema, req.query);
    const workspace = await workspaceFor(res);
    res.json(await listSourceLines(workspace, query, await readPageScope(knex, workspace.structure, query)));
  });
  return router;
}
