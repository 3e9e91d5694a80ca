import { isDeepStrictEqual } from "node:util";
import { detectDelimiter } from "#core/reading/detect-delimiter.ts";
import type { Encoding } from "#core/reading/detect-encoding.ts";
import { columnNames, detectHeader } from "#core/reading/header.ts";
import { findBody, type TableBody } from "#core/reading/table/grid.ts";
import { understandTable, type Understanding } from "#core/mapping/understand-table.ts";
import { profileColumns, type ColumnProfile } from "#core/reading/column-profile.ts";
import { readDate } from "#core/reading/read-date.ts";
import type { Reading } from "#core/reading/reading.ts";
import type { DecimalMark } from "#core/reading/read-number.ts";
import { markOfRates } from "#core/mapping/propose-rates.ts";
import { bringsRates, type MappingView } from "#core/mapping/mapping-view.ts";
import type { Mapping } from "#core/mapping/mapping.ts";
import { markOf } from "#core/mapping/table-mark.ts";
import { proposeMapping } from "#core/mapping/propose.ts";
import { proposeSteps, unpivotFormat } from "#core/mapping/propose-steps.ts";
import { titleOf } from "#core/mapping/file-title.ts";
import { columnsThrough, tidyTable } from "#core/tidy/tidy-run.ts";
import type { LookupTable } from "#core/tidy/lookup-table.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import { proposeAmount } from "#core/mapping/propose-amount.ts";
import { proposeLookUps } from "#core/mapping/propose-look-ups.ts";
import type { Scale } from "#core/tidy/scales.ts";
import type { TidyStep } from "#core/tidy/steps/index.ts";
import { statedScale } from "#core/mapping/stated-scale.ts";
import { statedControl } from "#core/checks/control-total.ts";
import type { TidyContext } from "#core/tidy/step-run.ts";
import type { Definition } from "#contract/intake.ts";
import iconv from "iconv-lite";
import type { Sample } from "#core/mapping/sample.ts";
import type { DraftRecord } from "./draft.ts";

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
  const body = findBody(head);
  const place = body && body.header.length > 0 ? placeOf(body) : detectHeader(head.map((row) => row.cells));
  const headerLine = head[place.line - 1]?.line ?? 1;
  const reading: Reading = { ...base, headerLine, headerRows: place.rows, decimalMark: "." };
  const told = profiles(headTable(head, reading), view);
  return { ...reading, decimalMark: markOf(body ? told.filter((_, i) => body.figures.includes(i)) : told) };
}

function placeOf({ header }: TableBody): { line: number; rows: number } {
  return { line: header[0]! + 1, rows: header.at(-1)! - header[0]! + 1 };
}

/** What the columns of a head look like. */
export function profiles(table: HeadTable, view: MappingView): ColumnProfile[] {
  return profileColumns(
    table.columns,
    table.rows.map((row) => row.cells),
    view.calendar,
  );
}

/** What a proposal is made from besides the file's first rows. */
export interface Proposing {
  readonly view: MappingView;
  readonly fileName: string;
  /** Tables at hand that rows may be looked up in. */
  readonly tables?: readonly LookupTable[];
  /** Rows from further below with texts that the first ones do not have. */
  readonly further?: readonly TidyRow[] | undefined;
}

