import { useState } from "react";
import { useParams } from "react-router";
import type { Chart, MemberItem } from "#contract/chart.ts";
import { newKey } from "#core/mapping/names.ts";
import { Button, TextField } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { FileActions } from "./file-actions.tsx";
import { StructurePage } from "./structure-page.tsx";
import { TreeEditor } from "./tree-editor.tsx";
import type { ChangeSender } from "./use-change.ts";

type DimensionItem = Chart["dimensions"][number];

/** A dimension's members: hierarchy, order, names and attributes. */
export function MembersPage() {
  const key = useParams()["dimension"] ?? "";
  return (
    <StructurePage title={(chart) => chart.dimensions.find((d) => d.key === key)?.name ?? "No such dimension"}>
      {(chart, change) => {
        const dimension = chart.dimensions.find((d) => d.key === key);
        if (!dimension)
          return <Notice title="There is no such dimension" detail={`"${key}" is none of the dimensions above.`} />;
        return <Members key={key} dimension={dimension} change={change} />;
      }}
    </StructurePage>
  );
}

function Members({ dimension, change }: { dimension: DimensionItem; change: ChangeSender }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const member = dimension.members.find((m) => m.key === chosen);
  const base = `/api/chart/dimensions/${dimension.key}`;
  const attributes = [...new Set(dimension.members.flatMap((m) => Object.keys(m.attributes)))];
  return (
    <>
      <p className="mt-1 flex flex-wrap items-center gap-x-4 text-slate">
        <span>
          {dimension.members.length} members on{" "}
          {dimension.levels.length === 1 ? "one level" : `${dimension.levels.length} levels`}:{" "}
          {dimension.levels.join(", ")}. Drag by the grip, or hold Alt and use the arrow keys.
        </span>
        <span className="ml-auto flex gap-3">
          <FileActions path={`${base}/members.csv`} change={change} />
        </span>
      </p>
      <div className="mt-3 grid items-start gap-3 min-[980px]:grid-cols-[minmax(0,1fr)_360px]">
        <section aria-label="Members" className="rounded-md border border-thread bg-panel px-3 py-2">
          <TreeEditor
            label={dimension.name}
            items={dimension.members}
            chosen={chosen}
            onChoose={setChosen}
            onMove={(move) => void change.send(`${base}/members`, { do: "move", ...move })}
            details={(m) => (
              <span className="text-[12.5px] whitespace-nowrap text-slate">
                {[m.isRetired ? "retired" : "", ...attributes.map((a) => m.attributes[a] ?? "")]
                  .filter((t) => t !== "")
                  .join(" · ")}
              </span>
            )}
          />
        </section>
        <aside className="grid gap-3 min-[980px]:sticky min-[980px]:top-4" aria-label="Member">
          <div className="grid gap-3 rounded-md border border-thread bg-panel px-4 py-3">
            {member ? (
              <MemberForm
                key={JSON.stringify(member)}
                member={member}
                attributes={attributes}
                path={`${base}/members`}
                change={change}
                onGone={() => setChosen(null)}
              />
            ) : (
              <p className="text-slate">Choose a member to see and change it.</p>
            )}
            <NewMember
              dimension={dimension}
              parent={member ?? null}
              path={`${base}/members`}
              change={change}
              onMade={setChosen}
            />
          </div>
          <DimensionForm
            key={JSON.stringify(dimension.levels) + dimension.name}
            dimension={dimension}
            path={base}
            change={change}
          />
        </aside>
      </div>
    </>
  );
}

