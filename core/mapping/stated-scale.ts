import type { Scale } from "../tidy/scales.ts";

const CURRENCY = "usd|eur|gbp|chf|sek|nok|dkk|jpy|[€$£¥]";
const THOUSAND = new RegExp(
  `(?:${CURRENCY}) ?(?:thousands?|tsd\\.?|tausend|k(?![\\p{L}])|'?000s?(?!\\d))|(?<![\\p{L}])in (?:thousands?|tsd\\.?|tausend)|(?<![\\p{L}])(?:teur|tusd|tchf|t€|k€|k\\$|keur|kusd|kchf)(?![\\p{L}])|\\('000s?\\)`,
  "iu",
);
const MILLION = new RegExp(
  `(?:${CURRENCY}) ?(?:millions?|mio\\.?|mn|m(?![\\p{L}]))|(?<![\\p{L}])in (?:millions?|mio\\.?|millionen)|(?<![\\p{L}])(?:meur|musd|mchf|m€|m\\$)(?![\\p{L}])`,
  "iu",
);

/** The unit of many that a title or a column's head says its amounts are in: "USD thousand", "in Mio", "Revenue (k€)". */
export function statedScale(text: string): Scale | undefined {
  if (THOUSAND.test(text)) return 1000;
  return MILLION.test(text) ? 1_000_000 : undefined;
}
