import { MONEY_UNITS, moneyName } from "#core/formats/number-words.ts";
import { Popover } from "radix-ui";
import { useState } from "react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { FrameAddress } from "#contract/frame-address.ts";
import { LATEST } from "#core/formula/outlook-source.ts";
import { FULL_YEAR_WITH_OUTLOOK } from "#core/frame/frame-answer.ts";
import { ChoiceWord, type Choice } from "../ui/choice-word.tsx";
import { SpanWord } from "./span-word.tsx";
import { ScopeChooser } from "./scope-chooser.tsx";

/** The frame as one sentence; each bold word opens its choice. */
export function FrameSentence({
  structure,
  frame,
  setFrame,
}: {
  structure: FrameChoices;
  frame: FrameAddress;
  setFrame: (change: FrameAddress) => void;
}) {
  const { words, outlook = LATEST } = structure.frame;
  const asOf = structure.asOfChoices.map((choice, i): Choice => ({
    key: choice.month,
    name: choice.name,
    note: choice.note,
    ...(choice.fiscalYear === structure.asOfChoices[i - 1]?.fiscalYear ? {} : { group: choice.fiscalYear }),
  }));
  return (
    <div className="text-[17px] leading-relaxed" role="group" aria-label="Frame">
      {structure.frame.shown !== undefined && (
        <>
          <ChoiceWord
            label="Looked at"
            words={words.shown}
            choices={structure.shown}
            chosen={structure.frame.shown}
            onChoose={(key) => setFrame({ shown: key === "actual" ? undefined : key })}
          />{" "}
          in place of the actual, as of{" "}
        </>
      )}
      <ChoiceWord
        label="As-of period"
        words={words.asOf}
        choices={asOf}
        chosen={structure.frame.asOf}
        onChoose={(key) => setFrame({ asOf: key })}
      />
      , <SpanWord structure={structure} onChoose={(key) => setFrame({ span: key })} />, against{" "}
      <ChoiceWord
        label="Basis"
        words={words.basis}
        choices={structure.bases}
        chosen={structure.frame.basis}
        onChoose={(key) => setFrame({ basis: key })}
      />
      , for{" "}
      <ScopeWord
        structure={structure}
        chosen={frame.scope ?? formatScope(structure.frame.scope)}
        onChoose={(scope) => setFrame({ scope })}
      />
      , in{" "}
      <ChoiceWord
        label="Unit"
        words={moneyName(structure.frame.unit)}
        choices={MONEY_UNITS.map((key) => ({ key, name: moneyName(key) }))}
        chosen={structure.frame.unit}
        onChoose={(key) => setFrame({ unit: key })}
      />
      {(structure.frame.outlook !== undefined || structure.frame.span === FULL_YEAR_WITH_OUTLOOK) && (
        <>
          , outlook by{" "}
          <ChoiceWord
            label="Outlook"
            words={structure.outlooks.find(({ key }) => key === outlook)?.name ?? outlook}
            choices={structure.outlooks}
            chosen={outlook}
            onChoose={(key) => setFrame({ outlook: key === LATEST ? undefined : key })}
          />
        </>
      )}
    </div>
  );
}

function ScopeWord({
  structure,
  chosen,
  onChoose,
}: {
  structure: FrameChoices;
  chosen: string;
  onChoose: (scope: string) => void;
}) {
  const [isOpen, setOpen] = useState(false);
  const { words } = structure.frame;
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className="frame-word" aria-label={`Scope: ${words.scope}`}>
        {words.scope}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="popover w-[min(34rem,94vw)]" aria-label="Scope">
          <ScopeChooser structure={structure} chosen={chosen} onChoose={onChoose} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
