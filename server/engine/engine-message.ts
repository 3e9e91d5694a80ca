import type { Reader } from "#server/access/reader.ts";
import type { StructureRows } from "#server/db/structure-rows.ts";
import type { KeptFacts } from "#server/facts/memory/cell-keeper.ts";
import type { PackedFit } from "./fit-store.ts";
import type { PanelAsk, PanelLine } from "./panel-ask.ts";

/** What an engine is told. */
export type EngineTask =
  | {
      readonly say: "hold";
      readonly state: number;
      /** A state that it holds, which this one stands on: what is not said is as it is there. */
      readonly onTopOf: number | null;
      readonly rows: Partial<StructureRows>;
      readonly at: { readonly version: string; readonly facts: string };
      /** Its columns lie in memory that is shared, so that nothing of it is copied. */
      readonly kept: KeptFacts | null;
    }
  | { readonly say: "let go"; readonly state: number }
  | {
      readonly say: "answer";
      readonly question: number;
      readonly state: number;
      readonly reader: Pick<Reader, "scope" | "numbers" | "dates">;
      readonly asks: readonly PanelAsk[];
      /** Whether fits that were not made yet are left to others. */
      readonly isLight: boolean;
    }
  | { readonly say: "take"; readonly fits: readonly PackedFit[] }
  | { readonly say: "give up"; readonly question: number };

/** What an engine says: a line of a question's answer, or that it has said all of them. */
export interface EngineSays {
  /** `UP`: none; it is there to be asked. */
  readonly question: number;
  readonly line?: PanelLine;
  /** Fits that were made on the way, for the other engines and for later. */
  readonly fits?: readonly PackedFit[];
}

/** Said to an engine when it starts: it does what takes long, beside the others. */
export const BESIDE = "beside";

/** The number that no question has. */
export const UP = 0;
