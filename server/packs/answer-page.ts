import type { Knex } from "knex";
import { keyOfScope } from "#core/dimensions/step-scope.ts";
import type { FrameText } from "#core/frame/resolve-frame.ts";
import { frameQuerySchema } from "#contract/frame.ts";
import { choicesOf, pageQuerySchema, type PageLine } from "#contract/page-answers.ts";
import type { PanelAnswer, PanelDefinition } from "#contract/panels/index.ts";
import { askTogether, type Question, type Workspace } from "#server/facts/workspace.ts";
import { problemDocument } from "#server/problems/problem-error.ts";
import { readRequest, toProblem } from "#server/problems/to-problem.ts";
import { keptAnswers } from "./kept-answers.ts";
import { readPackOnce, requirePage, requireReadable } from "./packs.ts";
import { panelWork } from "./panel-work.ts";

/** A panel's own unit holds unless the reader asks for another one. */
export function withOwnUnit<Q extends FrameText>(query: Q, { unit }: PanelDefinition): Q {
  return unit === undefined || query.unit !== undefined ? query : { ...query, unit };
}

/**
 * A page's answer as lines of JSON: what cannot be asked and what was answered before at once, then each panel as it
 * is settled; a panel that fails for a fault of our own is told to `onFault` and does not hold up the others. Throws where there is no such page, or where the question cannot be read.
 */
export async function* answerPage(
  knex: Knex,
  workspace: Workspace,
  place: { readonly pack: string; readonly page: string },
  address: unknown,
  onFault: (cause: unknown) => void,
): AsyncGenerator<string> {
  const refused = (panel: string, error: unknown): string => {
    const problem = toProblem(error);
    if (problem.code === "internal") onFault(error);
    return writeLine({ panel, problem: problemDocument(problem) });
  };
  const query = readRequest(pageQuerySchema, address);
  const { panels: wanted, ...rest } = query;
  const frame = { ...readRequest(frameQuerySchema, rest), pack: place.pack };
  const page = requirePage(await readPackOnce(knex, workspace.structure, place.pack), place.page);
  const kept = keptAnswers(workspace.structure);
  const keys = new Set(wanted?.split(",") ?? page.panels.map((panel) => panel.key));
  const questions = new Map<string, Question<PanelAnswer>>();
  const keptAs = new Map<string, string>();
  for (const key of keys) {
    try {
      const panel = requireReadable(page, key);
      const work = panelWork(panel);
      const choice = work.readChoice(choicesOf(key, query));
      const name = JSON.stringify([keyOfScope(workspace.reader.scope), place.page, key, frame, choice]);
      const known = kept.get(name);
      if (known !== undefined) {
        yield known;
        continue;
      }
      keptAs.set(key, name);
      questions.set(key, {
        query: withOwnUnit(frame, panel),
        pageScope: page.scope,
        compute: (question) => work.compute(choice, question),
      });
    } catch (error) {
      yield refused(key, error);
    }
  }
  for await (const settled of askTogether(workspace, questions)) {
    if ("error" in settled) {
      yield refused(settled.key, settled.error);
      continue;
    }
    const line = writeLine({ panel: settled.key, answer: settled.value });
    kept.set(keptAs.get(settled.key)!, line);
    yield line;
  }
}

function writeLine(line: PageLine): string {
  return `${JSON.stringify(line)}\n`;
}
