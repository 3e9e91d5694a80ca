import { kindName, PANEL_KINDS, type PanelKind } from "#core/panels/schemas.ts";
import { viewOf } from "../../panels/index.ts";

/** A kind that was found, and what of it was looked for where neither its name nor its question says so. */
export interface FoundKind {
  readonly kind: PanelKind;
  readonly has: string | null;
}

/** The kinds whose name, question or what they also show holds every word that is looked for; all where nothing is. */
export function findKinds(wanted: string): FoundKind[] {
  const words = wanted
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== "");
  const holds = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  return PANEL_KINDS.flatMap((kind): FoundKind[] => {
    const { question, also } = viewOf(kind);
    if (holds(`${kindName(kind)} ${question}`)) return [{ kind, has: null }];
    const has = also.find(holds);
    return has === undefined ? [] : [{ kind, has }];
  });
}
