import { absent } from "../figures/figure.ts";
import type { Dimension } from "./dimension.ts";
import type { Scope } from "./scope.ts";
import type { Absence } from "../figures/schema.ts";

/**
 * Why a scope lets nothing through, or `undefined` when it does. `asked` is what the
 * reader chose, `allowed` what remains of it by the reader's access.
 */
export function emptyScopeAbsence(dimensions: readonly Dimension[], asked: Scope, allowed: Scope): Absence | undefined {
  const empty = (scope: Scope) => dimensions.find((d) => scope[d.key]?.length === 0);
  const chosenEmpty = empty(asked);
  if (chosenEmpty) {
    return absent(
      "no data",
      `The scope is empty: choose at least one ${chosenEmpty.name.toLowerCase()}, or all of them.`,
    );
  }
  const outside = empty(allowed);
  return outside && absent("no access", `What is chosen of the ${outside.plural} is outside what you may see.`);
}
