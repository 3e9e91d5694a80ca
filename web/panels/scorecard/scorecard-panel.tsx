import type { PanelDefinition } from "#contract/pack.ts";
import { usePanel, type FrameParams } from "../../app/questions.ts";
import { formatFigureAddress } from "../figure-address.ts";
import { TextButton } from "../../ui/form.tsx";
import { OwnWords } from "../own-words.tsx";
import { PanelFrame } from "../panel-frame.tsx";
import { PanelNumbers } from "../panel-numbers.tsx";
import type { PanelPlace } from "../panel-place.ts";
import { ScorecardTable } from "./scorecard-table.tsx";

/** KPIs by row: actual, basis, variance, judgement, and what else its arrangement says. */
export function ScorecardPanel({
  place,
  panel,
  frame,
  chosen,
  onChoose,
  onAsk,
  onArrange,
}: {
  place: PanelPlace;
  panel: PanelDefinition;
  frame: FrameParams;
  chosen: string | undefined;
  onChoose: (kpi: string) => void;
  onAsk: (figure: string, scope?: string) => void;
  /** Opens the arrangement; `undefined` for those who may not change it. */
  onArrange: (() => void) | undefined;
}) {
  const answer = usePanel(place, frame);
  return (
    <PanelFrame label="Scorecard" answer={answer} skeleton={<Skeleton />}>
      {(data) =>
        data.kind === "scorecard" ? (
          <>
            <OwnWords panel={panel} />
            <ScorecardTable
              data={data}
              onAsk={(kpi, side, scope) => onAsk(formatFigureAddress(kpi, side), scope)}
              {...{ place, frame, chosen, onChoose }}
            />
            <p className="flex flex-wrap justify-between gap-x-4 border-t border-thread/70 px-4 py-1 print:hidden">
              <PanelNumbers answer={data} place={place} frame={frame} />
              {onArrange && <TextButton onClick={onArrange}>Arrange</TextButton>}
            </p>
          </>
        ) : null
      }
    </PanelFrame>
  );
}

function Skeleton() {
  return (
    <div className="p-5" role="status" aria-label="The scorecard is being computed">
      <div className="waiting h-6 w-4/5" />
      {Array.from({ length: 14 }, (_, i) => (
        <div key={i} className="waiting mt-3 h-5" />
      ))}
    </div>
  );
}
