import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { normalQuantile } from "./distributions.ts";

/** Random numbers of a seed: the same on every machine, in the browser and on the server. */
export interface Random {
  /** Between 0 and 1, neither included. */
  readonly uniform: () => number;
  /** Of mean 0 and variance 1. */
  readonly normal: () => number;
}

export function randomOf(seed: number): Random {
  const generator = xoroshiro128plus(seed);
  const uniform = () => Math.min(1 - 2 ** -53, Math.max(2 ** -53, uniformFloat64(generator)));
  return { uniform, normal: () => normalQuantile(uniform()) };
}
