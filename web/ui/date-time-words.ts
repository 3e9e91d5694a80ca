import { parseDay } from "#core/calendar/days.ts";
import { monthOf } from "#core/calendar/month.ts";
import { writeDay } from "#core/formats/day-words.ts";
import { writing } from "#core/formats/writing.ts";

/** "23 November, 16:04", or as the reader writes days, in the reader's own time. */
export function dateTimeWords(iso: string): string {
  const at = new Date(iso);
  const time = at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  const day = writeDay({ month: monthOf(at.getFullYear(), at.getMonth() + 1), day: at.getDate() });
  const isThisYear = at.getFullYear() === new Date().getFullYear() && writing().dates !== "2026-11-30";
  return `${isThisYear ? day.replace(/,? \d{4}$/, "") : day}, ${time}`;
}

/** "30 November 2026" of "2026-11-30", as the reader writes days. */
export function dayWords(iso: string): string {
  const day = parseDay(iso);
  return day ? writeDay(day) : iso;
}
