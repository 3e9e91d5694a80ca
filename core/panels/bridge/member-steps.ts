import type { Month } from "../../calendar/month.ts";
import { compareSides, type SidesCompared } from "../../compare/compare-kpi.ts";
import { measureOver } from "../../compare/measure.ts";
import type { Side } from "../../compare/side.ts";
import { SHOWN } from "../../compare/side.ts";
import { rangeWindow, type Window } from "../../compare/window.ts";
import { isPresent } from "../../figures/figure.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { memberLife, type MemberLife } from "../parts/member-life.ts";
import type { Repetition } from "../parts/repetition.ts";
import { stepOf } from "./step.ts";
import type { BridgeStep } from "./schema.ts";
import type { Absence } from "../../figures/schema.ts";
import type { ShownMember } from "../parts/schema.ts";

/** A member on both sides, on the months that go into Δ of the whole. */
export interface MemberSides {
  readonly member: ShownMember;
  readonly life: MemberLife;
  readonly compared: SidesCompared;
}

/** The steps by member, and the members that cannot be compared, with the reason. */
export interface MemberSteps {
  readonly steps: readonly BridgeStep[];
  readonly absent: readonly { readonly name: string; readonly reason: string }[];
}

/** The window of Δ: the whole span, or the months of it that both sides have. */
export function comparedWindow(window: Window, { compared, asked }: SidesCompared): Window {
  return compared.length === 0 || compared.length === asked.length ? window : rangeWindow(compared);
}

/** Each member on both sides, with whether it existed on both. */
export function memberSides(
  kpi: CompiledKpi,
  basis: Side | Absence,
  window: Window,
  months: readonly Month[],
  { members, dimension }: Repetition,
  question: PanelQuestion,
): MemberSides[] {
  const shift = "absent" in basis ? 0 : basis.shift;
  return members.map((member) => {
    const context = { ...measureContext(question), scope: member.scope };
    const life = memberLife(dimension, member.key, months, shift);
    return { member, life, compared: compareSides(kpi, SHOWN, basis, window, context) };
  });
}

/** What each member brings to Δ; those that one side does not have stand apart. */
export function memberSteps(
  kpi: CompiledKpi,
  basis: Side | Absence,
  window: Window,
  sides: readonly MemberSides[],
  question: PanelQuestion,
): MemberSteps {
  const { direction } = kpi.definition;
  const steps: BridgeStep[] = [];
  const absent: { name: string; reason: string }[] = [];
  for (const { member, life, compared } of sides) {
    const context = { ...measureContext(question), scope: member.scope };
    const { delta } = compared.variance;
    const base = { key: member.key, name: member.name, member, opens: member.hasBelow ? member.key : null };
    if (life === "new" && isPresent(compared.actual.figure))
      steps.push(stepOf({ ...base, kind: "new", value: compared.actual.figure.value }, direction));
    else if (life !== "both" && life !== "new" && !("absent" in basis)) {
      const { figure } = measureOver(kpi, basis, window, context);
      if (isPresent(figure)) steps.push(stepOf({ ...base, kind: "gone", value: -figure.value }, direction));
    } else if (isPresent(delta)) steps.push(stepOf({ ...base, value: delta.value }, direction));
    else absent.push({ name: member.name, reason: delta.detail });
  }
  return { steps, absent };
}
