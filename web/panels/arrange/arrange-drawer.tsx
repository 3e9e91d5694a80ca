import { Redo2, Undo2 } from "lucide-react";
import { Suspense, type ReactNode } from "react";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { PlacedPanel } from "#contract/pack.ts";
import type { PanelDefinition } from "#contract/panels/index.ts";
import type { PackChanges } from "../../packs/use-pack-changes.ts";
import { BothVersions } from "../../ui/both-versions.tsx";
import { Drawer } from "../../ui/drawer.tsx";
import { Button, IconButton } from "../../ui/form.tsx";
import { viewOf } from "../index.ts";
import { ArrangeWords } from "./arrange-words.tsx";

/** A panel arranged. Saved as it is made, with undo. */
export function ArrangeDrawer({
  panel: placed,
  dimensions,
  changes,
  onRemove,
  onClose,
  children,
}: {
  panel: PanelDefinition & Pick<PlacedPanel, "version">;
  dimensions: FrameChoices["dimensions"];
  changes: PackChanges;
  /** Takes the panel off the page. */
  onRemove: () => void;
  onClose: () => void;
  /** What stands at the foot. */
  children?: ReactNode;
}) {
  const { version: _, ...panel } = placed;
  const view = viewOf(panel.kind);
  const title = `Arrange ${view.name.replace(/^a /, "the ")}`;
  const { Arrange } = view;
  const save = (next: PanelDefinition) => void changes.save(next);
  return (
    <Drawer label={title} subject={panel.key} onClose={onClose}>
      <div className="flex items-center gap-2">
        <h2 className="font-serif text-[19px]">{title}</h2>
        <IconButton label="Undo" isDisabled={!changes.undo} onClick={() => changes.undo?.()}>
          <Undo2 size={15} />
        </IconButton>
        <IconButton label="Redo" isDisabled={!changes.redo} onClick={() => changes.redo?.()}>
          <Redo2 size={15} />
        </IconButton>
      </div>
      <p className="text-[13px] text-slate" role="status">
        {changes.isSaving
          ? "Saving …"
          : changes.conflict || changes.problem
            ? "Your last change is not saved."
            : "Saved. Every change is saved as you make it, for everyone who reads this page."}
      </p>
      {changes.problem && (
        <p role="alert" className="mt-1 text-madder">
          {changes.problem}
        </p>
      )}
      {changes.conflict && (
        <BothVersions conflict={changes.conflict} onTakeTheirs={changes.takeTheirs} onKeepMine={changes.keepMine} />
      )}
      <ArrangeWords panel={panel} onChange={save} />
      <Suspense fallback={<div className="waiting mt-4 h-40" />}>
        <Arrange panel={panel} dimensions={dimensions} onChange={save} />
      </Suspense>
      <p className="mt-5 border-t border-thread pt-3">
        <Button onClick={onRemove}>Take it off this page</Button>
      </p>
      {children}
    </Drawer>
  );
}
