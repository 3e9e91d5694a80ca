import { Suspense, useEffect } from "react";
import { useParams } from "react-router";
import { isReadable, type Pack, type Page, type PlacedPanel } from "#contract/pack.ts";
import { answeredChoice, referencesOf } from "#contract/panels/index.ts";
import { ApiProblem } from "../app/api.ts";
import { useFrameChoices, useMayEdit, usePack, useWholePage, type FrameAddress } from "../app/questions.ts";
import { frameOfPage, useFrameParams } from "../frame/frame-params.ts";
import { FrameSentence } from "../frame/frame-sentence.tsx";
import { ArrangeDrawer } from "../panels/arrange/arrange-drawer.tsx";
import { parseFigureAddress } from "../panels/figure-address.ts";
import { viewOf } from "../panels/index.ts";
import { PageHistory } from "./page-history.tsx";
import { PageMessage } from "../panels/page-message.tsx";
import type { Leading } from "../panels/panel-view.ts";
import { ProvenanceDrawer } from "../panels/provenance-drawer.tsx";
import { UnreadablePlace } from "../panels/unreadable-panel.tsx";
import { Notice } from "../ui/notice.tsx";
import { AddPanels } from "./add-panels.tsx";
import { followerOf, pageRows, type PageRow } from "./page-rows.ts";
import { usePackChanges, type PackChanges } from "./use-pack-changes.ts";

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
  return <OpenPage key={page.key} pack={pack.data} page={page} />;
}

function OpenPage({ pack, page }: { pack: Pack; page: Page }) {
  const params = useFrameParams();
  const frame = frameOfPage({ pack: pack.key, page: page.key }, params.frame);
  const choices = useFrameChoices(frame);
  const refusal = refusalOf(choices.error);
  // A frame that is refused still leaves a page to work with: the sentence falls back to the defaults.
  const fallback = useFrameChoices({}, refusal !== null);
  const shown = choices.data && !refusal ? choices.data : fallback.data;
  const mayEdit = useMayEdit();
  const changes = usePackChanges(pack, page.key);
  const asked = parseFigureAddress(params.view("figure"));
  const askedAt = params.view("at");
  const arranged = mayEdit ? page.panels.find((panel) => panel.key === params.view("arrange")) : undefined;
  const closeDrawers = { figure: undefined, at: undefined, arrange: undefined };
  return (
    <div className="flex min-h-screen min-w-0">
      <div className="min-w-0 flex-1 px-5 pt-4 pb-8 max-sm:px-3">
        <header className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
          {shown ? (
            <FrameSentence
              structure={shown}
              frame={refusal ? {} : frame}
              setFrame={refusal ? params.resetFrame : params.setFrame}
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
            <Panels {...{ pack, page, changes, mayEdit }} frame={params.frame} hasDrawer={Boolean(asked ?? arranged)} />
            {mayEdit && (
              <AddPanels
                page={page}
                library={shown?.kpis ?? []}
                changes={changes}
                isArranging={arranged !== undefined}
                onAdded={(key) => params.setView({ ...closeDrawers, arrange: key })}
              />
            )}
          </>
        )}
      </div>
      {arranged && isReadable(arranged) && shown && (
        <ArrangeDrawer
          key={arranged.key}
          panel={arranged}
          dimensions={shown.dimensions}
          changes={changes}
          onRemove={() => {
            params.setView({ arrange: undefined });
            void changes.remove(arranged.key);
          }}
          onClose={() => params.setView({ arrange: undefined })}
        >
          <PageHistory pack={pack.key} page={page.key} changes={changes} />
        </ArrangeDrawer>
      )}
      {asked && !arranged && !refusal && (
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

/** The page's message and its panels, row by row. */
function Panels({
  pack,
  page,
  frame,
  changes,
  mayEdit,
  hasDrawer,
}: {
  pack: Pack;
  page: Page;
  frame: FrameAddress;
  changes: PackChanges;
  mayEdit: boolean;
  hasDrawer: boolean;
}) {
  const params = useFrameParams();
  const readable = page.panels.filter(isReadable);
  const [leading] = readable;
  useWholePage(
    readable.map((panel) => ({
      place: { pack: pack.key, page: page.key, panel: panel.key },
      frame,
      choice: answeredChoice(panel.kind, params.choice(panel.key)),
    })),
  );
  const placeOf = (panel: string) => ({ pack: pack.key, page: page.key, panel });
  const leadsTo = (panel: PlacedPanel): Leading | null => {
    const follower = followerOf(page.panels, panel.key);
    if (!follower || follower.key === panel.key || !isReadable(follower)) return null;
    const [own = ""] = referencesOf(follower).kpis;
    return {
      kpi: params.choice(follower.key)["kpi"] ?? own,
      choose: (kpi) => params.setChoice(follower.key, { kpi }),
    };
  };
  const draw = (panel: PlacedPanel) => {
    if (!isReadable(panel))
      return (
        <UnreadablePlace
          key={panel.key}
          panel={panel}
          onRemove={mayEdit ? () => void changes.remove(panel.key) : undefined}
        />
      );
    const { version: _, ...definition } = panel;
    const { Panel } = viewOf(panel.kind);
    return (
      <Suspense key={panel.key} fallback={<div className="waiting h-64" />}>
        <Panel
          place={placeOf(panel.key)}
          panel={definition}
          frame={frame}
          choice={params.choice(panel.key)}
          onChoose={(change) => params.setChoice(panel.key, change)}
          onAsk={(figure, at) => params.setView({ figure, at, arrange: undefined })}
          onArrange={
            mayEdit ? () => params.setView({ arrange: panel.key, figure: undefined, at: undefined }) : undefined
          }
          leads={leadsTo(panel)}
        />
      </Suspense>
    );
  };
  return (
    <>
      {leading && (
        <PageMessage
          place={placeOf(leading.key)}
          frame={frame}
          choice={answeredChoice(leading.kind, params.choice(leading.key))}
        />
      )}
      {page.problem && (
        <p role="alert" className="mt-2 text-madder">
          {page.problem}
        </p>
      )}
      {page.panels.length === 0 && (
        <div className="py-16">
          <Notice title="This page is empty" detail="There are no panels on it yet." />
        </div>
      )}
      {pageRows(page.panels).map((row) => (
        <div key={row[0].key} className={`mt-3 grid items-start gap-3 ${columnsOf(row, hasDrawer)}`}>
          {row.map(draw)}
        </div>
      ))}
    </>
  );
}

/** A drawer takes its width from the page: then two panels stand side by side only where there is room for both. */
function columnsOf(row: PageRow, hasDrawer: boolean): string {
  if (row.length === 1) return "grid-cols-1";
  return hasDrawer
    ? "min-[1560px]:grid-cols-[minmax(0,1.84fr)_minmax(0,1fr)]"
    : "min-[1180px]:grid-cols-[minmax(0,1.84fr)_minmax(0,1fr)]";
}

function refusalOf(error: Error | null): ApiProblem | null {
  return error instanceof ApiProblem && !error.isPassing && error.code !== "not-signed-in" ? error : null;
}
