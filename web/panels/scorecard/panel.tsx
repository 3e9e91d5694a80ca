import { scorecardTable } from "#core/panels/scorecard/table.ts";
import { usePanel } from "../../app/questions.ts";
import { formatFigureAddress } from "../figure-address.ts";
import { OwnWords } from "../own-words.tsx";
import { PanelFoot } from "../panel-foot.tsx";
import { PanelSheet } from "../panel-sheet.tsx";
import type { PanelProps } from "../panel-view.ts";
import { ScorecardTable } from "./scorecard-table.tsx";

/** KPIs by row: actual, basis, variance, judgement, and what else its arrangement says. */
export default function ScorecardPanel({ place, panel, frame, onAsk, onArrange, leads }: PanelProps<"scorecard">) {
  const answer = usePanel(place, frame);
  return (
    <PanelSheet label={panel.title ?? "Scorecard"} answer={answer} skeleton={<Skeleton />}>
      {(data) =>
        data.kind === "scorecard" ? (
          <>
            <OwnWords panel={panel} />
            <ScorecardTable
              data={data}
              onAsk={(kpi, side, scope) => onAsk(formatFigureAddress(kpi, side), scope)}
              chosen={leads?.kpi}
              onChoose={(kpi) => leads?.choose(kpi)}
              {...{ place, frame }}
            />
            <PanelFoot table={() => scorecardTable(data)} {...{ place, frame, onArrange }} />
          </>
        ) : null
      }
    </PanelSheet>
  );
}

function Skeleton() {
  return (
    <div className="p-5" role="status" aria-label="The scorecard is being calculated">
      <div className="waiting h-6 w-4/5" />
      {Array.from({ length: 14 }, (_, i) => (
        <div key={i} className="waiting mt-3 h-5" />
      ))}
    </div>
  );
}
