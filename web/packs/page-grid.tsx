import type { CSSProperties } from "react";
import { closeUp } from "#core/layout/close-up.ts";
import type { Place } from "#core/layout/place.ts";
import { rowTracks } from "./row-tracks.ts";
import { isReadable, type Page } from "#contract/pack.ts";
import { viewOf } from "../panels/index.ts";
import { PanelHost } from "./panel-host.tsx";
import type { PageView } from "./use-page-view.ts";

/** A page's panels in the grid, as they are read: none is ever cut off, rows grow with what stands in them. */
export function PageGrid({
  page,
  view,
  onRemove,
}: {
  page: Page;
  view: PageView;
  /** Takes a panel off that cannot be read; `undefined` for those who may not. */
  onRemove: ((key: string) => void) | undefined;
}) {
  const places = closeUp(Object.fromEntries(page.panels.map(({ key, place }) => [key, place])));
  const tracks = rowTracks(places);
  const propsOf = new Map(view.panels.map(({ key, props }) => [key, props]));
  return (
    <div className="page-grid" style={{ gridTemplateRows: tracks.template }}>
      {page.panels.map((placed) => (
        <div
          key={placed.key}
          className="page-cell"
          data-panel={placed.key}
          data-fills={isReadable(placed.definition) && viewOf(placed.definition.kind).fills ? "" : undefined}
          style={placeStyle(places[placed.key]!, tracks.lineOf)}
        >
          <PanelHost
            placed={placed}
            props={propsOf.get(placed.key)}
            onRemove={onRemove && (() => onRemove(placed.key))}
          />
        </div>
      ))}
    </div>
  );
}

function placeStyle({ x, y, w, h }: Place, lineOf: ReadonlyMap<number, number>): CSSProperties {
  return { "--x": x + 1, "--w": w, "--h": h, gridRow: `${lineOf.get(y)} / ${lineOf.get(y + h)}` } as CSSProperties;
}
