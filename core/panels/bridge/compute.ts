import { fiscalYearOf, fiscalYearStart, rangeName } from "../../calendar/fiscal-calendar.ts";
import { monthsBetween } from "../../calendar/month.ts";
import { basisOf } from "../../compare/basis-of.ts";
import { compareKpi, type Comparison } from "../../compare/compare-kpi.ts";
import type { Frame } from "../../compare/frame.ts";
import { outlookNote, outlookOf } from "../../compare/outlook.ts";
import { measureOver } from "../../compare/measure.ts";
import { codeOfScenario, type ScenarioCode } from "../../compare/scenario-code.ts";
import { SHOWN, type Side } from "../../compare/side.ts";
import { frameMonths, rangeWindow, spanWindow } from "../../compare/window.ts";
import { isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import { varianceWords } from "../../words/variance-words.ts";
import { isOrAre } from "../../formats/verb.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { basisName, kpiHead, notesOf, varianceFacts } from "../parts/kpi-head.ts";
import { isAdditive } from "../parts/part-of.ts";
import { beyondNotes, repetition, type Repetition } from "../parts/repetition.ts";
import { livedOn, shownMembers, type Lived } from "../parts/shown-member.ts";
import { accountPath, accountSteps } from "./account-steps.ts";
import { effectsOf, effectSteps, orZero } from "./effect-steps.ts";
import { comparedWindow, memberSides, memberSteps } from "./member-steps.ts";
import { monthSteps, outlookSteps } from "./month-steps.ts";
import { bySize, gathered, stepOf } from "./step.ts";
import { bridgeHeadline } from "./words.ts";
import type { BridgeBy, BridgeChoice, BridgeDefinition, BridgeStart, BridgeStep, BridgeAnswer } from "./schema.ts";
import type { Absence } from "../../figures/schema.ts";

/** Steps with what has to be said of them. */
interface Told {
  readonly steps: readonly BridgeStep[];
  readonly absent: readonly { readonly name: string; readonly reason: string }[];
  readonly refusal: string | null;
  readonly path: readonly { readonly key: string; readonly name: string }[];
  readonly repeated: Repetition | null;
}

const NOTHING: Told = { steps: [], absent: [], refusal: null, path: [], repeated: null };

export function computeBridge(
  definition: BridgeDefinition,
  choice: BridgeChoice,
  question: PanelQuestion,
): BridgeAnswer {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const from = choice.from ?? definition.from;
  const frame: Frame =
    from === "prior-period" || from === "prior-year" ? { ...asked.frame, basis: { kind: from } } : asked.frame;
  const context = measureContext(question);
  const comparison = compareKpi(kpi, frame, context);
  const isOwn = kpi.definition.key === definition.kpi;
  const shared = {
    kind: "bridge",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    from,
    axis: choice.axis ?? definition.axis ?? null,
    notes: notesOf(comparison, question),
  } as const;
  const title = definition.title !== undefined && isOwn ? definition.title : undefined;
  if (from === "to-date") return { ...shared, ...toYearEnd(kpi, frame, question, title) };

  const found = stepsOf(definition, choice.below ?? null, kpi, frame, comparison, question);
  const { delta } = comparison.variance;
  const start = comparison.basis.figure;
  const end = comparison.actualInCommon.figure;
  const facts = varianceFacts(comparison, kpi, question);
  const isBridged = isPresent(start) && isPresent(end) && isPresent(delta) && found.refusal === null;
  const { direction } = kpi.definition;
  const ordered = definition.order === "effect" ? bySize(found.steps) : found.steps;
  const told = isBridged ? gathered(withRest(ordered, delta.value, found, kpi), definition.top, direction) : [];
  // Where small steps are gathered, what is left of a group is no sum of it.
  const hasSubtotals =
    definition.hasSubtotals && definition.order === "tree" && !told.some(({ kind }) => kind === "others");
  const steps = hasSubtotals ? told : told.map((step) => ({ ...step, subtotal: null }));
  const name = basisName(comparison, question);
  const level = found.repeated?.level ?? null;
  const { words } = asked.answer;
  return {
    ...shared,
    notes: [...(found.repeated ? beyondNotes(found.repeated) : []), ...shared.notes],
    by: definition.by.kind,
    level,
    dimension: found.repeated?.dimension.key ?? null,
    path: found.path,
    headline: title ?? bridgeHeadline(kpi.definition.name, facts, steps),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}, from ${name} to Actual ${BY_WORDS[definition.by.kind](level ?? "")}, ${words.spanMonths}, for ${words.scope}`,
    start: isBridged ? { name, scenario: startCode(from, comparison, question), value: start.value } : null,
    end: isBridged
      ? { name: question.asked.answer.words.shown, scenario: shownCode(question), value: end.value }
      : null,
    steps,
    beyond: null,
    variance: comparison.variance,
    refusal: isBridged ? null : (found.refusal ?? (isPresent(delta) ? null : delta.detail)),
    absent: found.absent,
  };
}

const BY_WORDS: Readonly<Record<BridgeBy["kind"], (level: string) => string>> = {
  account: () => "by account",
  month: () => "by month",
  member: (level) => `by ${level}`,
  effects: (level) => `by volume, mix and price over ${level}`,
};

/** In whose code the end of a bridge is drawn. */
function shownCode({ asked: { frame }, company }: PanelQuestion): ScenarioCode {
  return frame.shown === undefined ? "actual" : codeOfScenario(frame.shown, company.coverage);
}

function startCode(
  from: BridgeStart,
  { isFallback, basis }: Comparison,
  { asked, company }: PanelQuestion,
): ScenarioCode {
  if (from === "prior-period" || from === "prior-year") return "prior-year";
  return isFallback ? codeOfScenario(basis.side.scenario, company.coverage) : asked.answer.basisCode;
}

function stepsOf(
  { by }: BridgeDefinition,
  below: string | null,
  kpi: CompiledKpi,
  frame: Frame,
  comparison: Comparison,
  question: PanelQuestion,
): Told {
  const context = measureContext(question);
  const { side: basis } = basisOf(kpi, frame, context);
  const { name } = kpi.definition;
  switch (by.kind) {
    case "account": {
      const steps = accountSteps(kpi, comparison, context, below);
      return steps
        ? { ...NOTHING, steps, path: accountPath(kpi, context.accounts, below) }
        : {
            ...NOTHING,
            refusal: `${name} is not a sum of accounts, so accounts have no steps. Use members or months instead.`,
          };
    }
    case "month":
      return kpi.formula.behaviour === "flow"
        ? { ...NOTHING, steps: monthSteps(kpi, basis, comparison, context) }
        : { ...NOTHING, refusal: `${name} does not add up over months, so months have no steps.` };
    case "member":
      return byMember(by, below, kpi, frame, basis, comparison, question);
    case "effects":
      return byEffects(by, kpi, frame, basis, comparison, question);
  }
}

function byMember(
  by: Extract<BridgeBy, { kind: "member" }>,
  below: string | null,
  kpi: CompiledKpi,
  frame: Frame,
  basis: Side | Absence,
  comparison: Comparison,
  question: PanelQuestion,
): Told {
  const lived = livedOnEnds(frame, basis, question);
  const repeated = opened(repetition(question, by, null, lived), below, lived, question);
  if (!isAdditive(kpi.definition.unit))
    return {
      ...NOTHING,
      repeated,
      refusal: `${kpi.definition.name} does not add up over its members: a breakdown compares them one by one.`,
    };
  const window = comparedWindow(spanWindow(measureContext(question), frame.span, frame.asOf), comparison);
  const sides = memberSides(kpi, basis, window, comparison.compared, repeated, question);
  const { steps, absent } = memberSteps(kpi, basis, window, sides, question);
  const refusal = steps.length === 0 && absent.length > 0 ? absent[0]!.reason : null;
  return { steps, absent: refusal === null ? absent : [], refusal, path: repeated.path, repeated };
}

/** Who is looked at between a bridge's own two ends, whatever the frame compares with. */
function livedOnEnds(frame: Frame, basis: Side | Absence, { company: { calendar } }: PanelQuestion): Lived {
  return livedOn(frameMonths(calendar, frame), "absent" in basis ? 0 : basis.shift);
}

/** The members of a level, where the one that was opened, and those above it, give way to those below them. */
function opened(repeated: Repetition, below: string | null, lived: Lived, question: PanelQuestion): Repetition {
  if (below === null) return repeated;
  const { dimension } = repeated;
  const path = repetition(question, { dimension: dimension.key, level: null }, below).path;
  const isOpen = new Set(path.map(({ key }) => key));
  const expand = (members: Repetition["members"]): Repetition["members"] =>
    members.flatMap((member) =>
      isOpen.has(member.key) ? expand(shownMembers(question, dimension, { parent: member.key, lived })) : [member],
    );
  return { ...repeated, members: expand(repeated.members), path };
}

function byEffects(
  by: Extract<BridgeBy, { kind: "effects" }>,
  kpi: CompiledKpi,
  frame: Frame,
  basis: Side | Absence,
  comparison: Comparison,
  question: PanelQuestion,
): Told {
  const repeated = repetition(question, by, null, livedOnEnds(frame, basis, question));
  const quantity = requireKpi(question.company, by.quantity);
  const refuse = (refusal: string): Told => ({ ...NOTHING, repeated, refusal });
  if (!isAdditive(kpi.definition.unit) || !isAdditive(quantity.definition.unit))
    return refuse("Volume, mix and price need an amount and a quantity that both add up.");
  const window = comparedWindow(spanWindow(measureContext(question), frame.span, frame.asOf), comparison);
  const sidesOf = (of: CompiledKpi) => memberSides(of, basis, window, comparison.compared, repeated, question);
  const quantities = sidesOf(quantity);
  const priced = sidesOf(kpi).map(({ member, compared }, i) => ({
    name: member.name,
    value: { before: orZero(compared.basis.figure), now: orZero(compared.actualInCommon.figure) },
    quantity: {
      before: orZero(quantities[i]!.compared.basis.figure),
      now: orZero(quantities[i]!.compared.actualInCommon.figure),
    },
  }));
  if (!priced.some(({ quantity: q }) => q.before !== 0 && q.now !== 0))
    return refuse(
      `${quantity.definition.name} has nothing to compare by ${repeated.level}: there is no price to tell apart from quantity.`,
    );
  return { ...NOTHING, steps: effectSteps(effectsOf(priced), kpi.definition.direction), repeated };
}

/** What the steps leave of Δ, as a step of its own: it is kept without a member, or its members cannot be compared. */
function withRest(
  steps: readonly BridgeStep[],
  delta: number,
  { absent, repeated }: Told,
  kpi: CompiledKpi,
): readonly BridgeStep[] {
  const rest = delta - steps.reduce((sum, { value }) => sum + value, 0);
  // Sums are whole minor units: what is left below one is no money.
  if (Math.abs(rest) < 0.005) return steps;
  const name =
    repeated && repeated.beyond.length > 0
      ? `All other ${repeated.dimension.plural}`
      : repeated && absent.length === 0
        ? `Without a ${repeated.dimension.name.toLowerCase()}`
        : "Not told apart";
  return [...steps, stepOf({ key: "rest", name, kind: "rest", value: rest }, kpi.definition.direction)];
}

type ToYearEnd = Omit<BridgeAnswer, "kind" | "frame" | "kpi" | "from" | "axis" | "notes">;

/** From the actual so far, month by month, to the year's end, and on to the plan. */
function toYearEnd(kpi: CompiledKpi, frame: Frame, question: PanelQuestion, title: string | undefined): ToYearEnd {
  const { company, asked } = question;
  const context = measureContext(question);
  const { calendar } = company;
  const outlook = outlookOf(kpi, frame, context);
  const start = fiscalYearStart(calendar, fiscalYearOf(calendar, frame.asOf));
  const closed = monthsBetween(start, start + outlook.closed - 1);
  const rest = monthsBetween(start + outlook.closed, start + 11);
  const toDate = closed.length === 0 ? null : measureOver(kpi, SHOWN, rangeWindow(closed), context).figure;
  const { definition } = kpi;
  const isSum = kpi.formula.behaviour === "flow";
  const isBridged = isSum && isPresent(outlook.figure) && (toDate === null || isPresent(toDate));
  const steps = isBridged && outlook.source ? outlookSteps(kpi, outlook, rest, context) : [];
  const basis = outlook.basis;
  const { side } = basisOf(kpi, frame, context);
  const planName = "absent" in side ? asked.answer.words.basis : side.name;
  const facts = {
    unit: definition.unit,
    decimals: definition.decimals,
    money: asked.unit,
    basisName: planName,
    ...outlook.variance,
  };
  const refusal = !isSum
    ? `${definition.name} does not add up over months: there is no way to the year's end step by step.`
    : isPresent(outlook.figure)
      ? null
      : outlook.figure.detail;
  return {
    by: "month",
    level: null,
    dimension: null,
    path: [],
    headline:
      title ??
      (isBridged
        ? `${definition.name} ${isOrAre(definition.name)} expected to end the year ${varianceWords(facts)}.`
        : `${definition.name}: ${refusal ?? ""}`),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}, from the year to date to its end by month, ${rangeName(calendar, start, start + 11)}, for ${asked.answer.words.scope}; ${outlookNote(outlook)}`,
    start: isBridged
      ? { name: "Year to date", scenario: "actual", value: toDate && isPresent(toDate) ? toDate.value : 0 }
      : null,
    end:
      isBridged && isPresent(outlook.figure)
        ? { name: "Outlook", scenario: "forecast", value: outlook.figure.value }
        : null,
    steps,
    beyond:
      isBridged && isPresent(outlook.figure) && isPresent(basis)
        ? {
            gap: {
              ...stepOf(
                {
                  key: "gap",
                  name: `To ${planName}`,
                  kind: "gap",
                  value: basis.value - outlook.figure.value,
                },
                definition.direction,
              ),
              // What is missing to the plan is as good or bad as the outlook against it.
              judgement: outlook.variance.judgement,
            },
            end: { name: planName, scenario: asked.answer.basisCode, value: basis.value },
          }
        : null,
    variance: outlook.variance,
    refusal,
    absent: [],
  };
}
