import type { CompiledFormula } from "../formula/node.ts";

/** What is measured: a formula and its name. */
export interface Measured {
  readonly definition: { readonly name: string };
  readonly formula: CompiledFormula;
}
