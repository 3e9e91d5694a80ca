import { frameMonths } from "../../compare/window.ts";
import type { Month } from "../../calendar/month.ts";
import { shiftBack } from "../../compare/shift-back.ts";
import { basisSide } from "../../compare/side.ts";
import { visibleDimensions } from "../../dimensions/confine.ts";
import { memberDepth, type Dimension } from "../../dimensions/dimension.ts";
import { isAlive } from "../../dimensions/life.ts";
import { memberTree } from "../../dimensions/member-tree.ts";
import { intersectScopes } from "../../dimensions/scope.ts";
import { QuestionRefused } from "../../frame/question-refused.ts";
import type { PanelQuestion } from "../panel-question.ts";
import type { ShownMember } from "./schema.ts";

/**
 * The members below one of them, or those of a level (1 for the top), or the top ones: as far as the
 * reader may see them, the frame's scope reaches, and they existed in one of the stretches of time that are looked at:
 * either side of the frame's comparison where nothing else is said. Throws when there is no such parent.
 */
export function shownMembers(
  question: PanelQuestion,
  dimension: Dimension,
  {
    parent,
    level,
    lived = comparedMonths(question),
  }: { parent: string | null; level?: number | undefined; lived?: Lived | undefined },
): ShownMember[] {
  const { company, access, asked } = question;
  const visible = visibleDimensions([dimension], access)[0]!;
  if (parent !== null && !visible.members.some((m) => m.key === parent))
    throw new QuestionRefused("unknown-scope", `There is no ${dimension.name.toLowerCase()} "${parent}".`);
  const { below } = memberTree(visible);
  return visible.members
    .filter((m) =>
      parent === null && level !== undefined ? memberDepth(dimension, m.key) === level : m.parent === parent,
    )
    .filter((m) => lived.some((side) => isAlive(dimension, [m.key], side)))
    .map(({ key, name }) => ({
      key,
      name,
      hasBelow: below.has(key),
      scope: intersectScopes(company.dimensions, asked.scope, { [dimension.key]: [key] }),
    }))
    .filter(({ scope }) => scope[dimension.key]!.length > 0);
}

/** Stretches of time: whoever existed in one of them is looked at. */
export type Lived = readonly (readonly Month[])[];

/** The months of a side, and of one that lies some months before it. */
export function livedOn(months: readonly Month[], shift: number): Lived {
  return [months, shiftBack(months, shift)];
}

/** The months of either side of the frame's comparison. */
function comparedMonths({ company: { calendar, coverage }, asked: { frame } }: PanelQuestion): Lived {
  const asked = frameMonths(calendar, frame);
  const basis = basisSide({ ...frame, coverage, calendar });
  return "absent" in basis ? [asked] : livedOn(asked, basis.shift);
}
