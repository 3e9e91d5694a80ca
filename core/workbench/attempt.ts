import type { Shown } from "../panels/attempt.ts";
import type { PanelKind } from "../panels/schemas.ts";

/** What is looked at in the workbench: KPIs, perhaps split by the members of a level, drawn as some kind. */
export interface Attempt extends Shown {
  /** `null` takes the kind that fits best. */
  readonly kind: PanelKind | null;
}
