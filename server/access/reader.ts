import type { Scope } from "#core/dimensions/scope.ts";
import type { Person } from "#contract/session.ts";

/** Who reads, and the rows they may see. */
export interface Reader extends Person {
  readonly id: number;
  readonly scope: Scope;
}
