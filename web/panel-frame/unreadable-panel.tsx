import type { UnreadablePanel } from "#contract/pack.ts";
import { TextButton } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";

/** The place of a panel that cannot be read as it is stored: it says so, and keeps nothing else from being shown. */
export function UnreadablePlace({
  panel,
  onRemove,
}: {
  panel: UnreadablePanel;
  /** Takes it off the page; `undefined` for those who may not. */
  onRemove: (() => void) | undefined;
}) {
  return (
    <section
      aria-label={`The panel ${panel.title ?? panel.key}`}
      className="rounded-md border border-dashed border-thread bg-panel px-4 py-8"
    >
      <Notice tone="bad" title={`${panel.title ?? "This panel"} cannot be shown`} detail={panel.reason}>
        {onRemove && <TextButton onClick={onRemove}>Remove from this page</TextButton>}
      </Notice>
    </section>
  );
}
