import { PANEL_COMPUTATIONS } from "#core/panels/index.ts";
import { withFittedUnit } from "#core/panels/fitted-unit.ts";
import { withOwnDecimals } from "#core/panels/own-decimals.ts";
import type { PanelComputation } from "#core/panels/panel-kind.ts";
import type { PanelQuestion } from "#core/panels/panel-question.ts";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import { PANEL_SCHEMAS, type PanelAnswer, type PanelDefinition } from "#core/panels/schemas.ts";
import type { z } from "zod";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readRequest } from "#server/problems/to-problem.ts";

/** A panel's contract and computation brought together, whatever its kind. */
export interface PanelWork {
  /** What the reader chose of it, read from an address. */
  readChoice(query: unknown): object;
  compute(choice: object, question: PanelQuestion): PanelAnswer;
  /** A further question to it, read from an address. Throws where its kind has none. */
  detail(query: unknown): (question: PanelQuestion) => unknown;
  table(answer: PanelAnswer): PanelTable;
}

/**
 * What can be done with a panel. The one place where a definition's kind, known at run time only, picks
 * its contract and its computation; that these fit each other is held by the tests over all kinds.
 */
export function panelWork(panel: PanelDefinition): PanelWork {
  const contract = PANEL_SCHEMAS[panel.kind] as {
    readonly choice: z.ZodObject;
    readonly detail?: { readonly query: z.ZodObject };
  };
  const computation = PANEL_COMPUTATIONS[panel.kind] as unknown as PanelComputation<
    PanelDefinition,
    object,
    PanelAnswer,
    object,
    unknown
  >;
  return {
    readChoice: (query) => readRequest(contract.choice, query),
    compute: (choice, question) =>
      withFittedUnit(
        (own) => computation.compute(panel, choice, own),
        (answer) => computation.table(answer),
        withOwnDecimals(question, panel.decimals),
      ),
    detail: (query) => {
      const { detail } = contract;
      if (!detail || !computation.detail)
        throw new ProblemError(
          "invalid-request",
          `The panel "${panel.key}" has nothing to open: it is not a scorecard.`,
        );
      const asked = readRequest(detail.query, query);
      return (question) => computation.detail!(panel, asked, withOwnDecimals(question, panel.decimals));
    },
    table: (answer) => computation.table(answer),
  };
}
