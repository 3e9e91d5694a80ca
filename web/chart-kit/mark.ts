import type { MouseEvent } from "react";
import type { PanelKind } from "#core/panels/schemas.ts";
import type { PanelActions, PickedMember } from "../panel-frame/panel-view.ts";
import type { Box } from "./geometry.ts";
import type { Reading } from "./reading.tsx";

/** Something of a chart that is pointed at, walked to and read. */
export interface ChartMark {
  /** Where it is pointed at. */
  readonly hit: Box | { readonly cx: number; readonly cy: number; readonly r: number };
  /** The member it shows: a click narrows the page to it. */
  readonly member?: PickedMember | undefined;
  /** Shows what lies below it. */
  readonly open?: (() => void) | undefined;
  /** Its figure by its address, with the scope it has of its own: where it comes from can be asked. */
  readonly source?: { readonly figure: string; readonly scope?: string | undefined } | undefined;
  readonly reading: () => Reading;
}

type Actions = Pick<PanelActions<PanelKind>, "pick" | "ask">;

/** What a mark answers to with the mouse. */
export interface MarkHandlers {
  readonly onClick?: (event: MouseEvent) => void;
  readonly onDoubleClick?: (event: MouseEvent) => void;
}

/**
 * A click picks a mark's member, with Ctrl it is added, with Alt the other way, and a double click opens it; with Shift
 * it asks where the figure comes from. A mark of no member opens, or else asks.
 */
export function markHandlers(
  { pick, ask }: Actions,
  { member, open, source }: Pick<ChartMark, "member" | "open" | "source">,
): MarkHandlers {
  const askSource = source && (() => ask(source.figure, source.scope));
  if (!member || !pick) {
    const plain = member ? askSource : (open ?? askSource);
    return {
      ...(plain ? { onClick: (event) => (event.shiftKey && askSource ? askSource() : plain()) } : {}),
      ...(member && open ? { onDoubleClick: open } : {}),
    };
  }
  const choose = (event: MouseEvent) => pick(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
  return {
    onClick: (event) => {
      if (event.shiftKey && askSource) askSource();
      // The second click of a double one picks nothing.
      else if (event.detail <= 1) choose(event);
    },
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

/** The same with the Enter key. */
export function enterMark(
  { pick, ask }: Actions,
  { member, source }: Pick<ChartMark, "member" | "source">,
  event: { readonly shiftKey: boolean; readonly ctrlKey: boolean; readonly metaKey: boolean; readonly altKey: boolean },
): void {
  if (member && pick && !event.shiftKey) pick(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
  else if (source) ask(source.figure, source.scope);
}

/** The handlers of something that shows a member and whose figure is asked for elsewhere. */
export function pickHandlers(pick: Actions["pick"], member: PickedMember, open?: () => void): MarkHandlers {
  return markHandlers({ pick, ask: () => {} }, { member, open });
}
