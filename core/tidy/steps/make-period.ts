import { z } from "zod";
import { formatMonth } from "../../calendar/month.ts";
import { clashes, monthOfParts, readPeriodParts, type PeriodParts } from "../../reading/table/period-parts.ts";
import { plainText, text } from "../settings.ts";
import { tidyStep } from "../step-kind.ts";
import { placesOf } from "../step-run.ts";

const partSchema = z.object({
  column: plainText,
  /** What its numbers are; of words it is seen. */
  is: z.enum(["year", "month", "period"]),
});

/** Makes months of what several columns say of them, or of one that says no year: "2025" and "7", "FY25" and "P07". */
export const makePeriod = tidyStep(
  "make-period",
  {
    parts: z.array(partSchema).min(1).max(4).readonly(),
    into: text("New column"),
    /** The year of all rows, where no column says it. */
    year: z.number().int().min(1900).max(2200).nullable(),
    isFiscal: z.boolean(),
  },
  {
    name: "Make months of several columns",
    note: "a year in one, a month in another",
    about: "The month is made of the year and the month or period of the row.",
    isOffered: false,
    fresh: ({ first, thisYear }) => ({
      parts: [{ column: first, is: "month" as const }],
      into: "Period",
      year: thisYear,
      isFiscal: false,
    }),
    needs: (step) => step.parts.map(({ column }) => column),
    makes: (step) => [step.into],
    takesAway: (step) => step.parts.map(({ column }) => column),
    changes: (step) => [step.into],
    madeFrom: (step, column) => (column === step.into ? [] : [column]),
    start: (step, columns, { calendar }) => {
      const places = placesOf(
        columns,
        step.parts.map(({ column }) => column),
      );
      const gone = new Set(places);
      const stay = columns.map((_, i) => i).filter((i) => !gone.has(i));
      const known = new Map<string, string>();
      const monthOf = (texts: readonly string[]): string => {
        if (texts.every((own) => own === "")) return "";
        let parts: PeriodParts = step.year === null ? {} : { year: step.year, isFiscal: step.isFiscal };
        for (const [i, own] of texts.entries()) {
          const found = partsOf(own, step.parts[i]!.is, step.isFiscal);
          if (found && !clashes(parts, found)) parts = { ...parts, ...found };
        }
        const month = monthOfParts(parts, calendar);
        return month === undefined ? texts.join(" ") : formatMonth(month);
      };
      return {
        columns: [...stay.map((i) => columns[i]!), step.into],
        take(row, emit) {
          const texts = places.map((place) => (row.cells[place] ?? "").trim());
          const key = texts.join("\n");
          let month = known.get(key);
          if (month === undefined) {
            month = monthOf(texts);
            if (known.size < 10_000) known.set(key, month);
          }
          emit({ line: row.line, cells: [...stay.map((i) => row.cells[i] ?? ""), month] });
        },
      };
    },
    say: ({ parts, into, year, isFiscal }) =>
      `Make ${into} of ${parts.map(({ column }) => column).join(" and ")}${year === null ? "" : `, in ${isFiscal ? "fiscal " : ""}year ${year}`}`,
  },
);

/** What a cell says, of which bare numbers are what its column is. */
function partsOf(text: string, is: z.infer<typeof partSchema>["is"], isFiscal: boolean): PeriodParts | undefined {
  if (/^\d{1,3}$/.test(text)) {
    const number = Number(text);
    if (is === "year" || number < 1 || number > 12) return undefined;
    return is === "month" ? { month: number } : { ordinal: number };
  }
  const { parts } = readPeriodParts(text);
  return is === "year" && parts.year !== undefined
    ? { year: parts.year, isFiscal: (parts.isFiscal ?? false) || isFiscal }
    : parts;
}
