import { tableOf, type PanelTable } from "../parts/panel-table.ts";
import type { ChooserAnswer } from "./schema.ts";

/** What can be chosen, a row each. */
export function chooserTable({ label, options, chosen }: ChooserAnswer): PanelTable {
  return tableOf(options, [
    { head: label, holds: "text", cell: (option) => option.name },
    { head: "Key", holds: "text", isForFiles: true, cell: (option) => option.key },
    { head: "Stands for", holds: "text", cell: (option) => option.note },
    { head: "Chosen", holds: "count", cell: (option) => Number(option.key === chosen) },
  ]);
}
