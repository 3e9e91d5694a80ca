import type { MouseEvent } from "react";
import type { PanelActions, PickedMember } from "../panel-frame/panel-view.ts";

/** What a mark of a member answers to: a click picks it, with Ctrl it is added, with Alt the other way; a double click opens it. */
export function pickHandlers(
  pick: PanelActions<never>["pick"],
  member: PickedMember,
  open?: () => void,
): { onClick?: (event: MouseEvent) => void; onDoubleClick?: (event: MouseEvent) => void } {
  const choose = (event: MouseEvent) =>
    pick?.(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
  return {
    ...(pick
      ? {
          onClick: (event: MouseEvent) => {
            // The second click of a double one picks nothing.
            if (event.detail <= 1) choose(event);
          },
        }
      : {}),
    ...(open
      ? {
          onDoubleClick: (event: MouseEvent) => {
            // What the first click did is taken back.
            choose(event);
            open();
          },
        }
      : {}),
  };
}
