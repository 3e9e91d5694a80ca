import { z } from "zod";
import type { Size } from "../layout/place.ts";
import { frameQuerySchema } from "../frame/schema.ts";
import type { References } from "./panel-schema.ts";
import { heatSchema } from "./heat/schema.ts";
import { accuracySchema } from "./accuracy/schema.ts";
import { expectedRangeSchema } from "./expected-range/schema.ts";
import { outlookSchema } from "./outlook/schema.ts";
import { scatterSchema } from "./scatter/schema.ts";
import { growthSchema } from "./growth/schema.ts";
import { seasonSchema } from "./season/schema.ts";
import { shareSchema } from "./share/schema.ts";
import { mapSchema } from "./map/schema.ts";
import { crossTabSchema } from "./cross-tab/schema.ts";
import { bridgeSchema } from "./bridge/schema.ts";
import { breakdownSchema } from "./breakdown/schema.ts";
import { chooserSchema } from "./chooser/schema.ts";
import { scorecardSchema } from "./scorecard/schema.ts";
import { textSchema } from "./text/schema.ts";
import { tilesSchema } from "./tiles/schema.ts";
import { timeChartSchema } from "./time-chart/schema.ts";

/** All kinds of panels, as they are stored and cross the wire, in the order in which they are offered. */
export const PANEL_SCHEMAS = {
  scorecard: scorecardSchema,
  tiles: tilesSchema,
  "time-chart": timeChartSchema,
  bridge: bridgeSchema,
  outlook: outlookSchema,
  "expected-range": expectedRangeSchema,
  accuracy: accuracySchema,
  growth: growthSchema,
  season: seasonSchema,
  breakdown: breakdownSchema,
  "cross-tab": crossTabSchema,
  share: shareSchema,
  map: mapSchema,
  heat: heatSchema,
  scatter: scatterSchema,
  text: textSchema,
  chooser: chooserSchema,
} as const;

export type PanelKind = keyof typeof PANEL_SCHEMAS;
export const PANEL_KINDS = Object.keys(PANEL_SCHEMAS) as readonly PanelKind[];

/** What a panel of a kind is called where one is spoken of: "a breakdown". */
export function kindName(kind: PanelKind): string {
  return PANEL_SCHEMAS[kind].name;
}

type Contracts = typeof PANEL_SCHEMAS;
type Union<Part extends "definition" | "answer"> = z.infer<Contracts[PanelKind][Part]>;

export type PanelDefinition = Union<"definition">;
export type PanelAnswer = Union<"answer">;
/** The definition, the answer, or the choice of one kind. */
export type DefinitionOf<K extends PanelKind> = z.infer<Contracts[K]["definition"]>;
export type AnswerOf<K extends PanelKind> = z.infer<Contracts[K]["answer"]>;
export type ChoiceOf<K extends PanelKind> = z.infer<Contracts[K]["choice"]>;
/** What a further question to a panel of a kind is answered with. */
export type DetailOf<K extends PanelKind> = Contracts[K] extends { detail: { answer: infer A extends z.ZodType } }
  ? z.infer<A>
  : never;

/** The same without its article. */
export function kindWord(kind: PanelKind): string {
  return kindName(kind).replace(/^an? /, "");
}

/** How much of a page a new panel takes: by what it will show, where its definition tells. */
export function panelSize(definition: PanelDefinition): Size {
  const schema = PANEL_SCHEMAS[definition.kind] as {
    readonly size: Size;
    sizeOf?(definition: PanelDefinition): Size;
  };
  return schema.sizeOf?.(definition) ?? schema.size;
}

const contracts = Object.values(PANEL_SCHEMAS);

function unionOf<Part extends "definition" | "answer">(part: Part): z.ZodType<Union<Part>> {
  const [first, ...rest] = contracts.map((contract) => contract[part]);
  return z.discriminatedUnion("kind", [first!, ...rest]) as unknown as z.ZodType<Union<Part>>;
}

export const panelSchema = unionOf("definition");
export const panelAnswerSchema = unionOf("answer");

/** Every part that a reader can choose of some kind of panel. */
export const PANEL_CHOICES: readonly string[] = [
  ...new Set(contracts.flatMap((contract) => Object.keys(contract.choice.shape))),
];

/** Of what was chosen of a panel, the part that its answer depends on. */
export function answeredChoice<V>(kind: PanelKind, choice: Readonly<Record<string, V>>): Record<string, V> {
  const contract: { readonly choice: z.ZodObject; readonly shown?: readonly string[] } = PANEL_SCHEMAS[kind];
  const parts = Object.keys(contract.choice.shape).filter((part) => !contract.shown?.includes(part));
  return Object.fromEntries(parts.flatMap((part) => (choice[part] === undefined ? [] : [[part, choice[part]]])));
}

/** A panel's question as an address has it: its frame, and the choices of its own kind, read by its contract. */
export const panelQuerySchema = frameQuerySchema.extend(
  Object.fromEntries(PANEL_CHOICES.map((part) => [part, z.string().max(200).optional()])),
);

export const panelDetailSchema = z.union(
  contracts.flatMap((contract) => ("detail" in contract ? [contract.detail.answer] : [])) as [z.ZodType, z.ZodType],
);

/** What a panel refers to. */
export function referencesOf(panel: PanelDefinition): References {
  const contract = PANEL_SCHEMAS[panel.kind] as { refersTo(definition: PanelDefinition): References };
  return contract.refersTo(panel);
}
