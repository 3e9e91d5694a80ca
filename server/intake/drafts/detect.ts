import { detectDelimiter } from "#core/reading/detect-delimiter.ts";
import type { Encoding } from "#core/reading/detect-encoding.ts";
import { columnNames, detectHeader } from "#core/reading/header.ts";
import { profileColumns, type ColumnProfile } from "#core/reading/column-profile.ts";
import { readDate } from "#core/reading/read-date.ts";
import type { Reading } from "#core/reading/reading.ts";
import type { MappingView } from "#core/mapping/mapping-view.ts";
import { markOf, proposeMapping, proposeSteps, titleOf, unpivotFormat } from "#core/mapping/propose.ts";
import { columnsThrough, tidyTable } from "#core/tidy/tidy-run.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { Scale, TidyStep } from "#core/tidy/step.ts";
import { statedScale } from "#core/mapping/stated-scale.ts";
import { statedControl } from "#core/checks/control-total.ts";
import type { Definition } from "#contract/intake.ts";
import iconv from "iconv-lite";

/** How many rows of a file are kept at hand to show and to guess by. */
export const HEAD_ROWS = 400;

/** The rows at a file's head under their columns. */
export interface HeadTable {
  readonly preamble: readonly TidyRow[];
  readonly columns: readonly string[];
  readonly rows: readonly TidyRow[];
}

/** Parts head rows into what stands above the header, the column names and the data. */
export function headTable(head: readonly TidyRow[], reading: Pick<Reading, "headerLine" | "headerRows">): HeadTable {
  const preamble = head.filter((row) => row.line < reading.headerLine);
  const below = head.filter((row) => row.line >= reading.headerLine);
  const header = below.slice(0, reading.headerRows);
  const rows = below.slice(reading.headerRows);
  const width = Math.max(
    0,
    ...header.map((row) => row.cells.length),
    ...rows.slice(0, 50).map((row) => row.cells.length),
  );
  return {
    preamble,
    columns: columnNames(
      header.map((row) => row.cells),
      width,
    ),
    rows,
  };
}

/** The delimiter of a text file, by its first bytes. */
export function guessDelimiter(head: Buffer, encoding: Encoding): string {
  return detectDelimiter(iconv.decode(head, encoding).replace(/\r\n?/g, "\n"));
}

/** Where the header stands and how numbers are written, by the head's rows. */
export function guessReading(
  head: readonly TidyRow[],
  base: Pick<Reading, "encoding" | "delimiter" | "sheet">,
  view: MappingView,
): Reading {
  const place = detectHeader(head.map((row) => row.cells));
  const headerLine = head[place.line - 1]?.line ?? 1;
  const reading: Reading = { ...base, headerLine, headerRows: place.rows, decimalMark: "." };
  return { ...reading, decimalMark: markOf(profiles(headTable(head, reading), view)) };
}

/** What the columns of a head look like. */
export function profiles(table: HeadTable, view: MappingView): ColumnProfile[] {
  return profileColumns(
    table.columns,
    table.rows.map((row) => row.cells),
    view.calendar,
  );
}

/** Proposes everything about how a file comes in: steps, meanings, control figure. */
export function proposeDefinition(
  head: readonly TidyRow[],
  reading: Reading,
  { view, fileName }: { view: MappingView; fileName: string },
): Definition {
  const table = headTable(head, reading);
  const context = { mark: reading.decimalMark, calendar: view.calendar };
  const sample = { columns: table.columns, rows: table.rows.map((row) => row.cells) };
  const title = table.preamble.map((row) => row.cells.join(" ")).join(" ");
  const steps = proposeSteps(sample, view, `${title} ${fileName}`);
  const tidied = tidyTable(steps, { columns: table.columns, rows: table.rows }, context).table;
  const tidiedSample = { columns: tidied.columns, rows: tidied.rows.map((row) => row.cells) };
  const mapping = proposeMapping(profileColumns(tidied.columns, tidiedSample.rows, view.calendar), tidiedSample, {
    view,
    fileName,
    heading: table.preamble.flatMap((row) => row.cells).find((cell) => cell.trim() !== "") ?? titleOf(fileName),
  });
  const inFull = scaleSteps(
    title,
    tidied.columns.filter((name) => mapping.columns[name]?.as === "amount"),
  );
  const turned = steps.find((step) => step.kind === "unpivot");
  const format = turned && unpivotFormat(turned.columns, view);
  return {
    reading,
    rules: {
      steps: [...steps, ...inFull],
      mapping: format ? { ...mapping, dateFormat: format } : mapping,
      rejectedLines: [],
      rejectedRules: [],
    },
    answers: {
      control: statedControl(
        table.preamble.map((row) => row.cells),
        reading.decimalMark,
      ),
      acceptsDifference: false,
      posting: "new",
    },
  };
}

/** Amounts that the title, or their column's own head, says are in thousands or millions are written in full. */
function scaleSteps(title: string, columns: readonly string[]): TidyStep[] {
  const ofTitle = statedScale(title);
  const byScale = new Map<Scale, string[]>();
  for (const name of columns) {
    const by = statedScale(name) ?? ofTitle;
    if (by !== undefined) byScale.set(by, [...(byScale.get(by) ?? []), name]);
  }
  return [...byScale].map(([by, own]) => ({ kind: "scale", columns: own, by }));
}

/**
 * A remembered definition for a new file of the kind: where the header stands and the
 * control figure are the file's own; month columns that moved on are taken as they are now,
 * and periods may be written in another way than last time.
 */
export function renewDefinition(
  remembered: Definition,
  head: readonly TidyRow[],
  reading: Reading,
  { view, fileName }: { view: MappingView; fileName: string },
): Definition {
  const fresh = proposeDefinition(head, reading, { view, fileName });
  const freshTurn = fresh.rules.steps.find((step) => step.kind === "unpivot");
  const { columns } = headTable(head, reading);
  const steps = remembered.rules.steps.map((step) =>
    step.kind === "unpivot" && freshTurn && step.columns.some((c) => !columns.includes(c))
      ? { ...step, columns: freshTurn.columns }
      : step,
  );
  const { mapping } = remembered.rules;
  const dateFormat = stillReads(remembered, head, reading, view) ? mapping.dateFormat : fresh.rules.mapping.dateFormat;
  return {
    reading: { ...reading, decimalMark: remembered.reading.decimalMark },
    rules: { ...remembered.rules, steps, mapping: { ...mapping, dateFormat }, rejectedLines: [] },
    answers: { control: fresh.answers.control, acceptsDifference: false, posting: "new" },
  };
}

/** Whether the periods of a file's head are written as they were remembered. */
function stillReads(remembered: Definition, head: readonly TidyRow[], reading: Reading, view: MappingView): boolean {
  const { columns, rows } = headTable(head, reading);
  const place = columns.findIndex((name) => remembered.rules.mapping.columns[name]?.as === "period");
  const texts = rows.map((row) => (row.cells[place] ?? "").trim()).filter((text) => text !== "");
  const read = texts.filter((text) => readDate(text, remembered.rules.mapping.dateFormat, view.calendar)).length;
  return place < 0 || read >= texts.length / 2;
}

/** The columns that come out of a definition's steps, or those before the first step that cannot run. */
export function finalColumns(columns: readonly string[], definition: Definition, view: MappingView): readonly string[] {
  const through = columnsThrough(definition.rules.steps, columns, {
    mark: definition.reading.decimalMark,
    calendar: view.calendar,
  });
  return through.columns.at(-1) ?? columns;
}
