import type { Definition } from "#contract/intake.ts";
import type { EditableStructure } from "#contract/structure.ts";
import { formatMonth, monthName, monthOf, parseMonth, yearOf } from "#core/calendar/month.ts";
import { listed } from "#core/formats/listed.ts";
import { ChoiceWord, nameOf } from "../ui/choice-word.tsx";
import { DATES, DELIMITERS, ENCODINGS } from "./reading-choices.ts";
import type { ClauseProps } from "./reading-clause.ts";

/** Which sheet, or how columns are told apart and letters are written. */
export function FileClause({ draft, read }: ClauseProps) {
  const { reading } = draft.definition;
  const isStacked = (reading.stack ?? []).length > 0;
  return (
    <>
      {draft.sheets.length > 0 ? (
        <>
          {isStacked ? "Sheets" : "Sheet"}{" "}
          <ChoiceWord
            label="Sheet"
            words={isStacked ? stackWords(reading.stack!) : (reading.sheet ?? "")}
            choices={[
              ...(draft.stackable.length > 1
                ? [{ key: STACKED, name: stackWords(draft.stackable), note: "one under the other" }]
                : []),
              ...draft.sheets.map((name) => ({
                key: name,
                name,
                ...(draft.hiddenSheets.includes(name) ? { note: "hidden in the workbook" } : {}),
              })),
            ]}
            chosen={isStacked ? STACKED : (reading.sheet ?? "")}
            onChoose={(key) =>
              key === STACKED
                ? read({ sheet: draft.stackable[0]!.sheet, stack: draft.stackable })
                : read({ sheet: key, stack: undefined })
            }
          />
          {isStacked && ", one under the other"}
          {!isStacked && draft.hiddenSheets.includes(reading.sheet ?? "") && ", which the workbook hides"}, column
          names{" "}
        </>
      ) : (
        <>
          Columns separated by{" "}
          <ChoiceWord
            label="Delimiter"
            words={nameOf(DELIMITERS, reading.delimiter)}
            choices={DELIMITERS}
            chosen={reading.delimiter}
            onChoose={(delimiter) => read({ delimiter })}
          />{" "}
          in{" "}
          <ChoiceWord
            label="Encoding"
            words={nameOf(ENCODINGS, reading.encoding)}
            choices={ENCODINGS}
            chosen={reading.encoding}
            onChoose={(encoding) => read({ encoding: encoding as Definition["reading"]["encoding"] })}
          />
          , their names{" "}
        </>
      )}
    </>
  );
}

/** No sheet is called so: names of sheets hold no colon. */
const STACKED = "stacked:";

/** "January to June", "North and South". */
function stackWords(stack: readonly { readonly sheet: string }[]): string {
  const names = stack.map(({ sheet }) => sheet);
  return names.length > 3 ? `${names[0]} to ${names.at(-1)}` : listed(names);
}

/** How many lines a header may have, besides one. */
const HEADER_LINES = [2, 3, 4];

/** Where the names of the columns are. */
export function HeaderWord({ draft, read }: ClauseProps) {
  const { reading } = draft.definition;
  const lines = [...draft.preamble, ...draft.sample.raw].slice(0, 12).map((row) => row.line);
  const headerLines = [...new Set([reading.headerLine, ...draft.preamble.map((r) => r.line), ...lines])].sort(
    (a, b) => a - b,
  );
  const headerKey = reading.headerRows === 0 ? "none" : `${reading.headerLine}/${reading.headerRows}`;
  return (
    <ChoiceWord
      label="Header"
      words={
        reading.headerRows === 0
          ? "nowhere"
          : reading.headerRows > 1
            ? `in ${reading.headerRows} lines from line ${reading.headerLine}`
            : `in line ${reading.headerLine}`
      }
      choices={[
        ...headerLines.flatMap((line) => [
          { key: `${line}/1`, name: `in line ${line}` },
          ...(line === reading.headerLine
            ? HEADER_LINES.map((rows) => ({ key: `${line}/${rows}`, name: `in ${rows} lines from line ${line}` }))
            : []),
        ]),
        { key: "none", name: "nowhere", note: "columns are numbered" },
      ]}
      chosen={headerKey}
      onChoose={(key) => {
        if (key === "none") return read({ headerRows: 0 });
        const [headerLine, headerRows] = key.split("/").map(Number);
        read({ headerLine: headerLine!, headerRows: headerRows! });
      }}
    />
  );
}

/** How periods are written, or which month all lines are of. */
export function PeriodClause({ draft, structure, map }: ClauseProps) {
  const { mapping } = draft.definition.rules;
  const hasPeriod = Object.values(mapping.columns).some((meaning) => meaning.as === "period");
  return (
    <>
      {hasPeriod ? (
        <>
          , periods like{" "}
          <ChoiceWord
            label="Periods"
            words={nameOf(DATES, mapping.dateFormat)}
            choices={DATES}
            chosen={mapping.dateFormat}
            onChoose={(dateFormat) => map({ dateFormat: dateFormat as typeof mapping.dateFormat })}
          />
        </>
      ) : (
        <>
          , all for{" "}
          <ChoiceWord
            label="Month"
            words={mapping.fixed.month ? monthWords(mapping.fixed.month) : "which month?"}
            choices={monthChoices(structure).map((month) => ({ key: month, name: monthWords(month) }))}
            chosen={mapping.fixed.month ?? ""}
            onChoose={(month) => map({ fixed: { ...mapping.fixed, month } })}
          />
        </>
      )}
    </>
  );
}

function monthWords(month: string): string {
  const parsed = parseMonth(month)!;
  return `${monthName(parsed)} ${yearOf(parsed)}`;
}

/** The two years around the last closed month. */
function monthChoices(structure: EditableStructure): string[] {
  const today = new Date();
  const closed = parseMonth(structure.lastClosed?.month ?? "") ?? monthOf(today.getFullYear(), today.getMonth() + 1);
  return Array.from({ length: 24 }, (_, i) => formatMonth(closed + 6 - i));
}
