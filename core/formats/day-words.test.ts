import { expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { daysOfMonth, dayWithin, shortDay, writeDay } from "./day-words.ts";
import { DATE_WRITINGS, inWriting } from "./writing.ts";

it("writes days in the order their reader is used to", () => {
  const day = { month: monthOf(2026, 11), day: 5 };
  const written = DATE_WRITINGS.map((dates) =>
    inWriting({ currency: "EUR", numbers: "1,234.5", dates }, () => [
      writeDay(day),
      dayWithin(day, "FY27"),
      shortDay(day),
      daysOfMonth(day),
    ]),
  );
  expect(written).toEqual([
    ["5 November 2026", "5 November FY27", "5 Nov", "1–5 November"],
    ["November 5, 2026", "November 5, FY27", "Nov 5", "November 1–5"],
    ["2026-11-05", "2026-11-05", "11-05", "November 1–5"],
  ]);
});
