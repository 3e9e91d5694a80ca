import { DropdownMenu, Popover } from "radix-ui";
import { Fragment, useState, type ReactNode } from "react";
import type { StructureAnswer } from "#contract/structure.ts";
import type { FrameParams } from "../app/questions.ts";
import { ScopeChooser } from "./scope-chooser.tsx";

const UNITS = [
  { key: "units", name: "€" },
  { key: "thousand", name: "€ thousand" },
  { key: "million", name: "€ million" },
] as const;

interface Choice {
  readonly key: string;
  readonly name: string;
  readonly note?: string | null;
  /** A heading above this choice, where a new group begins. */
  readonly group?: string;
}

/** The frame as one sentence; each bold word opens its choice. */
export function FrameSentence({
  structure,
  frame,
  setFrame,
}: {
  structure: StructureAnswer;
  frame: FrameParams;
  setFrame: (change: FrameParams) => void;
}) {
  const { words } = structure.frame;
  const asOf = structure.asOfChoices.map((choice, i): Choice => ({
    key: choice.month,
    name: choice.name,
    note: choice.note,
    ...(choice.fiscalYear === structure.asOfChoices[i - 1]?.fiscalYear ? {} : { group: choice.fiscalYear }),
  }));
  return (
    <div className="text-[17px] leading-relaxed" role="group" aria-label="Frame">
      <FrameWord
        label="As-of period"
        words={words.asOf}
        choices={asOf}
        chosen={structure.frame.asOf}
        onChoose={(key) => setFrame({ asOf: key })}
      />
      ,{" "}
      <FrameWord
        label="Span"
        words={words.span}
        choices={structure.spans.map((s) => ({ key: s.key, name: s.name, note: s.months }))}
        chosen={structure.frame.span}
        onChoose={(key) => setFrame({ span: key })}
      />
      , against{" "}
      <FrameWord
        label="Basis"
        words={words.basis}
        choices={structure.bases}
        chosen={structure.frame.basis}
        onChoose={(key) => setFrame({ basis: key })}
      />
      , for <ScopeWord structure={structure} chosen={frame.scope ?? ""} onChoose={(scope) => setFrame({ scope })} />, in{" "}
      <FrameWord
        label="Unit"
        words={UNITS.find((u) => u.key === structure.frame.unit)!.name}
        choices={UNITS}
        chosen={structure.frame.unit}
        onChoose={(key) => setFrame({ unit: key })}
      />
    </div>
  );
}

function FrameWord({
  label,
  words,
  choices,
  chosen,
  onChoose,
}: {
  label: string;
  words: string;
  choices: readonly Choice[];
  chosen: string;
  onChoose: (key: string) => void;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="frame-word" aria-label={`${label}: ${words}`}>
        {words}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          className="popover max-h-[60vh] min-w-56 overflow-y-auto p-1.5"
        >
          <DropdownMenu.RadioGroup value={chosen} onValueChange={onChoose}>
            {choices.map((choice) => (
              <Fragment key={choice.key}>
                {choice.group && (
                  <DropdownMenu.Label className="px-2 pt-2 pb-1 text-[13px] text-slate">
                    {choice.group}
                  </DropdownMenu.Label>
                )}
                <DropdownMenu.RadioItem
                  value={choice.key}
                  className="flex items-baseline gap-3 rounded px-2 py-1 outline-none data-[highlighted]:bg-chosen data-[state=checked]:font-semibold"
                >
                  <Chosen isChosen={choice.key === chosen} />
                  <span>{choice.name}</span>
                  {choice.note && (
                    <span className="ml-auto pl-6 text-[13px] font-normal text-slate">{choice.note}</span>
                  )}
                </DropdownMenu.RadioItem>
              </Fragment>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function ScopeWord({
  structure,
  chosen,
  onChoose,
}: {
  structure: StructureAnswer;
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

function Chosen({ isChosen }: { isChosen: boolean }): ReactNode {
  return (
    <span aria-hidden="true" className="w-2 text-indigo">
      {isChosen ? "•" : ""}
    </span>
  );
}
