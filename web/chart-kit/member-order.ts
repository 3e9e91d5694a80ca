import type { RepeatOrder } from "#core/panels/parts/repetition.ts";
import type { Choice } from "../ui/choice-word.tsx";

const WORDS: Readonly<Record<RepeatOrder, readonly [forward: string, reversed: string]>> = {
  set: ["in their own order", "in their own order, reversed"],
  value: ["highest first", "lowest first"],
  attainment: ["best against the basis first", "worst against the basis first"],
  variance: ["best variance first", "worst variance first"],
  name: ["by name", "by name, reversed"],
};

/** An order and its direction as one choice. */
export function orderKey(order: RepeatOrder, isReversed: boolean): string {
  return `${order}.${isReversed ? "reversed" : "forward"}`;
}

/** Reads what `orderKey` writes. */
export function parseOrder(key: string): { order: RepeatOrder; isReversed: boolean } {
  const [order, direction] = key.split(".") as [RepeatOrder, string];
  return { order, isReversed: direction === "reversed" };
}

/** An order in words. */
export function orderWords(order: RepeatOrder, isReversed: boolean): string {
  return WORDS[order][isReversed ? 1 : 0];
}

/** All orders to choose from. */
export const ORDER_CHOICES: readonly Choice[] = (Object.keys(WORDS) as RepeatOrder[]).flatMap((order) =>
  [false, true].map((isReversed) => ({ key: orderKey(order, isReversed), name: orderWords(order, isReversed) })),
);

/** How many members can stand apart. */
export const TOP_CHOICES: readonly Choice[] = [
  { key: "all", name: "all of them" },
  ...[3, 5, 6, 10, 20].map((top) => ({ key: String(top), name: topWords(top) })),
];

/** "the first 5, the others together" */
export function topWords(top: number | null): string {
  return top === null ? "all of them" : `the first ${top}, the others together`;
}
