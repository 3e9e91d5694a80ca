/** Where a panel stands. */
export interface PanelPlace {
  readonly pack: string;
  readonly page: string;
  readonly panel: string;
}

/** The address of a page's panels. */
export function panelsPath({ pack, page }: Pick<PanelPlace, "pack" | "page">): string {
  return `/api/packs/${pack}/pages/${page}/panels`;
}

/** The address of a panel. */
export function panelPath(place: PanelPlace): string {
  return `${panelsPath(place)}/${place.panel}`;
}
