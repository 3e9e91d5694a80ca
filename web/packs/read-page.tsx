import type { FrameChoices } from "#contract/frame-choices.ts";
import type { Pack, Page } from "#contract/pack.ts";
import { PageHeadlineProvider, PageMessage } from "../panel-frame/page-message.tsx";
import { Notice } from "../ui/notice.tsx";
import { PageFoot } from "./page-foot.tsx";
import { PageDyesProvider } from "../chart-kit/page-dyes.tsx";
import { PageScaleProvider } from "../chart-kit/page-scale.tsx";
import { PageGrid } from "./page-grid.tsx";
import { usePageView } from "./use-page-view.ts";

/** A page as readers see it: its message, its panels, its foot. */
export function ReadPage({
  pack,
  page,
  stored,
  choices,
  onRemove,
}: {
  pack: Pack;
  page: Page;
  stored: Page | undefined;
  choices: FrameChoices | undefined;
  /** Takes a panel off that cannot be read; `undefined` for those who may not. */
  onRemove: ((key: string) => void) | undefined;
}) {
  const view = usePageView(pack.key, page, { stored, choices });
  return (
    <>
      <div className={page.look.isBanded ? "page-band" : ""}>
        <PageMessage
          asked={view.leading}
          own={page.look.headline}
          subtitle={page.look.subtitle}
          pageName={page.name}
          onWrite={undefined}
        />
      </div>
      {page.problem && (
        <p role="alert" className="mt-2 text-madder">
          {page.problem}
        </p>
      )}
      {page.panels.length === 0 && (
        <div className="py-16">
          <Notice title="This page is empty" detail="This page has no panels yet." />
        </div>
      )}
      <PageDyesProvider chosen={page.look.dyes}>
        <PageScaleProvider isShared={page.look.sharesScale === true}>
          <PageHeadlineProvider asked={view.leading} own={page.look.headline}>
            <PageGrid page={page} view={view} onRemove={onRemove} />
          </PageHeadlineProvider>
        </PageScaleProvider>
      </PageDyesProvider>
      <PageFoot page={page} choices={choices} />
    </>
  );
}
