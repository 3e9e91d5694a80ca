import { labelWidth } from "./labels.ts";

/** A text as far as it fits a width in pixels, with a mark where something is missing. */
export function shorten(text: string, width: number): string {
  if (labelWidth(text) <= width) return text;
  const kept = Math.max(1, Math.floor(text.length * (width / labelWidth(text))) - 1);
  return `${text.slice(0, kept).trimEnd()}…`;
}
