import { kindWord } from "#core/panels/schemas.ts";
import { PANEL_KINDS } from "#core/panels/schemas.ts";
import type { Vocabulary } from "#core/workbench/read-line.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";

/** All that a line of the palette can name, in the words that the interface has for it. */
export function vocabularyOf({ kpis, dimensions, bases, spans }: FrameChoices): Vocabulary {
  return {
    kpis: kpis.map(({ key, name }) => ({ words: name, means: key })),
    levels: dimensions.flatMap(({ key, name, levels }) => [
      ...levels.map((level, i) => ({
        words: level.toLowerCase(),
        means: { dimension: key, level: i === 0 ? null : level },
      })),
      ...(levels.some((level) => level.toLowerCase() === name.toLowerCase())
        ? []
        : [{ words: name.toLowerCase(), means: { dimension: key, level: null } }]),
    ]),
    members: dimensions.flatMap(({ key, members }) =>
      members.map((member) => ({ words: member.name, means: { dimension: key, member: member.key } })),
    ),
    kinds: PANEL_KINDS.map((kind) => ({ words: kindWord(kind), means: kind })),
    bases: bases.map(({ key, name }) => ({ words: name, means: key })),
    spans: spans.map(({ key, name }) => ({ words: name, means: key })),
  };
}
