import { Command } from "cmdk";
import { ChevronDown } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { FOUND_LIST } from "./found-list.ts";

/** Finds one of many by what is typed of its name; nothing is taken before it is chosen. */
export function FindChoice({
  label,
  choices,
  onChoose,
}: {
  label: string;
  choices: readonly { readonly key: string; readonly name: string }[];
  onChoose: (key: string) => void;
}) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className="field flex w-auto items-center gap-2">
        {label} <ChevronDown size={13} aria-hidden="true" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} collisionPadding={8} className="popover w-72">
          <Command label={label}>
            <Command.Input
              placeholder="Type part of the name"
              className="w-full border-b border-thread bg-transparent px-3 py-2 outline-none"
            />
            <Command.List className={`max-h-[40vh] overflow-y-auto p-1.5 ${FOUND_LIST}`}>
              <Command.Empty className="p-3 text-slate">No match.</Command.Empty>
              {choices.map(({ key, name }) => (
                <Command.Item
                  key={key}
                  value={`${name} ${key}`}
                  onSelect={() => {
                    setOpen(false);
                    onChoose(key);
                  }}
                >
                  {name}
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
