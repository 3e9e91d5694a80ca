/** Where a panel stands. */
export interface PanelPlace {
  readonly pack: string;
  readonly page: string;
  readonly panel: string;
}
