import { useLayoutEffect } from "react";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { isReadable, type Pack, type Page } from "#contract/pack.ts";
import { useFrameParams } from "../../frame/frame-params.ts";
import { PageMessage } from "../../panel-frame/page-message.tsx";
import { BothVersions } from "../../ui/both-versions.tsx";
import { PageDyesProvider } from "../../chart-kit/page-dyes.tsx";
import { PageScaleProvider } from "../../chart-kit/page-scale.tsx";
import { Notice } from "../../ui/notice.tsx";
import type { PackEditor, PackEditorState } from "../editing/pack-editor.ts";
import { PageFoot } from "../page-foot.tsx";
import { PageFrame } from "../page-frame.tsx";
import { usePageView } from "../use-page-view.ts";
import { ArrangeGrid } from "./arrange-grid.tsx";
import { PageDrawer } from "./page-drawer.tsx";
import { PageAsidePlace } from "../../ui/page-aside.tsx";
import { PanelDrawer } from "./panel-drawer.tsx";
import { Rack } from "./rack.tsx";
import { Toolbar } from "./toolbar.tsx";
import { useArranging, type Arranging } from "./use-arranging.ts";

/** Opens the page's own settings, where a panel's key would stand. */
const PAGE = "page:";

/** A page as its editor sees it: the same panels with handles, the rack at the left, settings at the right. */
export default function ArrangePage({
  pack,
  page,
  stored,
  editing,
  choices,
}: {
  pack: Pack;
  page: Page;
  stored: Page | undefined;
  editing: PackEditorState & { editor: PackEditor };
  choices: FrameChoices;
}) {
  const { view: viewed, setView } = useFrameParams();
  const { editor, conflict } = editing;
  const arranging = useArranging(pack, page, choices, editor);
  const view = usePageView(pack.key, page, { stored, choices, arrange: arranging.arrange });
  const settings = viewed("settings");
  const panel = page.panels.find(({ key }) => key === settings)?.definition;
  const close = () => setView({ settings: undefined });
  useArrangeKeys(editor, arranging, page);
  return (
    <div className="flex min-h-screen min-w-0">
      <Rack pack={pack.key} page={page} choices={choices} arranging={arranging} />
      <div className="min-w-0 flex-1 px-5 pb-24 max-sm:px-3">
        <Toolbar
          {...{ page, choices, arranging, editing }}
          onPage={() => setView({ settings: PAGE })}
          onDone={() => setView({ arrange: undefined, settings: undefined })}
        />
        {conflict && (
          <BothVersions
            conflict={{
              message: conflict.message,
              current: settingsOf(conflict.current),
              yours: settingsOf(conflict.yours),
            }}
            onTakeTheirs={editor.takeTheirs}
            onKeepMine={editor.keepMine}
          />
        )}
        <div className="pt-2">
          <PageFrame page={page} choices={choices} isRefused={false} mayArrange={false} />
        </div>
        <div className={page.look.isBanded ? "page-band" : ""}>
          <PageMessage
            asked={view.leading}
            own={page.look.headline}
            subtitle={page.look.subtitle}
            pageName={page.name}
            onWrite={(part, text) => arranging.look({ [part]: text === "" ? undefined : text })}
          />
        </div>
        {page.panels.length === 0 && (page.look.open ?? []).length === 0 && (
          <div className="py-10">
            <Notice
              title="This page is empty"
              detail="Choose a pattern above, or put panels on it from the rack at the left."
            />
          </div>
        )}
        <PageDyesProvider chosen={page.look.dyes} onChange={(dyes) => arranging.look({ dyes })}>
          <PageScaleProvider isShared={page.look.sharesScale === true}>
            <ArrangeGrid page={page} view={view} arranging={arranging} />
          </PageScaleProvider>
        </PageDyesProvider>
        <PageFoot page={page} choices={choices} />
      </div>
      {settings === PAGE ? (
        <PageDrawer {...{ pack, page, choices, arranging, editor }} onClose={close} />
      ) : (
        panel &&
        isReadable(panel) && (
          <PanelDrawer key={panel.key} panel={panel} choices={choices} arranging={arranging} onClose={close} />
        )
      )}
      <PageAsidePlace />
    </div>
  );
}

/** The settings of a record that differ between two people: a panel's definition rather than where it stands. */
function settingsOf(record: Readonly<Record<string, unknown>> | null): object | null {
  return record === null ? null : ((record["definition"] as object | undefined) ?? record);
}

/** Keys that hold for the whole page while it is arranged, wherever no text is written: from the moment it is seen. */
function useArrangeKeys({ undo, redo }: PackEditor, arranging: Arranging, page: Page): void {
  useLayoutEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (target.closest("input, textarea, select, [contenteditable=true]")) return;
      const key = event.key.toLowerCase();
      const isCommand = event.ctrlKey || event.metaKey;
      if (isCommand && (key === "y" || (key === "z" && event.shiftKey))) redo();
      else if (isCommand && key === "z") undo();
      else if (isCommand && key === "v") arranging.paste();
      else if (isCommand && key === "a") arranging.choose(page.panels.map((panel) => panel.key));
      else if (isCommand && key === "c" && arranging.chosen.length > 0 && !hasSelectedText())
        arranging.copy(arranging.chosen);
      else if (event.key === "Escape" && !event.defaultPrevented && arranging.chosen.length > 0) arranging.choose([]);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo, arranging, page]);
}

function hasSelectedText(): boolean {
  return (window.getSelection()?.toString() ?? "") !== "";
}