/** Proposes everything about how a file comes in: steps, meanings, control figure. */
export function proposeDefinition(head: readonly TidyRow[], reading: Reading, proposing: Proposing): Definition {
  const { view, fileName, tables = [] } = proposing;
  const table = headTable(head, reading);
  const title = titleAbove(table);
  const after = (own: readonly TidyStep[]) => sampleAfter(table, reading, own, proposing);
  const understood = understand(head, reading, proposing);
  const first = proposeSteps(after([]), view, { title: `${title} ${fileName}`, understood });
  const looked = [...first, ...proposeLookUps(after(first), tables)];
  const known = after(looked);
  const amount = proposeAmount(
    profileColumns(known.columns, known.rows, view.calendar),
    known,
    `${title} ${titleOf(fileName)}`,
  );
  const steps = amount ? [...looked, amount] : looked;
  const mapping = proposeMeanings(head, reading, steps, proposing);
  if (bringsRates(mapping))
    reading = { ...reading, decimalMark: markOfColumns(after(steps), mapping) ?? reading.decimalMark };
  const inFull = scaleSteps(
    title,
    after(steps).columns.filter((name) => mapping.columns[name]?.as === "amount"),
    mapping,
  );
  return {
    reading,
    rules: {
      steps: [...steps, ...inFull],
      mapping: withYearDoubt(mapping, [...steps, ...inFull], understood),
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

/** Asks which year months are of, where the title's may be the calendar's or the fiscal one. */
function withYearDoubt(mapping: Mapping, steps: readonly TidyStep[], understood: Understanding | undefined): Mapping {
  const other = understood?.otherYear;
  if (!other) return mapping;
  const changed = new Map(understood!.steps.map((step, i) => [step.kind, other.steps[i]!] as const));
  const fiscal = steps.map((step) =>
    step.kind === "turn" || step.kind === "make-period" ? (changed.get(step.kind) ?? step) : step,
  );
  return {
    ...mapping,
    doubts: [
      ...(mapping.doubts ?? []),
      {
        key: "year",
        text: `The months have no year of their own, and the title says ${other.year}. Is that the calendar year ${other.year}, or the fiscal year that ends in ${other.year}?`,
        ways: [
          { name: `Calendar year ${other.year}`, steps },
          { name: `Fiscal year ending in ${other.year}`, steps: fiscal },
        ],
        settled: null,
      },
    ],
  };
}

/** The table as it is understood below the header that the reading says. */
function understand(
  head: readonly TidyRow[],
  { headerLine, headerRows, decimalMark, sheet }: Reading,
  { view, fileName }: Proposing,
): Understanding | undefined {
  if (headerRows === 0) return undefined;
  return understandTable(head, {
    calendar: view.calendar,
    mark: decimalMark,
    names: [...(sheet === null ? [] : [sheet]), fileName],
    header: { line: headerLine, rows: headerRows },
  });
}

/** Proposes what the columns mean that steps leave. */
export function proposeMeanings(
  head: readonly TidyRow[],
  reading: Reading,
  steps: readonly TidyStep[],
  proposing: Proposing,
): Mapping {
  const { view, fileName } = proposing;
  const table = headTable(head, reading);
  const sample = sampleAfter(table, reading, steps, proposing);
  const mapping = proposeMapping(profileColumns(sample.columns, sample.rows, view.calendar), sample, {
    view,
    fileName,
    understood: understand(head, reading, proposing),
    raw: { columns: table.columns, rows: table.rows.map((row) => row.cells) },
    heading: table.preamble.flatMap((row) => row.cells).find((cell) => cell.trim() !== "") ?? titleOf(fileName),
  });
  const turned = steps.find((step) => step.kind === "unpivot");
  const format = turned && unpivotFormat(turned.columns, view);
  return format ? { ...mapping, dateFormat: format } : mapping;
}

/**
 * Meanings for columns that a change of the steps brings: all of them anew where nothing was changed by hand so far, else
 * of the new columns only.
 */
export function meaningsForSteps(
  head: readonly TidyRow[],
  { before, after }: { before: Definition; after: Definition },
  proposing: Proposing,
): Mapping {
  const { mapping } = after.rules;
  const columnsOf = ({ rules, reading }: Definition) =>
    sampleAfter(headTable(head, reading), reading, rules.steps, proposing).columns;
  const known = new Set(columnsOf(before));
  const brought = columnsOf(after).filter((name) => !known.has(name));
  if (brought.length === 0) return mapping;
  const fresh = proposeMeanings(head, after.reading, after.rules.steps, proposing);
  const proposed = proposeMeanings(head, before.reading, before.rules.steps, proposing);
  if (isDeepStrictEqual(plain(mapping), plain(proposed))) return fresh;
  const columns = Object.fromEntries(
    brought.flatMap((name) => {
      const meaning = fresh.columns[name];
      return meaning?.as === "dimension" || meaning?.as === "ignore" ? [[name, meaning] as const] : [];
    }),
  );
  const used = new Set(Object.values(columns).flatMap((m) => (m.as === "dimension" ? [m.dimension] : [])));
  const dimensions = fresh.creates.dimensions.filter(
    ({ key }) => used.has(key) && !mapping.creates.dimensions.some((own) => own.key === key),
  );
  return {
    ...mapping,
    columns: { ...columns, ...mapping.columns },
    creates: { ...mapping.creates, dimensions: [...mapping.creates.dimensions, ...dimensions] },
  };
}

/** Without what was left out, as it comes back over the wire. */
function plain(mapping: Mapping): unknown {
  return JSON.parse(JSON.stringify(mapping));
}

/** What steps make of a file's first rows; what stands before the first one that cannot run. */
function sampleAfter(
  table: HeadTable,
  reading: Reading,
  steps: readonly TidyStep[],
  { view, tables = [], further = [] }: Proposing,
): Sample {
  const context: TidyContext = {
    mark: reading.decimalMark,
    calendar: view.calendar,
    tables: new Map(tables.map((own) => [own.key, own])),
  };
  const { problem } = columnsThrough(steps, table.columns, context);
  const runnable = problem ? steps.slice(0, problem.step) : steps;
  const cellsAfter = (rows: readonly TidyRow[]) => tidyTable(runnable, { columns: table.columns, rows }, context).table;
  const tidied = cellsAfter(table.rows);
  return {
    columns: tidied.columns,
    rows: tidied.rows.map((row) => row.cells),
    further: cellsAfter(further).rows.map((row) => row.cells),
  };
}

/** The decimal mark of the columns that hold rates. */
function markOfColumns({ columns, rows }: Sample, mapping: Mapping): DecimalMark | undefined {
  const places = columns.flatMap((name, i) => (mapping.columns[name]?.as === "amount" ? [i] : []));
  return markOfRates(rows.flatMap((row) => places.map((place) => row[place] ?? "")));
}

function titleAbove(table: HeadTable): string {
  return table.preamble.map((row) => row.cells.join(" ")).join(" ");
}

/** Amounts that the title, or their column's own head, says are in thousands or millions are written in full. */
function scaleSteps(title: string, columns: readonly string[], mapping: Mapping): TidyStep[] {
  const account = Object.entries(mapping.columns).find(([, meaning]) => meaning.as === "account")?.[0];
  const counted = new Set(mapping.creates.accounts.filter(({ unit }) => unit.kind === "count").map(({ key }) => key));
  const values = Object.entries(mapping.accounts).flatMap(([text, decision]) =>
    "to" in decision && counted.has(decision.to) ? [text] : [],
  );
  const except = account !== undefined && values.length > 0 ? { except: { column: account, values } } : {};
  const ofTitle = statedScale(title);
  const byScale = new Map<Scale, string[]>();
  for (const name of columns) {
    const by = statedScale(name) ?? ofTitle;
    if (by !== undefined) byScale.set(by, [...(byScale.get(by) ?? []), name]);
  }
  return [...byScale].map(([by, own]) => ({ kind: "scale", columns: own, by, ...except }));
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
  proposing: Proposing,
): Definition {
  const { view, tables = [] } = proposing;
  const fresh = proposeDefinition(head, reading, proposing);
  const { columns } = headTable(head, reading);
  const freshYear = fresh.rules.steps.find((step) => step.kind === "make-period")?.year ?? null;
  const freshTurn = fresh.rules.steps.find((step) => turnedColumns(step).length > 0);
  const steps = remembered.rules.steps.map((step): TidyStep => {
    const hasMovedOn = turnedColumns(step).some((name) => !columns.includes(name));
    if (hasMovedOn && freshTurn) return movedOn(step, freshTurn);
    // The year of a title is the file's own.
    if (step.kind === "make-period" && step.year !== null) return { ...step, year: freshYear ?? step.year };
    // A sheet of the file itself is looked up in as it is now.
    if (step.kind === "look-up")
      return { ...step, table: tables.find(({ name }) => name === step.named)?.key ?? step.table };
    return step;
  });
  const { mapping } = remembered.rules;
  const isTurnedAnew = steps.some((step, i) => step.kind !== remembered.rules.steps[i]!.kind);
  const dateFormat =
    !isTurnedAnew && stillReads(remembered, head, reading, view) ? mapping.dateFormat : fresh.rules.mapping.dateFormat;
  return {
    reading: { ...reading, decimalMark: remembered.reading.decimalMark },
    rules: {
      ...remembered.rules,
      ...answeredAsBefore({ steps, mapping: { ...mapping, dateFormat } }, fresh.rules.mapping.doubts),
      rejectedLines: [],
    },
    answers: { control: fresh.answers.control, acceptsDifference: false, posting: "new" },
  };
}

/** The columns that a step makes rows of. */
export function turnedColumns(step: TidyStep): readonly string[] {
  if (step.kind === "unpivot") return step.columns;
  return step.kind === "turn" ? step.turned.map(({ name }) => name) : [];
}

/** A step that turned the columns of a former file, for those that there are now, under the names that it gave. */
function movedOn(step: TidyStep, fresh: TidyStep): TidyStep {
  const [valueInto, into] =
    step.kind === "unpivot"
      ? [step.valueInto, [step.nameInto]]
      : step.kind === "turn"
        ? [step.valueInto, step.into]
        : [undefined, []];
  if (valueInto === undefined) return step;
  if (fresh.kind === "unpivot" && into.length === 1) return { ...fresh, nameInto: into[0]!, valueInto };
  if (fresh.kind === "turn" && fresh.into.length === into.length) return { ...fresh, into, valueInto };
  return step;
}

/** Questions that a new file of a kind asks again are answered as they were for the former one. */
function answeredAsBefore(
  { steps, mapping }: { readonly steps: readonly TidyStep[]; readonly mapping: Mapping },
  asked: Mapping["doubts"] = [],
): { steps: readonly TidyStep[]; mapping: Mapping } {
  const { doubts: former = [], ...rest } = mapping;
  let own = steps;
  const doubts = asked.map((doubt) => {
    const before = former.find(({ key }) => key === doubt.key);
    const way = doubt.ways[before?.ways.findIndex(({ name }) => name === before.settled) ?? -1];
    if (!way) return doubt;
    if (way.steps)
      own = own.map(
        (step) => way.steps!.find((other) => other.kind === step.kind && turnedColumns(other).length > 0) ?? step,
      );
    return { ...doubt, settled: way.name };
  });
  return { steps: own, mapping: { ...rest, ...(doubts.length > 0 ? { doubts } : {}) } };
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
export function finalColumns(
  columns: readonly string[],
  { definition, tables }: Pick<DraftRecord, "definition" | "tables">,
  view: MappingView,
): readonly string[] {
  const through = columnsThrough(definition.rules.steps, columns, tidyContext({ definition, tables }, view));
  return through.columns.at(-1) ?? columns;
}

/** What a draft's steps read by. */
export function tidyContext(
  { definition, tables }: Pick<DraftRecord, "definition" | "tables">,
  view: MappingView,
): TidyContext {
  return { mark: definition.reading.decimalMark, calendar: view.calendar, tables };
}
