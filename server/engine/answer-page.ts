import type { Knex } from "knex";
import { keyOfScope } from "#core/dimensions/step-scope.ts";
import { frameQuerySchema } from "#core/frame/schema.ts";
import type { z } from "zod";
import { choicesOf, pageQuerySchema, type tryPanelsSchema } from "#contract/page-answers.ts";
import type { Workspace } from "#server/facts/workspace.ts";
import { requireNamed } from "#server/packs/check-edit.ts";
import { readPackOnce, readPageScope, requirePage, requireReadable } from "#server/packs/packs.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { refusedLine } from "./answer-panels.ts";
import { keptAnswers } from "./kept-answers.ts";
import type { EnginePool } from "./engine-pool.ts";
import type { PanelAsk } from "./panel-ask.ts";
import { panelWork } from "./panel-work.ts";

/**
 * A page's answer as lines of JSON: what cannot be asked and what was answered before at once, then each panel as it
 * is settled; a panel that fails for a fault of our own is told to `onFault` and does not hold up the others. Throws
 * where there is no such page, or where the question cannot be read.
 */
export async function* answerPage(
  { knex, workspace, engines }: { knex: Knex; workspace: Workspace; engines: EnginePool },
  place: { readonly pack: string; readonly page: string },
  address: unknown,
  onFault: (cause: unknown) => void,
): AsyncGenerator<string> {
  const query = readRequest(pageQuerySchema, address);
  const { panels: wanted, ...rest } = query;
  const frame = { ...readRequest(frameQuerySchema, rest), pack: place.pack };
  const page = requirePage(await readPackOnce(knex, workspace.structure, place.pack), place.page);
  const kept = keptAnswers(workspace.structure);
  const asks: PanelAsk[] = [];
  const keptAs = new Map<string, string>();
  for (const key of new Set(wanted?.split(",") ?? page.panels.map((panel) => panel.key))) {
    try {
      const panel = requireReadable(page, key);
      const choice = panelWork(panel).readChoice(choicesOf(key, query));
      const name = JSON.stringify([
        keyOfScope(workspace.reader.scope),
        workspace.reader.numbers,
        workspace.reader.dates,
        key,
        panel,
        page.scope,
        frame,
        choice,
      ]);
      const known = kept.get(name);
      if (known !== undefined) {
        yield known;
        continue;
      }
      keptAs.set(key, name);
      asks.push({ key, panel, choice, query: frame, pageScope: page.scope });
    } catch (error) {
      const { text, fault } = refusedLine(key, error);
      if (fault !== undefined) onFault(fault);
      yield text;
    }
  }
  for await (const { key, text, hasFigures, isPartial, fault } of engines.answer(workspace, asks)) {
    if (fault !== undefined) onFault(fault);
    if (hasFigures && !isPartial) kept.set(keptAs.get(key)!, text);
    yield text;
  }
}

/** The answers of panels that stand on no page, each under its key. */
export async function* answerTried(
  { knex, workspace, engines }: { knex: Knex; workspace: Workspace; engines: EnginePool },
  { frame, panels }: z.infer<typeof tryPanelsSchema>,
  onFault: (cause: unknown) => void,
): AsyncGenerator<string> {
  const pageScope = await readPageScope(knex, workspace.structure, frame);
  const asks: PanelAsk[] = [];
  for (const { panel, choice = {} } of panels) {
    const { key } = panel;
    try {
      requireNamed(workspace.structure, panel);
      asks.push({ key, panel, choice: panelWork(panel).readChoice(choice), query: frame, pageScope });
    } catch (error) {
      yield refusedLine(key, error).text;
    }
  }
  for await (const { text, fault } of engines.answer(workspace, asks)) {
    if (fault !== undefined) onFault(fault);
    yield text;
  }
}
