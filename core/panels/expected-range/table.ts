import { writeScore } from "../../formats/write-score.ts";
import { tableOf, unitText, type PanelTable } from "../parts/panel-table.ts";
import type { ExpectedRangeAnswer, RangeEventAnswer } from "./schema.ts";

const HEADS = { day: "Day", week: "Week", month: "Month" } as const;

/** The numbers behind a range, a row a period; each says which event it belongs to. */
export function expectedRangeTable({ kpi, grain, points, events }: ExpectedRangeAnswer): PanelTable {
  const place = new Map(points.map(({ period }, i) => [period, i]));
  const eventAt = (period: string) =>
    events.find(({ from, to }) => place.get(from)! <= place.get(period)! && place.get(period)! <= place.get(to)!);
  return tableOf(points, [
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: HEADS[grain], holds: "text", cell: ({ name }) => name },
    { head: "Period", holds: "text", isForFiles: true, cell: ({ period }) => period },
    { head: "Actual", holds: "value", scenario: "actual", cell: ({ value }) => value },
    { head: "Expected", holds: "value", cell: ({ expected }) => expected },
    { head: "From", holds: "value", cell: ({ lower }) => lower },
    { head: "To", holds: "value", cell: ({ upper }) => upper },
    {
      head: "Score",
      holds: "text",
      cell: ({ score }) => (score === null ? null : writeScore(score)),
    },
    { head: "Outside", holds: "text", cell: ({ isOutside }) => (isOutside ? "outside" : null) },
    { head: "Event", holds: "text", isForFiles: true, cell: ({ period }) => eventAt(period)?.words ?? null },
    { head: "What it was", holds: "text", isForFiles: true, cell: ({ period }) => saidWords(eventAt(period)) },
  ]);
}

/** "confirmed by Maren Holt: the storm" */
function saidWords(event: RangeEventAnswer | undefined): string | null {
  return event?.said ? `${event.said.verdict} by ${event.said.by}: ${event.said.reason}` : null;
}
