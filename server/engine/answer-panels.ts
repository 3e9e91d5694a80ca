import { withFits } from "#core/forecast/kept-fits.ts";
import { panelFrame, type ChoiceText } from "#core/panels/panel-frame.ts";
import type { PanelAnswer } from "#core/panels/schemas.ts";
import { askTogether, type AskedPlace, type Question } from "#server/facts/workspace.ts";
import { problemDocument } from "#server/problems/problem-error.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import type { FitStore } from "./fit-store.ts";
import { writeLine, type PanelAsk, type PanelLine } from "./panel-ask.ts";
import { panelWork } from "./panel-work.ts";

/**
 * Answers panels as one question: what they look up is read together. Each line comes when it is ready. With fits that
 * defer, a panel is partial where one that it needs was not made yet.
 */
export async function* answerPanels(
  place: AskedPlace,
  asks: readonly PanelAsk[],
  fits: FitStore,
): AsyncGenerator<PanelLine> {
  const partial = new Set<string>();
  const questions = new Map(
    asks.map(({ key, panel, choice, query, pageScope }): [string, Question<PanelAnswer>] => [
      key,
      {
        query: panelFrame(panel, query, choice as ChoiceText),
        pageScope,
        compute: (question) => {
          partial.delete(key);
          const defers = fits.onDeferred !== undefined;
          if (defers) fits.onDeferred = () => void partial.add(key);
          return withFits(fits, () => panelWork(panel).compute(choice, question));
        },
      },
    ]),
  );
  for await (const settled of askTogether(place, questions)) {
    const { key } = settled;
    if ("error" in settled) yield refusedLine(key, settled.error);
    else if (partial.has(key))
      yield {
        key,
        text: writeLine({ panel: key, answer: settled.value, isPartial: true }),
        hasFigures: true,
        isPartial: true,
      };
    else yield { key, text: writeLine({ panel: key, answer: settled.value }), hasFigures: true };
  }
}

/** The line of a panel that cannot be answered. */
export function refusedLine(key: string, error: unknown): PanelLine {
  const problem = toProblem(error);
  const text = writeLine({ panel: key, problem: problemDocument(problem) });
  return { key, text, hasFigures: false, ...(problem.code === "internal" ? { fault: error } : {}) };
}
