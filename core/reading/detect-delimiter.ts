/** Signs that part fields, in the order in which they are tried. */
export const DELIMITERS = [",", ";", "\t", "|"] as const;

/**
 * The sign that parts a text's fields: the one with which most lines have the same
 * number of fields, more than one. A comma when none does.
 */
export function detectDelimiter(text: string): string {
  const lines = sampleLines(text);
  let best: { delimiter: string; score: number } = { delimiter: ",", score: 0 };
  for (const delimiter of DELIMITERS) {
    const counts = lines.map((line) => countFields(line, delimiter));
    const mode = mostFrequent(counts.filter((c) => c > 1));
    if (mode === undefined) continue;
    const agreeing = counts.filter((c) => c === mode).length;
    // Many fields alike on many lines; a decimal comma gives two or three fields on some.
    const score = (agreeing / lines.length) * Math.min(mode, 12) ** 0.5;
    if (score > best.score + 1e-9) best = { delimiter, score };
  }
  return best.delimiter;
}

/** Complete lines of the head; line breaks inside quotes do not end one. */
function sampleLines(text: string): string[] {
  const lines: string[] = [];
  let start = 0;
  let quoted = false;
  for (let i = 0; i < text.length && lines.length < 120; i += 1) {
    const sign = text[i];
    if (sign === '"') quoted = !quoted;
    else if (sign === "\n" && !quoted) {
      const line = text.slice(start, i).replace(/\r$/, "");
      if (line !== "") lines.push(line);
      start = i + 1;
    }
  }
  if (lines.length === 0 && text.trim() !== "") lines.push(text.slice(start));
  return lines;
}

function countFields(line: string, delimiter: string): number {
  let fields = 1;
  let quoted = false;
  for (const sign of line) {
    if (sign === '"') quoted = !quoted;
    else if (sign === delimiter && !quoted) fields += 1;
  }
  return fields;
}

function mostFrequent(values: readonly number[]): number | undefined {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0];
}
