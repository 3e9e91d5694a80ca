import { scorecardTable } from "#core/panels/scorecard/table.ts";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { ScorecardTable } from "./scorecard-table.tsx";

/** KPIs by row: actual, basis, variance, judgement, and what else its arrangement says. */
export default function ScorecardPanel(view: PanelProps<"scorecard">) {
  return (
    <PanelSheet view={view} label="Scorecard" table={scorecardTable} skeleton={<Skeleton />}>
      {(data, part) => <ScorecardTable data={data} part={part} view={view} />}
    </PanelSheet>
  );
}

function Skeleton() {
  return (
    <div className="p-5" role="status" aria-label="The scorecard is being calculated">
      <div className="waiting h-6 w-4/5" />
      {Array.from({ length: 6 }, (_, i) => (
        <div key={i} className="waiting mt-3 h-5" />
      ))}
    </div>
  );
}
