import type { ComponentType, LazyExoticComponent } from "react";
import type { Scope } from "#core/dimensions/scope.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { DefinitionOf, PanelKind } from "#core/panels/schemas.ts";
import type { LazyPart } from "../ui/lazy-part.ts";
import type { AskedPanel, Choices } from "../client/asked-panel.ts";

/** What another panel of the page shows, where this one is used to choose it. */
export interface Leading {
  readonly kpi: string;
  readonly choose: (kpi: string) => void;
}

/** A member of a dimension, by its name. */
export interface PickedMember {
  readonly dimension: string;
  readonly member: string;
  readonly name: string;
}

/** How a mark is picked: added to those picked already, and whether in the way that the page does not usually follow. */
export interface PickManner {
  readonly adds: boolean;
  readonly otherWay: boolean;
}

/** A page of a pack that a panel leads to. */
export interface PageLink {
  readonly pack: string;
  readonly page: string;
}

/** What can be done with a panel. */
export interface PanelActions<K extends PanelKind> {
  /** Chooses of the panel, for this reader alone. */
  readonly choose: (change: Choices<K>) => void;
  /** Opens where a figure comes from, in its own scope where it has one. */
  readonly ask: (figure: string, scope?: string) => void;
  /** Has the page follow a member, or weigh it; `undefined` where the panel stands apart. */
  readonly pick: ((member: PickedMember, manner: PickManner) => void) | undefined;
  /** Opens a page with the same frame and narrowing, and a further member where one is given. */
  readonly follow: (link: PageLink, member?: PickedMember) => void;
  /** Arranges the panel anew; `undefined` while the page is only read. */
  readonly arrange: ((next: DefinitionOf<K>) => void) | undefined;
}

/** What every panel is drawn with. */
export interface PanelProps<K extends PanelKind> {
  readonly panel: DefinitionOf<K>;
  /** The question its figures are the answer to. */
  readonly asked: AskedPanel;
  /** What the reader chose of it; kept in the address, for this panel alone. */
  readonly choice: Choices<K>;
  /** The members that the page is narrowed to, or whose part is shown. */
  readonly picked: Scope;
  /** The same question for the weighed members alone; `null` where nothing is weighed, or it does not reach here. */
  readonly part: AskedPanel | null;
  readonly actions: PanelActions<K>;
  /** The panel that follows what is chosen here; `null` where there is none. */
  readonly leads: Leading | null;
  /** Of a chooser: what its panels show as they are arranged, where that is one of its options for all. */
  readonly standing: string | null;
  /** Which one it is of those on its page that are called alike; 1 for the first. */
  readonly ordinal: number;
}

/** What a panel is arranged with. */
export interface ArrangeProps<K extends PanelKind> {
  readonly panel: DefinitionOf<K>;
  readonly dimensions: FrameChoices["dimensions"];
  readonly onChange: (next: DefinitionOf<K>) => void;
}

/** What a new panel is made of: the page's KPIs, and the company's dimensions. */
export interface NewPanel {
  readonly key: string;
  readonly kpis: readonly string[];
  /** The other KPIs of the library, where a panel needs more than the page shows. */
  readonly otherKpis: readonly string[];
  readonly dimensions: FrameChoices["dimensions"];
}

/** A kind of panel as the web client knows it. Its parts are loaded when they are first needed. */
export interface PanelView<K extends PanelKind> {
  /** The question that it answers. */
  readonly question: string;
  /**
   * What it also shows, as somebody would look for it who does not know its name: views of it, and what can be set in it.
   */
  readonly also: readonly string[];
  /** Whether it shows one KPI that another panel of its page can choose. */
  readonly follows: boolean;
  /** Whether it fills its place, however high; others are as high as what they show. */
  readonly fills: boolean;
  /** Why no panel of this kind can be made of what there is; nothing where one always can. */
  readonly lacks?: (of: NewPanel) => string | null;
  /** A new panel of this kind, of what it needs. */
  readonly create: (of: NewPanel) => DefinitionOf<K>;
  readonly Panel: LazyPart<PanelProps<K>>;
  readonly Arrange: LazyExoticComponent<ComponentType<ArrangeProps<K>>>;
}
