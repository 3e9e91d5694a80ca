import { vi } from "vitest";
import type { DefinitionOf, PanelKind } from "#core/panels/schemas.ts";
import type { PanelProps } from "../web/panel-frame/panel-view.ts";

/** What a panel is drawn with, with actions that only listen. */
export function panelProps<K extends PanelKind>(
  panel: DefinitionOf<K>,
  change: Partial<PanelProps<K>> = {},
): PanelProps<K> {
  return {
    panel,
    asked: {
      place: { pack: "p", page: "c", panel: panel.key },
      panel,
      frame: {},
      pageFrame: {},
      choice: {},
      pageScope: {},
      storedAmong: 1,
    },
    choice: {},
    picked: {},
    part: null,
    leads: null,
    standing: null,
    ordinal: 1,
    actions: { choose: vi.fn(), ask: vi.fn(), pick: vi.fn(), follow: vi.fn(), arrange: undefined },
    ...change,
  };
}
