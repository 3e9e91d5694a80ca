/** Texts a spreadsheet would run as a formula. */
const FORMULA = /^[=+\-@\t\r]/;

/**
 * A row of comma-separated values. Texts that a spreadsheet would take for a formula get
 * an apostrophe in front; numbers, negative ones too, stay numbers. Where decimals stand behind a comma, cells stand
 * apart by semicolons, as spreadsheets there expect it.
 */
export function csvRow(cells: readonly (string | number | null)[], decimal: "." | "," = "."): string {
  return `${cells.map((cell) => csvCell(cell, decimal)).join(decimal === "," ? ";" : ",")}\r\n`;
}

function csvCell(cell: string | number | null, decimal: "." | ","): string {
  if (cell === null) return "";
  const text = typeof cell === "number" ? String(cell).replace(".", decimal) : cell;
  const isNumber = typeof cell === "number" || /^-?\d+(\.\d+)?$/.test(text);
  const safe = !isNumber && FORMULA.test(text) ? `'${text}` : text;
  return (decimal === "," ? /[";\r\n]/ : /[",\r\n]/).test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