function MemberForm({
  member,
  attributes,
  path,
  change,
  onGone,
}: {
  member: MemberItem;
  attributes: readonly string[];
  path: string;
  change: ChangeSender;
  onGone: () => void;
}) {
  const [item, setItem] = useState(member);
  const [newName, setNewName] = useState("");
  const names = [...new Set([...attributes, ...Object.keys(item.attributes)])];
  const isChanged = JSON.stringify(item) !== JSON.stringify(member);
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void change.send(path, { do: "change", key: member.key, item });
      }}
    >
      <h2 className="font-serif text-[16px]">{member.name}</h2>
      <TextField label="Name" value={item.name} onCommit={(name) => setItem({ ...item, name })} />
      <TextField
        label="Other names in files, parted by semicolons"
        value={item.aliases.join("; ")}
        onCommit={(text) =>
          setItem({
            ...item,
            aliases: text
              .split(";")
              .map((t) => t.trim())
              .filter((t) => t !== ""),
          })
        }
      />
      {names.map((name) => (
        <TextField
          key={name}
          label={name}
          value={item.attributes[name] ?? ""}
          onCommit={(text) => {
            const { [name]: _, ...rest } = item.attributes;
            setItem({ ...item, attributes: text === "" ? rest : { ...rest, [name]: text } });
          }}
        />
      ))}
      <span className="flex items-end gap-2">
        <TextField key={names.length} label="Another attribute" value={newName} onCommit={setNewName} />
        <Button
          isDisabled={newName === "" || names.includes(newName)}
          onClick={() => setItem({ ...item, attributes: { ...item.attributes, [newName]: "" } })}
        >
          Add
        </Button>
      </span>
      <span className="flex flex-wrap gap-3">
        <Button kind="main" type="submit" isDisabled={!isChanged || change.isSending}>
          Save
        </Button>
        <Button
          isDisabled={change.isSending}
          onClick={() =>
            void change.send(path, { do: "change", key: member.key, item: { ...member, isRetired: !member.isRetired } })
          }
        >
          {member.isRetired ? "Bring back" : "Retire"}
        </Button>
        <Button
          isDisabled={change.isSending}
          onClick={() => void change.send(path, { do: "remove", key: member.key }).then((isDone) => isDone && onGone())}
        >
          Remove
        </Button>
      </span>
    </form>
  );
}

function NewMember({
  dimension,
  parent,
  path,
  change,
  onMade,
}: {
  dimension: DimensionItem;
  parent: MemberItem | null;
  path: string;
  change: ChangeSender;
  onMade: (key: string) => void;
}) {
  const [name, setName] = useState("");
  const [times, setTimes] = useState(0);
  // A member of the last level gets siblings rather than children.
  const above = parent && depthOf(dimension, parent) >= dimension.levels.length ? parent.parent : (parent?.key ?? null);
  const aboveName = dimension.members.find((m) => m.key === above)?.name;
  const add = async () => {
    const key = newKey(name, new Set(dimension.members.map((m) => m.key)), "-");
    const item: MemberItem = { key, name, parent: above, aliases: [], isRetired: false, attributes: {} };
    if (!(await change.send(path, { do: "add", item }))) return;
    setName("");
    setTimes(times + 1);
    onMade(key);
  };
  return (
    <form
      className="grid gap-2 border-t border-thread pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <TextField
        key={times}
        label={aboveName ? `New member below ${aboveName}` : "New member at the top"}
        value={name}
        onCommit={setName}
      />
      <span>
        <Button type="submit" isDisabled={name === "" || change.isSending}>
          Add it
        </Button>
      </span>
    </form>
  );
}

function DimensionForm({ dimension, path, change }: { dimension: DimensionItem; path: string; change: ChangeSender }) {
  const [name, setName] = useState(dimension.name);
  const [plural, setPlural] = useState(dimension.plural);
  const [levels, setLevels] = useState(dimension.levels.join(", "));
  const list = levels
    .split(",")
    .map((l) => l.trim())
    .filter((l) => l !== "");
  return (
    <details className="rounded-md border border-thread bg-panel px-4 py-2">
      <summary className="cursor-pointer font-serif text-[16px]">The dimension itself</summary>
      <form
        className="mt-2 grid gap-2 pb-1"
        onSubmit={(event) => {
          event.preventDefault();
          void change.send(path, { name, plural, levels: list }, "PUT");
        }}
      >
        <TextField label="Name" value={name} onCommit={setName} />
        <TextField label="Several of them" value={plural} onCommit={setPlural} />
        <TextField label="Levels from the top down, parted by commas" value={levels} onCommit={setLevels} />
        <span>
          <Button
            kind="main"
            type="submit"
            isDisabled={change.isSending || name === "" || plural === "" || list.length === 0}
          >
            Save
          </Button>
        </span>
      </form>
    </details>
  );
}

function depthOf(dimension: DimensionItem, member: MemberItem): number {
  const parent = dimension.members.find((m) => m.key === member.parent);
  return parent ? depthOf(dimension, parent) + 1 : 1;
}
