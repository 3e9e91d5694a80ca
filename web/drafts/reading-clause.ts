import type { EditableStructure } from "#contract/structure.ts";
import type { Definition, Draft } from "#contract/intake.ts";

/** What a clause of the sentence is made from, and how it changes what it says. */
export interface ClauseProps {
  readonly draft: Draft;
  readonly structure: EditableStructure;
  /** Changes how the file is read. */
  readonly read: (change: Partial<Definition["reading"]>) => void;
  /** Changes what its columns mean. */
  readonly map: (change: Partial<Definition["rules"]["mapping"]>) => void;
}
