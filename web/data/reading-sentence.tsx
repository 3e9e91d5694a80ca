import type { EditableStructure } from "#contract/structure.ts";
import type { Definition, Draft } from "#contract/intake.ts";
import { formatMonth, monthName, monthOf, parseMonth, yearOf } from "#core/calendar/month.ts";
import { newKey } from "#core/mapping/names.ts";
import { titleOf } from "#core/mapping/propose.ts";
import { ChoiceWord, type Choice } from "../ui/choice-word.tsx";
import { DATES, DELIMITERS, ENCODINGS, MARKS, SIGNS } from "./reading-choices.ts";

const NEW_DATASET = "new dataset";

/** How the file is read and where it goes, as one sentence; each bold word is a guess that can be changed. */
export function ReadingSentence({
  draft,
  structure,
  apply,
}: {
  draft: Draft;
  structure: EditableStructure;
  apply: (change: (definition: Definition) => Definition) => void;
}) {
  const { reading, rules } = draft.definition;
  const { mapping } = rules;
  const read = (change: Partial<Definition["reading"]>) =>
    apply((d) => ({ ...d, reading: { ...d.reading, ...change } }));
  const map = (change: Partial<Definition["rules"]["mapping"]>) =>
    apply((d) => ({ ...d, rules: { ...d.rules, mapping: { ...d.rules.mapping, ...change } } }));
  const fixed = (change: Partial<typeof mapping.fixed>) => map({ fixed: { ...mapping.fixed, ...change } });
  const meanings = Object.values(mapping.columns);
  const has = (as: string) => meanings.some((m) => m.as === as);
  const needs = (part: "account" | "scenario") =>
    !has(part) && meanings.some((m) => (m.as === "amount" || m.as === "quantity") && m[part] === null);
  const created = mapping.creates.dataset;
  const dataset = structure.datasets.find((d) => d.key === mapping.dataset);
  const lines = [...draft.preamble, ...draft.sample.raw].slice(0, 12).map((row) => row.line);
  const headerLines = [...new Set([reading.headerLine, ...draft.preamble.map((r) => r.line), ...lines])].sort(
    (a, b) => a - b,
  );
  const headerKey = reading.headerRows === 0 ? "none" : `${reading.headerLine}/${reading.headerRows}`;
  const leaves = leafAccounts(structure, draft);
  const toNewDataset = () => {
    const name = titleOf(draft.fileName);
    map({
      dataset: newKey(name, new Set(structure.datasets.map((d) => d.key)), "-"),
      creates: { ...mapping.creates, dataset: { name, grain: "month" } },
    });
  };
  return (
    <p className="text-[15px] leading-[1.9]">
      {draft.sheets.length > 0 ? (
        <>
          Sheet{" "}
          <ChoiceWord
            label="Sheet"
            words={reading.sheet ?? ""}
            choices={draft.sheets.map((name) => ({ key: name, name }))}
            chosen={reading.sheet ?? ""}
            onChoose={(sheet) => read({ sheet })}
          />
          , column names{" "}
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
      <ChoiceWord
        label="Header"
        words={
          reading.headerRows === 0
            ? "nowhere"
            : reading.headerRows === 2
              ? `in lines ${reading.headerLine} and after`
              : `in line ${reading.headerLine}`
        }
        choices={[
          ...headerLines.flatMap((line) => [
            { key: `${line}/1`, name: `in line ${line}` },
            ...(line === reading.headerLine
              ? [{ key: `${line}/2`, name: `in line ${line} and the next`, note: "two lines" }]
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
      ; numbers like{" "}
      <ChoiceWord
        label="Numbers"
        words={nameOf(MARKS, reading.decimalMark)}
        choices={MARKS}
        chosen={reading.decimalMark}
        onChoose={(mark) => read({ decimalMark: mark as "." | "," })}
      />
      {has("period") ? (
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
            onChoose={(month) => fixed({ month })}
          />
        </>
      )}
      . Goes to{" "}
      <ChoiceWord
        label="Dataset"
        words={dataset?.name ?? (created ? `${created.name} (new)` : "which dataset?")}
        choices={[
          ...structure.datasets.map((d) => ({ key: d.key, name: d.name, note: `by ${d.grain}` })),
          { key: NEW_DATASET, name: "a new dataset", note: "named after the file" },
        ]}
        chosen={dataset ? dataset.key : created ? NEW_DATASET : ""}
        onChoose={(key) =>
          key === NEW_DATASET ? toNewDataset() : map({ dataset: key, creates: { ...mapping.creates, dataset: null } })
        }
      />
      {created && !dataset && (
        <>
          {" "}
          kept by{" "}
          <ChoiceWord
            label="Grain"
            words={created.grain}
            choices={[
              { key: "day", name: "day" },
              { key: "month", name: "month" },
              { key: "quarter", name: "quarter" },
            ]}
            chosen={created.grain}
            onChoose={(grain) =>
              map({ creates: { ...mapping.creates, dataset: { ...created, grain: grain as "day" } } })
            }
          />
        </>
      )}
      {needs("scenario") && (
        <>
          {" "}
          as{" "}
          <ChoiceWord
            label="Scenario"
            words={structure.scenarios.find((s) => s.key === mapping.fixed.scenario)?.name ?? "which scenario?"}
            choices={structure.scenarios.map((s) => ({ key: s.key, name: s.name }))}
            chosen={mapping.fixed.scenario ?? ""}
            onChoose={(scenario) => fixed({ scenario })}
          />
        </>
      )}
      {needs("account") && (
        <>
          , on the account{" "}
          <ChoiceWord
            label="Account"
            words={leaves.find((a) => a.key === mapping.fixed.account)?.name ?? "which account?"}
            choices={leaves}
            chosen={mapping.fixed.account ?? ""}
            onChoose={(account) => fixed({ account })}
          />
        </>
      )}
      , amounts signed{" "}
      <ChoiceWord
        label="Signs"
        words={nameOf(SIGNS, mapping.sign)}
        choices={SIGNS}
        chosen={mapping.sign}
        onChoose={(sign) => map({ sign: sign as typeof mapping.sign })}
      />
      .
    </p>
  );
}

/** Accounts that can hold facts: those there, and those the file brings. */
export function leafAccounts(structure: EditableStructure, draft: Draft): Choice[] {
  const parents = new Set(structure.accounts.map((a) => a.parent));
  const nameOfParent = (key: string | null) => structure.accounts.find((a) => a.key === key)?.name ?? null;
  return [
    ...draft.definition.rules.mapping.creates.accounts
      .filter((a) => !structure.accounts.some((own) => own.key === a.key))
      .map((a) => ({ key: a.key, name: a.name, note: "new, with this file" })),
    ...structure.accounts
      .filter((a) => !parents.has(a.key))
      .map((a) => ({ key: a.key, name: a.name, note: nameOfParent(a.parent) })),
  ];
}

function nameOf(choices: readonly Choice[], key: string): string {
  return choices.find((c) => c.key === key)?.name ?? key;
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
