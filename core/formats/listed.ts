/** Words as a sentence lists them: "a", "a and b", "a, b and c". */
export function listed(words: readonly string[], joint: "and" | "or" = "and"): string {
  return words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} ${joint} ${words.at(-1)!}`;
}
