import { cellOf, tableOf, whyAbsent, type PanelTable } from "../parts/panel-table.ts";
import { figuresOf } from "./compute.ts";
import type { TextAnswer } from "./schema.ts";

/** The figures that stand in a text, a row each. */
export function textTable(answer: TextAnswer): PanelTable {
  const { words } = answer.frame;
  return tableOf(figuresOf(answer), [
    { head: "KPI", holds: "text", cell: ({ name }) => name },
    { head: "Said of it", holds: "text", cell: ({ part }) => part },
    { head: "Written", holds: "text", cell: ({ text }) => text },
    { head: "Value", holds: "count", cell: ({ figure }) => cellOf(figure) },
    { head: "Period", holds: "text", isForFiles: true, cell: () => `${words.span}, ${words.spanMonths}` },
    { head: "Why absent", holds: "text", isForFiles: true, cell: ({ figure }) => whyAbsent(figure) },
  ]);
}
