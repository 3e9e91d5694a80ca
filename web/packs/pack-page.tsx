import { useEffect } from "react";
import { useParams } from "react-router";
import { formatScope } from "#contract/frame.ts";
import { kpisOf, type PackDefinition, type PageDefinition, type PanelDefinition } from "#contract/pack.ts";
import { ApiProblem } from "../app/api.ts";
import { useMayEdit, usePack, useStructure, type FrameParams } from "../app/questions.ts";
import { useFrameParams } from "../frame/frame-params.ts";
import { FrameSentence } from "../frame/frame-sentence.tsx";
import { ProvenanceDrawer } from "../panels/provenance-drawer.tsx";
import { ArrangeDrawer } from "../panels/arrange/arrange-drawer.tsx";
import { PageMessage } from "../panels/page-message.tsx";
import { ScorecardPanel } from "../panels/scorecard/scorecard-panel.tsx";
import { TilesPanel } from "../panels/tiles/tiles-panel.tsx";
import { TimeChartPanel } from "../panels/time-chart-panel.tsx";
import { TextButton } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { parseFigureAddress } from "../panels/figure-address.ts";
import { newPanels, usePagePanels } from "./use-page-panels.ts";

/** As many KPIs as fill a page without being too many to read. */
const FIRST_KPIS = 10;

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
  const askedAt = params.view("at");
  const scorecard = page.panels.find((p) => p.kind === "scorecard");
  const leading = scorecard ?? page.panels.find((p) => p.kind === "tiles");
  const chart = page.panels.find((p) => p.kind === "time-chart");
  const kpi = params.view("kpi") ?? chart?.kpi;
  const mayEdit = useMayEdit();
  const arranged = params.view("arrange");
  const chooseKpi = (key: string) => params.setView({ kpi: key });
  const panels = usePagePanels(pack, page);
  const placeOf = (panel: string) => ({ pack: pack.key, page: page.key, panel });
  const ask = (figure: string, at?: string) => params.setView({ figure, at, arrange: undefined });
  const arrange = (panel: string) =>
    mayEdit ? () => params.setView({ arrange: panel, figure: undefined, at: undefined }) : undefined;
  const shownKpis = [...new Set(page.panels.flatMap((panel) => (panel.kind === "tiles" ? [] : kpisOf(panel))))];
  // A page without KPIs begins with the first of the library.
  const kpis = shownKpis.length > 0 ? shownKpis : (shown?.kpis ?? []).slice(0, FIRST_KPIS).map(({ key }) => key);
  const fresh = newPanels(page, kpis);
  const add = async (panel: PanelDefinition) => {
    if (await panels.add(panel)) params.setView({ arrange: panel.key, figure: undefined, at: undefined });
  };
  const arrangedPanel = page.panels.find((p) => p.key === arranged);
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
            {leading && (
              <PageMessage
                place={placeOf(leading.key)}
                frame={frame}
                {...(leading.kind === "tiles" ? { choice: params.choice(leading.key) } : {})}
              />
            )}
            {page.panels.length === 0 && (
              <div className="py-16">
                <Notice title="This page is empty" detail="Nothing has been put on it yet." />
              </div>
            )}
            {page.panels.map(
              (panel) =>
                panel.kind === "tiles" && (
                  <div key={panel.key} className="mt-3">
                    <TilesPanel
                      place={placeOf(panel.key)}
                      panel={panel}
                      frame={frame}
                      choice={params.choice(panel.key)}
                      onChoose={(change) => params.setChoice(panel.key, change)}
                      onAsk={ask}
                      onArrange={arrange(panel.key)}
                    />
                  </div>
                ),
            )}
            <div
              className={`mt-3 grid items-start gap-3 ${(scorecard?.columns?.length ?? 0) > 8 ? "" : asked || arranged ? "min-[1560px]:grid-cols-[minmax(0,1.84fr)_minmax(0,1fr)]" : "min-[1180px]:grid-cols-[minmax(0,1.84fr)_minmax(0,1fr)]"}`}
            >
              {scorecard && (
                <ScorecardPanel
                  place={placeOf(scorecard.key)}
                  panel={scorecard}
                  frame={frame}
                  chosen={kpi}
                  onChoose={chooseKpi}
                  onAsk={ask}
                  onArrange={arrange(scorecard.key)}
                />
              )}
              {chart && kpi && (
                <TimeChartPanel
                  place={placeOf(chart.key)}
                  frame={frame}
                  panel={chart}
                  kpi={kpi}
                  onArrange={arrange(chart.key)}
                  onReset={() => params.setView({ kpi: undefined })}
                />
              )}
            </div>
            {mayEdit && (
              <p className="mt-2 flex flex-wrap gap-x-4 print:hidden">
                {kpis.length > 0 && (
                  <>
                    <TextButton onClick={() => void add(fresh.tiles())}>
                      {shownKpis.length > 0 ? "Show these KPIs as tiles too" : "Add tiles"}
                    </TextButton>
                    {!scorecard && <TextButton onClick={() => void add(fresh.scorecard())}>Add a scorecard</TextButton>}
                    {!chart && <TextButton onClick={() => void add(fresh.chart())}>Add a chart over time</TextButton>}
                  </>
                )}
                {panels.putBack && (
                  <TextButton onClick={() => void panels.putBack?.()}>Put back what was taken off</TextButton>
                )}
                {panels.problem && (
                  <span role="alert" className="text-madder">
                    {panels.problem}
                  </span>
                )}
              </p>
            )}
          </>
        )}
      </div>
      {arranged && shown && mayEdit && (
        <ArrangeDrawer
          key={arranged}
          place={placeOf(arranged)}
          dimensions={shown.dimensions}
          onRemove={() => {
            params.setView({ arrange: undefined });
            if (arrangedPanel) void panels.remove(arrangedPanel);
          }}
          onClose={() => params.setView({ arrange: undefined })}
        />
      )}
      {asked && !arranged && !isRefused && (
        <ProvenanceDrawer
          frame={askedAt === undefined ? frame : { ...frame, scope: askedAt }}
          kpi={asked.kpi}
          side={asked.side}
          onClose={() => params.setView({ figure: undefined, at: undefined })}
        />
      )}
    </div>
  );
}
