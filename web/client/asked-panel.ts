import type { FrameAddress } from "#contract/frame-address.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import type { ChoiceOf, PanelDefinition, PanelKind } from "#core/panels/schemas.ts";
/** What was chosen of a panel, as its address has it. */
export type PanelChoice = Readonly<Record<string, string | undefined>>;

/** The choices of one kind of panel. */
export type Choices<K extends PanelKind> = { readonly [P in keyof ChoiceOf<K>]?: ChoiceOf<K>[P] | undefined };

/** A panel as it is asked for its figures. */
export interface AskedPanel {
  readonly place: PanelPlace;
  readonly panel: PanelDefinition;
  /** The frame that it is asked in. */
  readonly frame: FrameAddress;
  /** The frame of the page, in which panels are asked together: what a panel makes of it follows from its definition. */
  readonly pageFrame: FrameAddress;
  /** What was chosen of it. */
  readonly choice: PanelChoice;
  /** The page's own scope, which holds until another one is chosen. */
  readonly pageScope: Scope;
  /** How many panels the server has of the page, where it has this one as it is here; `null` where it has not. */
  readonly storedAmong: number | null;
}

/** Where a panel stands. */
export interface PanelPlace {
  readonly pack: string;
  readonly page: string;
  readonly panel: string;
}
