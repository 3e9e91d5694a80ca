import { z } from "zod";
import type { PanelKind } from "#core/panels/kinds.ts";
import { frameQuerySchema } from "../frame.ts";
import type { References } from "./panel-contract.ts";
import { heat } from "./heat.ts";
import { accuracy } from "./accuracy.ts";
import { expectedRange } from "./expected-range.ts";
import { outlook } from "./outlook.ts";
import { scatter } from "./scatter.ts";
import { growth } from "./growth.ts";
import { season } from "./season.ts";
import { share } from "./share.ts";
import { map } from "./map.ts";
import { crossTab } from "./cross-tab.ts";
import { bridge } from "./bridge.ts";
import { breakdown } from "./breakdown.ts";
import { chooser } from "./chooser.ts";
import { scorecard } from "./scorecard.ts";
import { text } from "./text.ts";
import { tiles } from "./tiles.ts";
import { timeChart } from "./time-chart.ts";

/** All kinds of panels, as they are stored and cross the wire. */
export const PANEL_CONTRACTS = {
  scorecard,
  tiles,
  "time-chart": timeChart,
  bridge,
  breakdown,
  heat,
  scatter,
  "expected-range": expectedRange,
  accuracy,
  growth,
  outlook,
  season,
  share,
  map,
  "cross-tab": crossTab,
  text,
  chooser,
} as const satisfies Record<PanelKind, unknown>;

type Contracts = typeof PANEL_CONTRACTS;
type Union<Part extends "definition" | "answer"> = z.infer<Contracts[PanelKind][Part]>;

export type { PanelKind };
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

const contracts = Object.values(PANEL_CONTRACTS);

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
  const contract: { readonly choice: z.ZodObject; readonly shown?: readonly string[] } = PANEL_CONTRACTS[kind];
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
  const contract = PANEL_CONTRACTS[panel.kind] as { refersTo(definition: PanelDefinition): References };
  return contract.refersTo(panel);
}
