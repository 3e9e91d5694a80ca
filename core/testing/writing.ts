import type { Writing } from "../formats/writing.ts";

/** How tests write figures, unless they say it themselves. */
export const WRITING: Writing = { currency: "EUR", numbers: "1,234.5", dates: "30 November 2026" };
