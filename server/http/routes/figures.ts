import type { Request } from "express";
import { withFits } from "#core/forecast/kept-fits.ts";
import { frameChoices } from "#core/frame/frame-choices.ts";
import { explainFigure } from "#core/provenance/explain-figure.ts";
import { inWriting, numberMarks } from "#core/formats/writing.ts";
import type { FIGURES } from "#contract/operations/figures.ts";
import { panelFrame, type ChoiceText } from "#core/panels/panel-frame.ts";
import { frameQuerySchema } from "#core/frame/schema.ts";
import { csvRow } from "#server/csv/csv-row.ts";
import { answerPage, answerTried } from "#server/engine/answer-page.ts";
import type { EnginePool } from "#server/engine/engine-pool.ts";
import type { PanelAsk } from "#server/engine/panel-ask.ts";
import { panelWork } from "#server/engine/panel-work.ts";
import { listSourceLines } from "#server/facts/source-lines.ts";
import { ask, writingFor } from "#server/facts/workspace.ts";
import { readPageScope, readPanel } from "#server/packs/packs.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import type { Call, Routes } from "../serve-operations.ts";
import type { ReadingMeans } from "./reading-means.ts";

type PanelCall = Pick<Call<(typeof FIGURES)["panel"]>, "params" | "reader" | "signal" | "req">;

/** Panels' figures, and where figures come from. */
export function figureRoutes({
  knex,
  workspaceFor,
  engines,
}: ReadingMeans & { readonly engines: EnginePool }): Routes<typeof FIGURES> {
  /** A panel's work in the frame and with the choices that the address gives. */
  const openPanel = async (call: PanelCall) => {
    const { params, req } = call;
    const [workspace, { page, panel }] = await Promise.all([workspaceFor(call), readPanel(knex, params)]);
    const work = panelWork(panel);
    const choice = work.readChoice(req.query) as ChoiceText;
    const query = { pack: params.pack, ...readRequest(frameQuerySchema, req.query) };
    const frame = panelFrame(panel, query, choice);
    const panelAsk: PanelAsk = { key: params.panel, panel, choice, query, pageScope: page.scope };
    return {
      work,
      choice,
      writing: writingFor(workspace.structure, workspace.reader),
      ask: <T>(compute: Parameters<typeof ask<T>>[2]) =>
        engines.withFitsOf(workspace, panelAsk, (fits) =>
          ask(workspace, frame, (question) => withFits(fits, () => compute(question)), page.scope),
        ),
    };
  };
  return {
    frameChoices: async (call) => {
      const workspace = await workspaceFor(call);
      const scope = await readPageScope(knex, workspace.structure, call.query);
      return ask(workspace, call.query, ({ company, access, asked }) => frameChoices(company, access, asked), scope);
    },
    pageAnswers: async (call) => {
      const workspace = await workspaceFor(call);
      return { lines: answerPage({ knex, workspace, engines }, call.params, call.req.query, faultsOf(call.req)) };
    },
    panelFile: async (call) => {
      const { work, choice, ask, writing } = await openPanel(call);
      const answer = await ask((question) => work.compute(choice, question));
      const { columns, rows, decimal } = inWriting(writing, () => ({
        ...work.table(answer),
        decimal: numberMarks().decimal,
      }));
      const heads = columns.map((column) => column.head);
      return {
        fileName: `${call.params.page}-${call.params.panel}-${answer.frame.asOf}.csv`,
        rows: [heads, ...rows].map((row) => csvRow(row, decimal)),
      };
    },
    panel: async (call) => {
      const { work, choice, ask } = await openPanel(call);
      return ask((question) => work.compute(choice, question));
    },
    panelDetail: async (call) => {
      const { work, ask } = await openPanel(call);
      return ask(work.detail(call.req.query));
    },
    tryPanels: async (call) => {
      const workspace = await workspaceFor(call);
      return { lines: answerTried({ knex, workspace, engines }, call.body, faultsOf(call.req)) };
    },
    provenance: async (call) => {
      const workspace = await workspaceFor(call);
      const scope = await readPageScope(knex, workspace.structure, call.query);
      return ask(workspace, call.query, (question) => explainFigure(question, call.query), scope);
    },
    sourceLines: async (call) => {
      const workspace = await workspaceFor(call);
      return listSourceLines(workspace, call.query, await readPageScope(knex, workspace.structure, call.query));
    },
  };
}

/** Says in the log what goes wrong in one panel of many. */
function faultsOf(req: Request): (err: unknown) => void {
  return (err) => req.log.error({ err, url: req.path }, "unforeseen error in a panel");
}
