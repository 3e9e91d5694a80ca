import type { PanelQuestion } from "./panel-question.ts";
import type { PanelTable } from "./parts/panel-table.ts";

/**
 * What the core knows of a kind of panel: how its figures are computed and laid out as a table. Pure: the
 * same definition, choice and question give the same answer.
 */
export interface PanelComputation<Definition, Choice, Answer, DetailQuery = never, Detail = never> {
  compute(definition: Definition, choice: Choice, question: PanelQuestion): Answer;
  /** A further question to the panel, such as a row by its members. */
  detail?(definition: Definition, query: DetailQuery, question: PanelQuestion): Detail;
  table(answer: Answer): PanelTable;
}
