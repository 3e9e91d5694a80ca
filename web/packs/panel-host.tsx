import { memo, Suspense } from "react";
import type { PlacedPanel } from "#contract/pack.ts";
import { isReadable } from "#contract/pack.ts";
import type { PanelKind } from "#core/panels/schemas.ts";
import { viewOf } from "../panels/index.ts";
import type { PanelProps } from "../panel-frame/panel-view.ts";
import { UnreadablePlace } from "../panel-frame/unreadable-panel.tsx";
import { PanelBoundary } from "./panel-boundary.tsx";

/** A panel in its place: drawn by its kind, or saying why it cannot be. */
export const PanelHost = memo(function PanelHost({
  placed: { definition },
  props,
  onRemove,
}: {
  placed: PlacedPanel;
  /** `undefined` where it cannot be read. */
  props: PanelProps<PanelKind> | undefined;
  /** Takes it off the page; `undefined` for those who may not. */
  onRemove: (() => void) | undefined;
}) {
  if (!isReadable(definition) || !props)
    return isReadable(definition) ? null : <UnreadablePlace panel={definition} onRemove={onRemove} />;
  const { Panel } = viewOf(definition.kind);
  return (
    <PanelBoundary of={definition}>
      <Suspense fallback={<div className="waiting h-full min-h-24" />}>
        <Panel {...props} />
      </Suspense>
    </PanelBoundary>
  );
});
