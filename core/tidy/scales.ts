/** What amounts written in a unit of many are multiplied by. */
export const SCALES = [100, 1000, 1_000_000, 1_000_000_000] as const;
export type Scale = (typeof SCALES)[number];

/** In words, which read alike however numbers are written. */
export const SCALE_WORDS: Readonly<Record<Scale, string>> = {
  100: "a hundred",
  1000: "a thousand",
  1_000_000: "a million",
  1_000_000_000: "a billion",
};
