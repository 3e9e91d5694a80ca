import { DropdownMenu } from "radix-ui";
import { Fragment, type ReactNode } from "react";

/** One of the things a word in a sentence can be. */
export interface Choice {
  readonly key: string;
  readonly name: string;
  readonly note?: string | null;
  /** A heading above this choice, where a new group begins. */
  readonly group?: string;
}

/** A word in a sentence that opens its choice. */
export function ChoiceWord({
  label,
  words,
  choices,
  chosen,
  onChoose,
  className = "frame-word",
}: {
  label: string;
  words: ReactNode;
  choices: readonly Choice[];
  chosen: string;
  onChoose: (key: string) => void;
  className?: string;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={className} aria-label={typeof words === "string" ? `${label}: ${words}` : label}>
        {words}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          collisionPadding={8}
          className="popover max-h-[min(60vh,var(--radix-dropdown-menu-content-available-height))] min-w-56 overflow-y-auto p-1.5"
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
                  <span aria-hidden="true" className="w-2 text-accent">
                    {choice.key === chosen ? "•" : ""}
                  </span>
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

/** The name of the choice with a key; the key itself where there is none. */
export function nameOf(choices: readonly Choice[], key: string): string {
  return choices.find((choice) => choice.key === key)?.name ?? key;
}
