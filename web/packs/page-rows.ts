import type { PlacedPanel } from "#contract/pack.ts";
import { isReadable } from "#contract/pack.ts";
import { viewOf } from "../panels/index.ts";

/** Panels that stand side by side: one alone, or a broad one with a slim one behind it. */
export type PageRow = readonly [PlacedPanel] | readonly [broad: PlacedPanel, slim: PlacedPanel];

/** A page's panels in their order, row by row. */
export function pageRows(panels: readonly PlacedPanel[]): PageRow[] {
  const rows: PageRow[] = [];
  for (let i = 0; i < panels.length; i += 1) {
    const [panel, next] = [panels[i]!, panels[i + 1]];
    if (next && widthOf(panel) === "broad" && widthOf(next) === "slim") {
      rows.push([panel, next]);
      i += 1;
    } else {
      rows.push([panel]);
    }
  }
  return rows;
}

function widthOf(panel: PlacedPanel): "full" | "broad" | "slim" {
  if (!isReadable(panel)) return "full";
  // A scorecard of many columns needs the page's whole width.
  const columns = panel.kind === "scorecard" ? (panel.columns?.length ?? 0) : 0;
  return columns > 8 ? "full" : viewOf(panel.kind).width;
}

/** The panel that follows what is chosen on another one: the next behind it that can, else the first of the page. */
export function followerOf(panels: readonly PlacedPanel[], key: string): PlacedPanel | undefined {
  const follows = (panel: PlacedPanel) => isReadable(panel) && viewOf(panel.kind).follows;
  const at = panels.findIndex((panel) => panel.key === key);
  return panels.slice(at + 1).find(follows) ?? panels.find(follows);
}
