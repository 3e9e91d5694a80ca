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
      label="Other names in files, parted by semicolons"
      value={writeTextList(aliases, ";")}
      onCommit={(text) => onCommit(parseTextList(text, ";"))}
    />
  );
}

/** Saving what was changed in a form, retiring and removing the item. */
export function ItemActions({
  item,
  path,
  isChanged,
  mayRemove,
  change,
  onGone,
}: {
  /** The item as it is kept. */
  item: TreeItem;
  path: string;
  isChanged: boolean;
  mayRemove: boolean;
  change: ChangeSender;
  onGone: () => void;
}) {
  const { key } = item;
  return (
    <span className="flex flex-wrap gap-3">
      <Button kind="main" type="submit" isDisabled={!isChanged || change.isSending}>
        Save
      </Button>
      <Button
        isDisabled={change.isSending}
        onClick={() => void change.send(path, { do: "change", key, item: { ...item, isRetired: !item.isRetired } })}
      >
        {item.isRetired ? "Bring back" : "Retire"}
      </Button>
      {mayRemove && (
        <Button
          isDisabled={change.isSending}
          onClick={() => void change.send(path, { do: "remove", key }).then((isDone) => isDone && onGone())}
        >
          Remove
        </Button>
      )}
    </span>
  );
}

/** Adds an item by its name; `make` gives it its key and what it takes over from its place. */
export function NewItem({
  label,
  path,
  make,
  change,
  onMade,
}: {
  label: string;
  path: string;
  make: (name: string) => TreeItem;
  change: ChangeSender;
  onMade: (key: string) => void;
}) {
  const [name, setName] = useState("");
  const [times, setTimes] = useState(0);
  const add = async () => {
    const item = make(name);
    if (!(await change.send(path, { do: "add", item }))) return;
    setName("");
    setTimes(times + 1);
    onMade(item.key);
  };
  return (
    <form
      className="grid gap-2 border-t border-thread pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <TextField key={times} label={label} value={name} onCommit={setName} />
      <span>
        <Button type="submit" isDisabled={name === "" || change.isSending}>
          Add it
        </Button>
      </span>
    </form>
  );
}
