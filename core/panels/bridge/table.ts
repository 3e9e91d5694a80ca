import { tableOf, unitText, type PanelTable, type TableCell } from "../parts/panel-table.ts";
import type { BridgeAnswer } from "./schema.ts";

interface Line {
  readonly name: string;
  readonly value: number;
  readonly isEnd: boolean;
  readonly after: number;
  readonly judgement: TableCell;
}

/** The numbers behind a bridge: where it starts, what each step brings and where it leads, and where it ends. */
export function bridgeTable({ kpi, frame, start, steps, end, beyond }: BridgeAnswer): PanelTable {
  const { words } = frame;
  const lines: Line[] = [];
  let at = start?.value ?? 0;
  const put = (of: NonNullable<typeof start>) =>
    lines.push({ name: of.name, value: of.value, isEnd: true, after: (at = of.value), judgement: null });
  const go = ({ name, value, judgement }: BridgeAnswer["steps"][number]) =>
    lines.push({ name, value, isEnd: false, after: (at += value), judgement });
  if (start) put(start);
  for (const step of steps) go(step);
  if (end) put(end);
  if (beyond) {
    go(beyond.gap);
    put(beyond.end);
  }
  return tableOf(lines, [
    { head: "Step", holds: "text", cell: ({ name }) => name },
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: "Period", holds: "text", isForFiles: true, cell: () => `${words.span}, ${words.spanMonths}` },
    { head: "Scope", holds: "text", isForFiles: true, cell: () => words.scope },
    { head: "Change", holds: "delta", cell: ({ value, isEnd }) => (isEnd ? null : value) },
    { head: "Running total", holds: "value", cell: ({ after }) => after },
    { head: "Judgement", holds: "text", cell: ({ judgement }) => judgement },
  ]);
}
