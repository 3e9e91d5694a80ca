import type { DateWriting, NumberWriting } from "#core/formats/writing.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import type { Person } from "#contract/session.ts";

/** Who reads, and the rows they may see. */
export interface Reader extends Person {
  readonly id: number;
  readonly scope: Scope;
  /** How they read numbers; as the company writes them, where nothing is said. */
  readonly numbers?: NumberWriting | undefined;
  /** How they read days, likewise. */
  readonly dates?: DateWriting | undefined;
  /** Whether they have yet to choose a password of their own, and see nothing until then. */
  readonly mustChoosePassword?: boolean;
}
