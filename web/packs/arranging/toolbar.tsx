import {
  ArrowLeftRight,
  Check,
  ClipboardPaste,
  Columns3,
  Copy,
  CopyPlus,
  MoveVertical,
  Redo2,
  Rows3,
  Scissors,
  Settings2,
  Trash2,
  Undo2,
} from "lucide-react";
import type { ReactNode } from "react";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { Page } from "#contract/pack.ts";
import { Button, IconButton } from "../../ui/form.tsx";
import type { PackEditorState } from "../editing/pack-editor.ts";
import type { PackEditor } from "../editing/pack-editor.ts";
import { usePanelClipboard } from "./clipboard.ts";
import { PatternMenu } from "./pattern-menu.tsx";
import type { Arranging } from "./use-arranging.ts";

/** What can be done with the page and the chosen panels, and how far it is kept. */
export function Toolbar({
  page,
  choices,
  arranging,
  editing: { editor, past, future, saving, problem },
  onPage,
  onDone,
}: {
  page: Page;
  choices: FrameChoices;
  arranging: Arranging;
  editing: PackEditorState & { editor: PackEditor };
  onPage: () => void;
  onDone: () => void;
}) {
  const clipboard = usePanelClipboard();
  const { chosen } = arranging;
  const isSeveral = chosen.length > 1;
  return (
    <div role="toolbar" aria-label="Arrange the page" className="arrange-toolbar">
      <IconButton label="Undo (Ctrl Z)" isDisabled={past.length === 0} onClick={editor.undo}>
        <Undo2 size={15} />
      </IconButton>
      <IconButton label="Redo (Ctrl Y)" isDisabled={future.length === 0} onClick={editor.redo}>
        <Redo2 size={15} />
      </IconButton>
      <Rule />
      <PatternMenu page={page} choices={choices} arranging={arranging} />
      <button
        type="button"
        onClick={onPage}
        className="inline-flex min-h-7 items-center gap-1 px-1.5 text-accent hover:underline"
      >
        <Settings2 size={14} aria-hidden="true" /> Page
      </button>
      <Rule />
      <IconButton label="Equally wide" isDisabled={!isSeveral} onClick={() => arranging.align("equal-width")}>
        <ArrowLeftRight size={15} />
      </IconButton>
      <IconButton label="Equally high" isDisabled={!isSeveral} onClick={() => arranging.align("equal-height")}>
        <MoveVertical size={15} />
      </IconButton>
      <IconButton label="In a row" isDisabled={!isSeveral} onClick={() => arranging.align("row")}>
        <Columns3 size={15} />
      </IconButton>
      <IconButton label="In a column" isDisabled={!isSeveral} onClick={() => arranging.align("column")}>
        <Rows3 size={15} />
      </IconButton>
      <Rule />
      <IconButton label="Copy (Ctrl C)" isDisabled={chosen.length === 0} onClick={() => arranging.copy(chosen)}>
        <Copy size={15} />
      </IconButton>
      <IconButton label="Cut (Ctrl X)" isDisabled={chosen.length === 0} onClick={() => arranging.cut(chosen)}>
        <Scissors size={15} />
      </IconButton>
      <IconButton label="Paste (Ctrl V)" isDisabled={clipboard.panels.length === 0} onClick={arranging.paste}>
        <ClipboardPaste size={15} />
      </IconButton>
      <IconButton
        label="Duplicate (Ctrl D)"
        isDisabled={chosen.length === 0}
        onClick={() => arranging.duplicate(chosen)}
      >
        <CopyPlus size={15} />
      </IconButton>
      <IconButton label="Remove (Delete)" isDisabled={chosen.length === 0} onClick={() => arranging.remove(chosen)}>
        <Trash2 size={15} />
      </IconButton>
      {isSeveral && <span className="text-[13px] text-slate">{chosen.length} panels chosen</span>}
      <span className="ml-auto flex items-center gap-3">
        <SavingState saving={saving} problem={problem} onRetry={() => void editor.flush()} />
        <Button kind="main" onClick={onDone}>
          Done
        </Button>
      </span>
    </div>
  );
}

function Rule(): ReactNode {
  return <span aria-hidden="true" className="mx-1 h-5 border-l border-thread" />;
}

/** How far what was done is kept; it is always in sight. */
function SavingState({
  saving,
  problem,
  onRetry,
}: Pick<PackEditorState, "saving" | "problem"> & { onRetry: () => void }) {
  return (
    <span role="status" className={`text-[13px] ${saving === "unsent" || problem ? "text-madder" : "text-slate"}`}>
      {problem ??
        (saving === "saved" ? (
          <span className="inline-flex items-center gap-1">
            <Check size={13} aria-hidden="true" /> Saved
          </span>
        ) : saving === "saving" ? (
          "Saving …"
        ) : (
          <>
            Not sent: the server does not answer. Kept here, and sent when it does.{" "}
            <button type="button" className="text-accent hover:underline" onClick={onRetry}>
              Send now
            </button>
          </>
        ))}
    </span>
  );
}
