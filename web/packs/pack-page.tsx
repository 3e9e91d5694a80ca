import { useEffect } from "react";
import { useParams } from "react-router";
import { formatScope } from "#contract/frame.ts";
import type { PackDefinition, PageDefinition } from "#contract/pack.ts";
import { ApiProblem } from "../app/api.ts";
import { useMayEdit, usePack, useStructure, type FrameParams } from "../app/questions.ts";
import { useFrameParams } from "../frame/frame-params.ts";
import { FrameSentence } from "../frame/frame-sentence.tsx";
import { ProvenanceDrawer } from "../panels/provenance-drawer.tsx";
import { ArrangeDrawer } from "../panels/scorecard/arrange-drawer.tsx";
import { ScorecardMessage } from "../panels/scorecard/scorecard-message.tsx";
import { ScorecardPanel } from "../panels/scorecard/scorecard-panel.tsx";
import { TimeChartPanel } from "../panels/time-chart-panel.tsx";
import { Notice } from "../ui/notice.tsx";
import { parseFigureAddress } from "../panels/figure-address.ts";

/** A page of a pack as readers see it. */
export function PackPage() {
  const { pack: packKey = "", page: pageKey = "" } = useParams();
  const pack = usePack(packKey);
  const page = pack.data?.pages.find((p) => p.key === pageKey);
  useEffect(() => {
    if (pack.data && page) document.title = `${page.name} · ${pack.data.name} · Hackle`;
  }, [pack.data, page]);
  if (pack.error && !pack.data)
    return (
      <div className="p-8">
        <Notice tone="bad" title="This pack cannot be opened" detail={pack.error.message} />
      </div>
    );
  if (!pack.data) return null;
  if (!page)
    return (
      <div className="p-8">
        <Notice
          title="There is no such page"
          detail={`${pack.data.name} has no page "${pageKey}". Choose one on the left.`}
        />
      </div>
    );
  return <OpenPage pack={pack.data} page={page} />;
}

function OpenPage({ pack, page }: { pack: PackDefinition; page: PageDefinition }) {
  const params = useFrameParams();
  const pageScope = formatScope(page.scope);
  const frame: FrameParams = {
    ...(pack.starts ? { pack: pack.key } : {}),
    ...params.frame,
    ...(params.frame.scope === undefined && pageScope ? { scope: pageScope } : {}),
  };
  const structure = useStructure(frame);
  const refusal =
    structure.error instanceof ApiProblem && !structure.error.isPassing && structure.error.code !== "not-signed-in"
      ? structure.error
      : null;
  const isRefused = refusal !== null;
  // A frame that is refused still leaves a page to work with: the sentence falls back to the defaults.
  const fallback = useStructure({}, isRefused);
  const shown = structure.data && !isRefused ? structure.data : fallback.data;
  const asked = parseFigureAddress(params.view("figure"));
  const scorecard = page.panels.find((p) => p.kind === "scorecard");
  const chart = page.panels.find((p) => p.kind === "time-chart");
  const kpi = params.view("kpi") ?? chart?.kpi;
  const mayEdit = useMayEdit();
  const arranged = params.view("arrange");
  const chooseKpi = (key: string) => params.setView({ kpi: key });
  return (
    <div className="flex min-h-screen min-w-0">
      <div className="min-w-0 flex-1 px-5 pt-4 pb-8">
        <header className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
          {shown ? (
            <FrameSentence
              structure={shown}
              frame={isRefused ? {} : frame}
              setFrame={isRefused ? params.resetFrame : params.setFrame}
            />
          ) : (
            <div className="waiting h-7 w-2/3" />
          )}
          {shown?.confinedTo && (
            <p className="rounded border border-thread px-2 py-0.5 text-[13px] text-slate">
              All figures: {shown.confinedTo} only
            </p>
          )}
        </header>
        {refusal ? (
          <div className="py-16">
            <Notice tone="bad" title="The page cannot be shown like this" detail={refusal.message}>
              <button type="button" className="font-semibold text-indigo underline" onClick={() => params.resetFrame()}>
                Show {fallback.data?.frame.words.asOf ?? "the last closed month"}, year to date
              </button>
            </Notice>
          </div>
        ) : (
          <>
            {scorecard && (
              <ScorecardMessage place={{ pack: pack.key, page: page.key, panel: scorecard.key }} frame={frame} />
            )}
            <div
              className={`mt-3 grid items-start gap-3 ${(scorecard?.columns?.length ?? 0) > 8 ? "" : asked || arranged ? "min-[1560px]:grid-cols-[minmax(0,1.84fr)_minmax(0,1fr)]" : "min-[1180px]:grid-cols-[minmax(0,1.84fr)_minmax(0,1fr)]"}`}
            >
              {scorecard && (
                <ScorecardPanel
                  place={{ pack: pack.key, page: page.key, panel: scorecard.key }}
                  frame={frame}
                  chosen={kpi}
                  onChoose={chooseKpi}
                  onAsk={(figure) => params.setView({ figure, arrange: undefined })}
                  onArrange={mayEdit ? () => params.setView({ arrange: scorecard.key, figure: undefined }) : undefined}
                />
              )}
              {chart && kpi && (
                <TimeChartPanel
                  place={{ pack: pack.key, page: page.key, panel: chart.key }}
                  frame={frame}
                  kpi={kpi}
                  onReset={() => params.setView({ kpi: undefined })}
                />
              )}
            </div>
          </>
        )}
      </div>
      {arranged && shown && mayEdit && (
        <ArrangeDrawer
          place={{ pack: pack.key, page: page.key, panel: arranged }}
          dimensions={shown.dimensions}
          onClose={() => params.setView({ arrange: undefined })}
        />
      )}
      {asked && !arranged && !isRefused && (
        <ProvenanceDrawer
          frame={frame}
          kpi={asked.kpi}
          side={asked.side}
          onClose={() => params.setView({ figure: undefined })}
        />
      )}
    </div>
  );
}
