import { Router, type Request, type Response } from "express";
import type { Knex } from "knex";
import { monthName } from "#core/calendar/month.ts";
import { lastClosedMonth } from "#core/cube/coverage.ts";
import { frameChoices } from "#core/frame/frame-choices.ts";
import { explainFigure } from "#core/provenance/explain-figure.ts";
import { frameQuerySchema } from "#contract/frame.ts";
import { idParamSchema } from "#contract/intake.ts";
import { OPERATIONS, provenanceQuerySchema, sourceLinesQuerySchema } from "#contract/operations.ts";
import { panelAddSchema, panelChangeSchema, panelRemoveSchema } from "#contract/pack.ts";
import { requireEditor } from "#server/access/roles.ts";
import type { Structure } from "#server/db/structure.ts";
import { listSourceLines } from "#server/facts/source-lines.ts";
import { ask } from "#server/facts/workspace.ts";
import { listChanges } from "#server/history/history.ts";
import { packDoor } from "#server/packs/pack-door.ts";
import { undoChange } from "#server/history/history.ts";
import { addPanel, changePanel, removePanel } from "#server/packs/change-panels.ts";
import type { EnginePool } from "#server/engine/engine-pool.ts";
import { answerPage } from "#server/engine/answer-page.ts";
import { listPacks, readPack, readPageScope, readPanel } from "#server/packs/packs.ts";
import { panelWork, withOwnUnit } from "#server/engine/panel-work.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { csvRow } from "#server/csv/csv-row.ts";
import { answerCsv, toAsync } from "../csv.ts";
import { answerLines } from "../json-lines.ts";
import type { ReadingRoutes } from "./reading-routes.ts";
import { readerOf } from "./session-routes.ts";

/** What stands for the month in packs' names. */
function monthInNames({ coverage }: Structure): string {
  const month = lastClosedMonth(coverage);
  return month === undefined ? "" : monthName(month);
}

/** Packs, their panels' figures, and where figures come from. */
export function figureRoutes({
  knex,
  readStructure,
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
  router.get(OPERATIONS.packs.path, async (_req, res) => {
    res.json(await listPacks(knex, monthInNames(await readStructure())));
  });
  router.get(OPERATIONS.pack.path, async (req, res) => {
    res.json(await readPack(knex, req.params["pack"], monthInNames(await readStructure())));
  });

  router.get(OPERATIONS.pageAnswers.path, async (req, res) => {
    const { pack, page } = placeOf(req);
    const onFault = (err: unknown) => req.log.error({ err, url: req.path }, "unforeseen error in a panel");
    const workspace = await workspaceFor(res);
    await answerLines(res, answerPage({ knex, workspace, engines }, { pack, page }, req.query, onFault));
  });

  /** A panel's work in the frame and with the choices that the address gives. */
  const openPanel = async (req: Request, res: Response) => {
    const place = placeOf(req);
    const [workspace, { page, panel }] = await Promise.all([workspaceFor(res), readPanel(knex, place)]);
    const frame = withOwnUnit({ pack: place.pack, ...readRequest(frameQuerySchema, req.query) }, panel);
    return {
      work: panelWork(panel),
      ask: <T>(compute: Parameters<typeof ask<T>>[2]) => ask(workspace, frame, compute, page.scope),
    };
  };
  router.get(OPERATIONS.panelFile.path, async (req, res) => {
    const { work, ask } = await openPanel(req, res);
    const choice = work.readChoice(req.query);
    const answer = await ask((question) => work.compute(choice, question));
    const { columns, rows } = work.table(answer);
    const { page, panel } = placeOf(req);
    const heads = columns.map((column) => column.head);
    await answerCsv(res, `${page}-${panel}-${answer.frame.asOf}.csv`, toAsync([heads, ...rows].map(csvRow)));
  });
  router.get(OPERATIONS.panel.path, async (req, res) => {
    const { work, ask } = await openPanel(req, res);
    const choice = work.readChoice(req.query);
    res.json(await ask((question) => work.compute(choice, question)));
  });
  router.get(OPERATIONS.panelDetail.path, async (req, res) => {
    const { work, ask } = await openPanel(req, res);
    const detail = work.detail(req.query);
    res.json(await ask(detail));
  });

  /** Runs a change of a pack for an editor, and answers with the pack as it is then. */
  const change = async (
    req: Request,
    res: Response,
    work: (trx: Knex.Transaction, structure: Structure, by: string) => Promise<number | null>,
  ) => {
    const { name } = requireEditor(readerOf(res));
    const structure = await readStructure();
    const made = await knex.transaction((trx) => work(trx, structure, name));
    const pack = await readPack(knex, placeOf(req).pack, monthInNames(structure));
    res.json({ pack, change: made });
  };
  router.put(OPERATIONS.changePanel.path, (req, res) =>
    change(req, res, async (trx, structure, by) =>
      changePanel(trx, structure, placeOf(req), { ...readRequest(panelChangeSchema, req.body), by }),
    ),
  );
  router.post(OPERATIONS.addPanel.path, (req, res) =>
    change(req, res, async (trx, structure, by) =>
      addPanel(trx, structure, placeOf(req), { ...readRequest(panelAddSchema, req.body), by }),
    ),
  );
  router.delete(OPERATIONS.removePanel.path, (req, res) =>
    change(req, res, async (trx, _structure, by) =>
      removePanel(trx, placeOf(req), { ...readRequest(panelRemoveSchema, req.query), by }),
    ),
  );
  router.get(OPERATIONS.pageHistory.path, async (req, res) => {
    requireEditor(readerOf(res));
    const { pack, page } = placeOf(req);
    const changes = await listChanges(knex, { area: "pack", recordsBelow: `panel/${pack}/${page}/` });
    res.json(changes.map(({ diff: _, ...shown }) => shown));
  });
  router.post(OPERATIONS.undoPackChange.path, (req, res) =>
    change(req, res, async (trx, _structure, by) =>
      undoChange(trx, {
        id: readRequest(idParamSchema, req.params["change"]),
        area: "pack",
        recordsBelow: `panel/${placeOf(req).pack}/`,
        door: packDoor,
        by,
      }),
    ),
  );

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
