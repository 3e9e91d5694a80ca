import { tidyStep } from "../step-kind.ts";
import { DATE_FORMATS, readDate } from "../../reading/read-date.ts";

/** A row of a table has at least so many columns for a single text on it to be a note rather than a value. */
const LEAST_COLUMNS = 3;

/** Drops rows on which nothing stands but one text: notes, sources, headings of sections. They hold no amount. */
export const skipNotes = tidyStep(
  "skip-notes",
  {},
  {
    name: "Skip notes",
    note: "rows with nothing but one text",
    about: "Notes, sources and headings of sections hold no amount.",
    fresh: () => ({}),
    needs: () => [],
    changes: () => [],
    start: (_step, columns, { calendar }) => ({
      columns,
      take(row, emit) {
        if (columns.length >= LEAST_COLUMNS) {
          let only: string | undefined;
          let filled = 0;
          for (const cell of row.cells) {
            if (cell.trim() === "") continue;
            filled += 1;
            if (filled > 1) break;
            only = cell;
          }
          if (filled === 1 && /\p{L}/u.test(only!) && !DATE_FORMATS.some((format) => readDate(only!, format, calendar)))
            return;
        }
        emit(row);
      },
    }),
    say: () => "Skip rows with nothing but one text",
  },
);
