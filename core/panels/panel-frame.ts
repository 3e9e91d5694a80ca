import { formatScope, parseScope } from "../dimensions/scope-text.ts";
import type { FrameQuery } from "../frame/schema.ts";
import { PANEL_SCHEMAS, type PanelDefinition } from "./schemas.ts";

/** A reader's choices of a panel, as an address has them. */
export type ChoiceText = Readonly<Record<string, string | undefined>>;

/**
 * The frame that a panel is asked in: its page's, but for the parts it holds, unless the reader lets it follow the
 * page. What the page is narrowed to does not reach a panel that stands apart, and leaves one that shows the members
 * of the same dimension whole, so that further members of it can be chosen there. Asking again changes nothing.
 */
export function panelFrame<Q extends FrameQuery>(panel: PanelDefinition, frame: Q, choice: ChoiceText = {}): Q {
  const held = choice["follow"] === "page" ? {} : withoutEmpty(panel.holds ?? {});
  const unit = panel.unit !== undefined && frame.unit === undefined ? { unit: panel.unit } : {};
  const { narrow, ...rest } = frame;
  const reached = narrow === undefined ? undefined : narrowReaching(panel, narrow, choice);
  return { ...rest, ...unit, ...held, ...(reached === undefined ? {} : { narrow: reached }) } as Q;
}

/** The part of a narrowing that reaches a panel; `undefined` where nothing does. */
function narrowReaching(panel: PanelDefinition, narrow: string, choice: ChoiceText): string | undefined {
  if (panel.isApart) return undefined;
  const scope = parseScope(narrow);
  // What cannot be read is refused where it is asked.
  if (!scope) return narrow;
  const shown = splitsBy(panel, choice);
  const reaching = Object.fromEntries(Object.entries(scope).filter(([dimension]) => !shown.includes(dimension)));
  return Object.keys(reaching).length === 0 ? undefined : formatScope(reaching);
}

/** The dimensions whose members a panel shows one by one. */
export function splitsBy(panel: PanelDefinition, choice: ChoiceText = {}): readonly string[] {
  const contract = PANEL_SCHEMAS[panel.kind] as {
    splitsBy?(definition: PanelDefinition, choice: ChoiceText): readonly string[];
  };
  return contract.splitsBy?.(panel, choice) ?? [];
}

/** The dimensions of which a panel may show members one by one; `null` where it may be any, as of rows that are opened. */
export function maySplitBy(panel: PanelDefinition, choice: ChoiceText = {}): readonly string[] | null {
  return PANEL_SCHEMAS[panel.kind].hasOpenRows === true ? null : splitsBy(panel, choice);
}

function withoutEmpty<T extends object>(record: T): T {
  return Object.fromEntries(Object.entries(record).filter(([, value]) => value !== undefined)) as T;
}
