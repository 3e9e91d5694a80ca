import { panelFrame, type ChoiceText } from "#contract/panels/panel-frame.ts";
import type { PanelAnswer } from "#contract/panels/index.ts";
import { askTogether, type AskedPlace, type Question } from "#server/facts/workspace.ts";
import { problemDocument } from "#server/problems/problem-error.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import { writeLine, type PanelAsk, type PanelLine } from "./panel-ask.ts";
import { panelWork } from "./panel-work.ts";

/** Answers panels as one question: what they look up is read together. Each line comes when it is ready. */
export async function* answerPanels(place: AskedPlace, asks: readonly PanelAsk[]): AsyncGenerator<PanelLine> {
  const questions = new Map(
    asks.map(({ key, panel, choice, query, pageScope }): [string, Question<PanelAnswer>] => [
      key,
      {
        query: panelFrame(panel, query, choice as ChoiceText),
        pageScope,
        compute: (question) => panelWork(panel).compute(choice, question),
      },
    ]),
  );
  for await (const settled of askTogether(place, questions)) {
    const { key } = settled;
    if ("error" in settled) yield refusedLine(key, settled.error);
    else yield { key, text: writeLine({ panel: key, answer: settled.value }), hasFigures: true };
  }
}

/** The line of a panel that cannot be answered. */
export function refusedLine(key: string, error: unknown): PanelLine {
  const problem = toProblem(error);
  const text = writeLine({ panel: key, problem: problemDocument(problem) });
  return { key, text, hasFigures: false, ...(problem.code === "internal" ? { fault: error } : {}) };
}
