/** A number in [0, 1) that depends on nothing but the words it is made of (FNV-1a, mixed as in murmur3). */
export function uniform(...words: readonly (string | number)[]): number {
  let hash = 0x811c9dc5;
  for (const character of words.join("\u001f")) {
    hash = Math.imul(hash ^ character.codePointAt(0)!, 0x01000193);
  }
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return ((hash ^ (hash >>> 16)) >>> 0) / 2 ** 32;
}

/** A factor around 1 with the given spread (about one standard deviation), never far off: the mean of three uniforms. */
export function wobble(spread: number, ...words: readonly (string | number)[]): number {
  const mean = (uniform("a", ...words) + uniform("b", ...words) + uniform("c", ...words)) / 3;
  return 1 + (mean - 0.5) * 6 * spread;
}

/** Splits a whole number into `parts` whole numbers of about equal size whose sum is exact. */
export function splitWhole(total: number, parts: number, ...words: readonly (string | number)[]): number[] {
  const weights = Array.from({ length: parts }, (_, i) => 0.6 + 0.8 * uniform("split", i, ...words));
  return distribute(total, weights);
}

/** Distributes a whole number by weights; the parts are whole and their sum is exact. */
export function distribute(total: number, weights: readonly number[]): number[] {
  const sum = weights.reduce((a, b) => a + b, 0);
  let given = 0;
  let seen = 0;
  return weights.map((weight) => {
    seen += weight;
    const upTo = Math.round((total * seen) / sum);
    const part = upTo - given;
    given = upTo;
    return part;
  });
}
