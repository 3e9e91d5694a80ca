/** Keeps a currency sign and its figure on one line. */
export function unbroken(text: string): string {
  return text.replaceAll("€ ", "€\u00a0");
}
