/** Finds whole words in any language, whatever their case: `\b` knows no letters beyond ASCII. Alternatives stand between bars. */
export function wholeWords(alternatives: string): RegExp {
  return new RegExp(`(?<![\\p{L}])(?:${alternatives})(?![\\p{L}])`, "iu");
}
