/** Texts a spreadsheet would run as a formula. */
const FORMULA = /^[=+\-@\t\r]/;

/**
 * A row of comma-separated values. Texts that a spreadsheet would take for a formula get
 * an apostrophe in front; numbers, negative ones too, stay numbers.
 */
export function csvRow(cells: readonly (string | number | null)[]): string {
  return `${cells.map(csvCell).join(",")}\r\n`;
}

function csvCell(cell: string | number | null): string {
  if (cell === null) return "";
  const text = String(cell);
  const isNumber = typeof cell === "number" || /^-?\d+(\.\d+)?$/.test(text);
  const safe = !isNumber && FORMULA.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
