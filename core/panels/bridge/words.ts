import { varianceWords, type VarianceFacts } from "../../words/variance-words.ts";
import { isOrAre } from "../../formats/verb.ts";
import { deltaStyle, isWrittenZero, writeWithUnit } from "../../formats/number-words.ts";
import type { BridgeStep } from "./schema.ts";

/** A step that goes the other way is worth a word from this part of the largest one on. */
const WORTH_A_WORD = 0.1;

/**
 * What a bridge says: how the KPI stands, which step explains most of it, and which goes the other way.
 * "Freight revenue explains € 724k of it; ticket revenue takes € 310k back."
 */
export function bridgeHeadline(name: string, facts: VarianceFacts, steps: readonly BridgeStep[]): string {
  const lead = `${name} ${isOrAre(name)} ${varianceWords(facts)}`;
  if (!("value" in facts.delta)) return lead;
  const total = facts.delta.value;
  const style = deltaStyle(facts.unit, facts.decimals, facts.money);
  const write = (value: number) => writeWithUnit(Math.abs(value), style);
  const told = steps.filter(({ kind, value }) => kind !== "others" && kind !== "rest" && !isWrittenZero(value, style));
  const along = largest(told, (value) => value > 0 === total > 0);
  const against = largest(told, (value) => value > 0 !== total > 0);
  if (!along) return `${lead}.`;
  const back =
    against && Math.abs(against.value) >= WORTH_A_WORD * Math.abs(along.value)
      ? `; ${inSentence(against)} ${against.value > 0 ? "gives" : "takes"} ${write(against.value)} back`
      : "";
  // A step larger than the whole explains more than there is: it says what it does by itself.
  const does = Math.abs(along.value) > Math.abs(total) ? (along.value > 0 ? "adds" : "takes") : "explains";
  return `${lead}: ${inSentence(along)} ${does} ${write(along.value)}${does === "explains" ? " of it" : ""}${back}.`;
}

function largest(steps: readonly BridgeStep[], goes: (value: number) => boolean): BridgeStep | undefined {
  return steps.filter(({ value }) => goes(value)).sort((a, b) => Math.abs(b.value) - Math.abs(a.value))[0];
}

/** Members have names of their own; accounts and effects are plain words. */
function inSentence({ name, member }: BridgeStep): string {
  return member ? name : name.charAt(0).toLowerCase() + name.slice(1);
}
