/** "23 November, 16:04" in the reader's own time. */
export function dateTimeWords(iso: string): string {
  return new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "long", hour: "2-digit", minute: "2-digit" });
}
