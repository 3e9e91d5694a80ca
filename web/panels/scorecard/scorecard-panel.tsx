import { usePanel, type FrameParams } from "../../app/questions.ts";
import { formatFigureAddress } from "../figure-address.ts";
import { PanelFrame } from "../panel-frame.tsx";
import { ScorecardTable } from "./scorecard-table.tsx";

/** Where a panel stands. */
export interface PanelPlace {
  readonly pack: string;
  readonly page: string;
  readonly panel: string;
}

/** KPIs by row: actual, basis, variance, judgement, and what else its arrangement says. */
export function ScorecardPanel({
  place,
  frame,
  chosen,
  onChoose,
  onAsk,
  onArrange,
}: {
  place: PanelPlace;
  frame: FrameParams;
  chosen: string | undefined;
  onChoose: (kpi: string) => void;
  onAsk: (figure: string) => void;
  /** Opens the arrangement; `undefined` for those who may not change it. */
  onArrange: (() => void) | undefined;
}) {
  const answer = usePanel(place, frame);
  return (
    <PanelFrame label="Scorecard" answer={answer} skeleton={<Skeleton />}>
      {(data) =>
        data.kind === "scorecard" ? (
          <>
            <ScorecardTable
              data={data}
              onAsk={(kpi, side) => onAsk(formatFigureAddress(kpi, side))}
              {...{ place, frame, chosen, onChoose }}
            />
            {onArrange && (
              <p className="border-t border-thread/70 px-4 py-1.5 text-right text-[12.5px] print:hidden">
                <button type="button" className="text-indigo hover:underline" onClick={onArrange}>
                  Arrange
                </button>
              </p>
            )}
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
