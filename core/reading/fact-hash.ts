import type { Fact } from "../cube/fact.ts";
import { hashText } from "./names.ts";

/**
 * Numbers of 53 bits that stand for a fact: `content` for account, amount, reference and
 * members, whenever it was posted; `place` for the same in one scenario and on one date.
 * Different facts hardly ever share one. Members count in the order of their dimensions.
 */
export function factHashes(fact: Fact): { content: number; place: number } {
  let a = mix(hashText(fact.reference ?? "", hashText(fact.account)), fact.amount);
  let b = mix(hashText(fact.account, hashText(fact.reference ?? "", 0x9747b28c)), fact.amount);
  for (const dimension in fact.members) {
    const member = fact.members[dimension]!;
    a = hashText(member, hashText(dimension, a));
    b = hashText(member, b ^ 0x5bd1e995);
  }
  const date = fact.month * 32 + (fact.day ?? 0);
  return { content: join53(a, b), place: join53(mix(hashText(fact.scenario, a), date), mix(b, date)) };
}

/** A number of 53 bits that stands for a row's cells. Different rows hardly ever share one. */
export function hashRow(cells: readonly string[]): number {
  let [a, b] = [0x811c9dc5, 0x9747b28c];
  for (const cell of cells) {
    a = mix(hashText(cell, a), cell.length + 1);
    b = mix(hashText(cell, b), cell.length + 1);
  }
  return join53(a, b);
}

/** Stirs a whole number into a hash of 32 bits (the finish of MurmurHash3, Appleby 2011). */
function mix(hash: number, value: number): number {
  let h = hash ^ (value | 0) ^ Math.imul((value / 0x100000000) | 0, 0x27d4eb2d);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

function join53(high: number, low: number): number {
  // Never 0, which the sets of hashes keep for free places.
  return high * 0x200000 + (low >>> 11) || 1;
}
