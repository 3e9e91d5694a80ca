import { useState } from "react";
import { Button, TextField } from "../ui/form.tsx";
import { parseTextList, writeTextList } from "../ui/text-list.ts";
import type { ChangeSender } from "./use-change.ts";

interface TreeItem {
  readonly key: string;
  readonly isRetired: boolean;
}

/** Names under which files may write an account or a member. */
export function AliasesField({
  aliases,
  onCommit,
}: {
  aliases: readonly string[];
  onCommit: (aliases: string[]) => void;
}) {
  return (
    <TextField
      label="Other names in files, separated by semicolons"
      value={writeTextList(aliases, ";")}
      onCommit={(text) => onCommit(parseTextList(text, ";"))}
    />
  );
}

/** Saving what was changed in a form, retiring and removing the item. */
export function ItemActions<T extends TreeItem>({
  item,
  isChanged,
  mayRemove,
  change,
  save,
  remove,
}: {
  /** The item as it is kept. */
  item: T;
  isChanged: boolean;
  mayRemove: boolean;
  change: ChangeSender;
  save: (item: T) => Promise<unknown>;
  remove: () => Promise<unknown>;
}) {
  return (
    <span className="flex flex-wrap gap-3">
      <Button kind="main" type="submit" isDisabled={!isChanged || change.isSending}>
        Save
      </Button>
      <Button isDisabled={change.isSending} onClick={() => void save({ ...item, isRetired: !item.isRetired })}>
        {item.isRetired ? "Bring back" : "Retire"}
      </Button>
      {mayRemove && (
        <Button isDisabled={change.isSending} onClick={() => void remove()}>
          Remove
        </Button>
      )}
    </span>
  );
}

/** Adds an item by its name; `make` gives it its key and what it takes over from its place. */
export function NewItem<T extends TreeItem>({
  label,
  make,
  add,
  change,
  onMade,
}: {
  label: string;
  make: (name: string) => T;
  add: (item: T) => Promise<boolean>;
  change: ChangeSender;
  onMade: (key: string) => void;
}) {
  const [name, setName] = useState("");
  const [times, setTimes] = useState(0);
  const submit = async () => {
    const item = make(name);
    if (!(await add(item))) return;
    setName("");
    setTimes(times + 1);
    onMade(item.key);
  };
  return (
    <form
      className="grid gap-2 border-t border-thread pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <TextField key={times} label={label} value={name} onCommit={setName} />
      <span>
        <Button type="submit" isDisabled={name === "" || change.isSending}>
          Add
        </Button>
      </span>
    </form>
  );
}
