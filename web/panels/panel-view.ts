import type { ComponentType, LazyExoticComponent } from "react";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { DefinitionOf, PanelKind } from "#contract/panels/index.ts";
import type { Choices, FrameAddress } from "../app/questions.ts";
import type { PanelPlace } from "./panel-place.ts";

/** What another panel of the page shows, where this one is used to choose it. */
export interface Leading {
  readonly kpi: string;
  readonly choose: (kpi: string) => void;
}

/** What every panel is drawn with. */
export interface PanelProps<K extends PanelKind> {
  readonly place: PanelPlace;
  readonly panel: DefinitionOf<K>;
  readonly frame: FrameAddress;
  /** What the reader chose of it; kept in the address, for this panel alone. */
  readonly choice: Choices<K>;
  readonly onChoose: (change: Choices<K>) => void;
  /** Opens where a figure comes from, in its own scope where it has one. */
  readonly onAsk: (figure: string, scope?: string) => void;
  /** Opens the arrangement; `undefined` for those who may not change it. */
  readonly onArrange: (() => void) | undefined;
  /** The panel that follows what is chosen here; `null` where there is none. */
  readonly leads: Leading | null;
}

/** What a panel is arranged with. */
export interface ArrangeProps<K extends PanelKind> {
  readonly panel: DefinitionOf<K>;
  readonly dimensions: FrameChoices["dimensions"];
  readonly onChange: (next: DefinitionOf<K>) => void;
}

/** A kind of panel as the web client knows it. Its parts are loaded when they are first needed. */
export interface PanelView<K extends PanelKind> {
  /** What a panel of this kind is called, with its article: "a scorecard". */
  readonly name: string;
  /** How much of a page's width it takes: a broad panel and a slim one behind it stand side by side. */
  readonly width: "full" | "broad" | "slim";
  /** Whether it shows one KPI that another panel of its page can choose. */
  readonly follows: boolean;
  /** A new panel of these KPIs. */
  readonly create: (key: string, kpis: readonly string[]) => DefinitionOf<K>;
  readonly Panel: LazyExoticComponent<ComponentType<PanelProps<K>>>;
  readonly Arrange: LazyExoticComponent<ComponentType<ArrangeProps<K>>>;
}
