import { useState } from "react";
import { useParams } from "react-router";
import type { Chart, MemberItem } from "#contract/chart.ts";
import { newKey } from "#core/mapping/names.ts";
import { Button, TextField } from "../ui/form.tsx";
import { parseTextList, writeTextList } from "../ui/text-list.ts";
import { Notice } from "../ui/notice.tsx";
import { FileActions } from "./file-actions.tsx";
import { AliasesField, ItemActions, NewItem } from "./item-form.tsx";
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
  const above = placeOfNew(dimension, member);
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
            <NewItem
              label={above ? `New member below ${above.name}` : "New member at the top"}
              path={`${base}/members`}
              make={(name): MemberItem => ({
                key: newKey(name, new Set(dimension.members.map((m) => m.key)), "-"),
                name,
                parent: above?.key ?? null,
                aliases: [],
                isRetired: false,
                attributes: {},
              })}
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
      <AliasesField aliases={item.aliases} onCommit={(aliases) => setItem({ ...item, aliases })} />
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
      <ItemActions item={member} path={path} isChanged={isChanged} mayRemove change={change} onGone={onGone} />
    </form>
  );
}

/** Where a new member goes: below the chosen one, or beside it when that one is on the last level. */
function placeOfNew(dimension: DimensionItem, chosen: MemberItem | undefined): MemberItem | undefined {
  if (!chosen || depthOf(dimension, chosen) < dimension.levels.length) return chosen;
  return dimension.members.find((m) => m.key === chosen.parent);
}

function DimensionForm({ dimension, path, change }: { dimension: DimensionItem; path: string; change: ChangeSender }) {
  const [name, setName] = useState(dimension.name);
  const [plural, setPlural] = useState(dimension.plural);
  const [levels, setLevels] = useState(writeTextList(dimension.levels, ","));
  const list = parseTextList(levels, ",");
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
