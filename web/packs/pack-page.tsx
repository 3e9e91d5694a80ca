import { PACKS } from "#contract/operations/packs.ts";
import { SESSION } from "#contract/operations/session.ts";
import { lazy, Suspense, useEffect } from "react";
import { Link, useParams } from "react-router";
import type { Pack, Page } from "#contract/pack.ts";
import { ApiProblem } from "../client/api.ts";
import { frameOfPage } from "#contract/frame-address.ts";
import { useFrameParams } from "../frame/frame-params.ts";
import { frameOfMonths, parseFigureAddress } from "../panel-frame/figure-address.ts";
import { ProvenanceDrawer } from "../panel-frame/provenance-drawer.tsx";
import { Notice } from "../ui/notice.tsx";
import { PageAsidePlace } from "../ui/page-aside.tsx";
import { withoutPanels } from "./editing/page-edits.ts";
import { usePackEditor } from "./editing/use-pack-editor.ts";
import { PageFrame } from "./page-frame.tsx";
import { ReadPage } from "./read-page.tsx";
import { useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";
import { useFrameChoices } from "../frame/use-frame-choices.ts";

export { askPage } from "./ask-page.ts";

const ArrangePage = lazy(() => import("./arranging/arrange-page.tsx"));

/** While a page is arranged, what others do to it is looked for this often, in milliseconds; while it is read, this often. */
const ARRANGING_MS = 3000;
const READING_MS = 30_000;

/** A page of a pack, read or arranged. */
export function PackPage() {
  const { pack: packKey = "", page: pageKey = "" } = useParams();
  const { view } = useFrameParams();
  const mayEdit = useMayEdit();
  const isArranging = mayEdit && view("arrange") !== undefined;
  const pack = useAnswer(
    PACKS.pack,
    { params: { pack: packKey } },
    { refetchInterval: () => (isArranging ? ARRANGING_MS : READING_MS) },
  );
  const person = useAnswer(SESSION.session).data?.email ?? "";
  const editing = usePackEditor(pack.data, packKey, person);
  const shown = mayEdit ? (editing.shown ?? pack.data) : pack.data;
  const page = shown?.pages.find((p) => p.key === pageKey);
  useEffect(() => {
    if (shown && page) document.title = `${page.name} · ${shown.name} · Hackle`;
  }, [shown, page]);
  if (pack.error && !pack.data)
    return (
      <div className="p-8">
        <Notice tone="bad" title="This pack cannot be opened" detail={pack.error.message} />
      </div>
    );
  if (!shown) return null;
  if (!page) return <NoSuchPage pack={shown} page={pageKey} />;
  const stored = pack.data?.pages.find((p) => p.key === pageKey);
  return <OpenPage key={page.key} {...{ pack: shown, page, stored, editing, mayEdit, isArranging }} />;
}

function NoSuchPage({ pack, page }: { pack: Pack; page: string }) {
  const [first] = pack.pages;
  return (
    <div className="p-8">
      <Notice
        title="Page not found"
        detail={`${pack.name} has no page "${page}". It may have been removed while you were away${first ? "." : "; the pack is empty."}`}
      >
        {first && (
          <Link className="font-semibold text-accent underline" to={`/packs/${pack.key}/${first.key}`}>
            Open {first.name}
          </Link>
        )}
      </Notice>
    </div>
  );
}

function OpenPage({
  pack,
  page,
  stored,
  editing,
  mayEdit,
  isArranging,
}: {
  pack: Pack;
  page: Page;
  stored: Page | undefined;
  editing: ReturnType<typeof usePackEditor>;
  mayEdit: boolean;
  isArranging: boolean;
}) {
  const params = useFrameParams();
  const frame = frameOfPage({ pack: pack.key, page: page.key }, params.frame);
  const choices = useFrameChoices(frame, stored !== undefined);
  const refusal = refusalOf(choices.error);
  // A frame that is refused still leaves a page to work with: the sentence falls back to the defaults.
  const fallback = useFrameChoices({}, refusal !== null || stored === undefined);
  const shown = choices.data && !refusal ? choices.data : fallback.data;
  const asked = parseFigureAddress(params.view("figure"));
  const waiting = <div className="waiting m-6 h-8" role="status" aria-label="Opening the page" />;
  // Not as it is read meanwhile: what is pressed there would go nowhere.
  if (isArranging && !shown && choices.isPending) return waiting;
  if (isArranging && shown && !refusal)
    return (
      <Suspense fallback={waiting}>
        <ArrangePage {...{ pack, page, stored, editing }} choices={shown} />
      </Suspense>
    );
  return (
    <div className="flex min-h-screen min-w-0">
      <div className="page-holder min-w-0 flex-1 px-5 pt-4 pb-8 max-sm:px-3">
        <PageFrame page={page} choices={shown} isRefused={refusal !== null} mayArrange={mayEdit} />
        {refusal ? (
          <div className="py-16">
            <Notice tone="bad" title="The page cannot be shown like this" detail={refusal.message}>
              <button type="button" className="font-semibold text-accent underline" onClick={() => params.resetFrame()}>
                Show {fallback.data?.frame.words.asOf ?? "the last closed month"}, year to date
              </button>
            </Notice>
          </div>
        ) : (
          <ReadPage
            pack={pack}
            page={page}
            stored={stored}
            choices={shown}
            onRemove={
              mayEdit
                ? (key) =>
                    void editing.editor.edit((records) =>
                      withoutPanels(records, { pack: pack.key, page: page.key }, [key]),
                    )
                : undefined
            }
          />
        )}
      </div>
      <PageAsidePlace />
      {asked && !refusal && <Origin asked={asked} frame={frame} />}
    </div>
  );
}

/** Where a figure of the page comes from: in its own scope and month where it has them. */
function Origin({
  asked: { kpi, side, months },
  frame,
}: {
  asked: NonNullable<ReturnType<typeof parseFigureAddress>>;
  frame: ReturnType<typeof frameOfPage>;
}) {
  const { view, setView, picked } = useFrameParams();
  const at = view("at");
  return (
    <ProvenanceDrawer
      frame={{
        ...frame,
        ...(picked.narrow === undefined ? {} : { narrow: picked.narrow }),
        ...(at === undefined ? {} : { scope: at }),
        ...(months === undefined ? {} : frameOfMonths(months)),
      }}
      kpi={kpi}
      side={side}
      onClose={() => setView({ figure: undefined, at: undefined })}
    />
  );
}

function refusalOf(error: Error | null): ApiProblem | null {
  return error instanceof ApiProblem && !error.isPassing && error.code !== "not-signed-in" ? error : null;
}
