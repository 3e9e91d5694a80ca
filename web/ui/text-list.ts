/**
 * The texts of a list as a person types it: parted by a sign, spaces around them left out, empty ones too.
 * A text in double quotes keeps spaces and the sign itself; a quote within it is doubled.
 */
export function parseTextList(text: string, sign: "," | ";"): string[] {
  const part = sign === "," ? /\s*"((?:[^"]|"")*)"\s*(?=,|$)|[^,]+/g : /\s*"((?:[^"]|"")*)"\s*(?=;|$)|[^;]+/g;
  return [...text.matchAll(part)]
    .map(([whole, quoted]) => (quoted === undefined ? whole.trim() : quoted.replaceAll('""', '"')))
    .filter((item) => item !== "");
}

/** The list as it is typed. */
export function writeTextList(items: readonly string[], sign: "," | ";"): string {
  return items
    .map((item) =>
      item.includes(sign) || item.includes('"') || item.trim() !== item ? `"${item.replaceAll('"', '""')}"` : item,
    )
    .join(`${sign} `);
}
