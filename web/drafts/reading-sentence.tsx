import type { EditableStructure } from "#contract/structure.ts";
import type { Definition, Draft } from "#contract/intake.ts";
import { ChoiceWord, nameOf } from "../ui/choice-word.tsx";
import { bringsRates } from "#core/mapping/mapping-view.ts";
import { CurrencyClause } from "./currency-clause.tsx";
import { DestinationClause } from "./destination-clause.tsx";
import type { ClauseProps } from "./reading-clause.ts";
import { MARKS, SIGNS } from "./reading-choices.ts";
import { FileClause, HeaderWord, PeriodClause } from "./file-clauses.tsx";

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
  const {
    reading,
    rules: { mapping },
  } = draft.definition;
  const read: ClauseProps["read"] = (change) => apply((d) => ({ ...d, reading: { ...d.reading, ...change } }));
  const map: ClauseProps["map"] = (change) =>
    apply((d) => ({ ...d, rules: { ...d.rules, mapping: { ...d.rules.mapping, ...change } } }));
  const clause = { draft, structure, read, map };
  return (
    <p className="text-[15px] leading-[1.9]">
      <FileClause {...clause} />
      <HeaderWord {...clause} />; numbers like{" "}
      <ChoiceWord
        label="Numbers"
        words={nameOf(MARKS, reading.decimalMark)}
        choices={MARKS}
        chosen={reading.decimalMark}
        onChoose={(mark) => read({ decimalMark: mark as "." | "," })}
      />
      <PeriodClause {...clause} />
      <DestinationClause {...clause} />
      <CurrencyClause {...clause} />
      {!bringsRates(mapping) && (
        <>
          , signed{" "}
          <ChoiceWord
            label="Signs"
            words={nameOf(SIGNS, mapping.sign)}
            choices={SIGNS}
            chosen={mapping.sign}
            onChoose={(sign) => map({ sign: sign as typeof mapping.sign })}
          />
        </>
      )}
      .
    </p>
  );
}
