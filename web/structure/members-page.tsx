import { STRUCTURE } from "#contract/operations/structure.ts";
import { useState } from "react";
import { useParams } from "react-router";
import { operationPath } from "#contract/operations/operation.ts";
import type { EditableStructure, MemberCommand, MemberItem } from "#contract/structure.ts";
import { newKey } from "#core/reading/names.ts";
import { Button, TextButton, TextField } from "../ui/form.tsx";
import { parseTextList, writeTextList } from "../ui/text-list.ts";
import { Notice } from "../ui/notice.tsx";
import { FileActions } from "./file-actions.tsx";
import { AliasesField, ItemActions, NewItem } from "./item-form.tsx";
import { useEdited } from "../ui/use-edited.ts";
import { RemovePart } from "./remove-part.tsx";
import { StructurePage } from "./structure-page.tsx";
import { TreeEditor } from "./tree-editor.tsx";
import type { ChangeSender } from "./use-change.ts";

type DimensionItem = EditableStructure["dimensions"][number];

/** A dimension's members: hierarchy, order, names and attributes. */
export function MembersPage() {
  const key = useParams()["dimension"] ?? "";
  return (
    <StructurePage
      title={(structure) => structure.dimensions.find((d) => d.key === key)?.name ?? "Dimension not found"}
    >
      {(structure, change) => {
        const dimension = structure.dimensions.find((d) => d.key === key);
        if (!dimension)
          return <Notice title="Dimension not found" detail={`"${key}" is not one of the dimensions above.`} />;
        return <Members key={key} dimension={dimension} change={change} />;
      }}
    </StructurePage>
  );
}

function Members({ dimension, change }: { dimension: DimensionItem; change: ChangeSender }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const member = dimension.members.find((m) => m.key === chosen);
  const above = placeOfNew(dimension, member);
  const params = { dimension: dimension.key };
  const send = (body: MemberCommand) => change.send(STRUCTURE.changeMembers, { params, body });
  const versionOf = (key: string) => dimension.members.find((m) => m.key === key)?.version ?? 1;
  const attributes = [...new Set(dimension.members.flatMap((m) => Object.keys(m.attributes)))];
  return (
    <>
      <p className="mt-1 flex flex-wrap items-center gap-x-4 text-slate">
        <span>
          {dimension.members.length} members on{" "}
          {dimension.levels.length === 1 ? "one level" : `${dimension.levels.length} levels`}:{" "}
          {dimension.levels.join(", ")}. Drag by the grip, or hold Alt and use the arrow keys.
        </span>
        <span className="ml-auto flex items-center gap-3">
          <RemovePart table="dimension" part={dimension} change={change} />
          <FileActions
            href={operationPath(STRUCTURE.membersFile, { params })}
            onFile={(file) => void change.send(STRUCTURE.importMembers, { params }, file)}
            change={change}
          />
        </span>
      </p>
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] items-start gap-3 min-[980px]:grid-cols-[minmax(0,1fr)_360px]">
        <section aria-label="Members" className="rounded-md border border-thread bg-panel px-3 py-2">
          <TreeEditor
            label={dimension.name}
            items={dimension.members}
            chosen={chosen}
            onChoose={setChosen}
            onMove={(move) => void send({ do: "move", version: versionOf(move.key), ...move })}
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
                key={`${member.key}/${change.settled}`}
                member={member}
                attributes={attributes}
                change={change}
                send={send}
                onGone={() => setChosen(null)}
              />
            ) : (
              <p className="text-slate">Select a member to edit it.</p>
            )}
            <NewItem
              label={above ? `New member below ${above.name}` : "New member at the top"}
              make={(name): MemberItem => ({
                key: newKey(name, new Set(dimension.members.map((m) => m.key)), "-"),
                name,
                parent: above?.key ?? null,
                aliases: [],
                isRetired: false,
                attributes: {},
                firstMonth: null,
                lastMonth: null,
              })}
              add={(item) => send({ do: "add", item })}
              change={change}
              onMade={setChosen}
            />
          </div>
          <DimensionForm
            key={JSON.stringify(dimension.levels) + dimension.name}
            dimension={dimension}
            change={change}
          />
        </aside>
      </div>
    </>
  );
}

function MemberForm({
  member: { version, posted, ...member },
  attributes,
  change,
  send,
  onGone,
}: {
  member: DimensionItem["members"][number];
  attributes: readonly string[];
  change: ChangeSender;
  send: (command: MemberCommand) => Promise<boolean>;
  onGone: () => void;
}) {
  const edited = useEdited<MemberItem>(member, version);
  const item = edited.value;
  const [newName, setNewName] = useState("");
  const names = [...new Set([...attributes, ...Object.keys(item.attributes)])];
  // What was saved is followed again; what was refused stays as it is typed, beside the other's.
  const save = async (next: MemberItem) => {
    if (await send({ do: "change", key: member.key, version: edited.version ?? version, item: next })) edited.discard();
  };
  return (
    <form
      key={edited.stamp}
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void save(item);
      }}
    >
      <h2 className="font-serif text-[16px]">{member.name}</h2>
      <TextField label="Name" value={item.name} onCommit={(name) => edited.change({ name })} />
      <AliasesField aliases={item.aliases} onCommit={(aliases) => edited.change({ aliases })} />
      <Life item={item} posted={posted} onChange={(life) => edited.change(life)} />
      {names.map((name) => (
        <TextField
          key={name}
          label={name}
          value={item.attributes[name] ?? ""}
          onCommit={(text) => {
            const { [name]: _, ...rest } = item.attributes;
            edited.change({ attributes: text === "" ? rest : { ...rest, [name]: text } });
          }}
        />
      ))}
      <span className="flex items-end gap-2">
        <TextField key={names.length} label="Add an attribute" value={newName} onCommit={setNewName} />
        <Button
          isDisabled={newName === "" || names.includes(newName)}
          onClick={() => edited.change({ attributes: { ...item.attributes, [newName]: "" } })}
        >
          Add
        </Button>
      </span>
      <ItemActions
        item={member}
        isChanged={edited.isChanged}
        mayRemove
        change={change}
        save={save}
        remove={() => send({ do: "remove", key: member.key, version }).then((isDone) => isDone && onGone())}
      />
    </form>
  );
}

type MemberLife = Pick<MemberItem, "firstMonth" | "lastMonth">;

/** From when to when a member exists: outside it, rankings and averages over members pass it over rather than count it as 0. */
function Life({
  item,
  posted,
  onChange,
}: {
  item: MemberLife;
  posted: DimensionItem["members"][number]["posted"];
  onChange: (life: MemberLife) => void;
}) {
  const isProposed = posted && (posted.from !== item.firstMonth || posted.to !== item.lastMonth);
  return (
    <fieldset className="grid gap-1">
      <legend className="text-[12.5px] text-slate">Active from / to</legend>
      <span className="grid grid-cols-2 gap-2">
        <input
          type="month"
          className="field"
          aria-label="First month"
          value={item.firstMonth ?? ""}
          onChange={(event) => onChange({ firstMonth: event.target.value || null, lastMonth: item.lastMonth })}
        />
        <input
          type="month"
          className="field"
          aria-label="Last month"
          value={item.lastMonth ?? ""}
          onChange={(event) => onChange({ firstMonth: item.firstMonth, lastMonth: event.target.value || null })}
        />
      </span>
      {isProposed && (
        <span className="text-[12.5px] text-slate">
          Actuals were posted from {posted.from} to {posted.to}.{" "}
          <TextButton onClick={() => onChange({ firstMonth: item.firstMonth, lastMonth: posted.to })}>
            End it in {posted.to}
          </TextButton>
        </span>
      )}
    </fieldset>
  );
}

/** Where a new member goes: below the chosen one, or beside it when that one is on the last level. */
function placeOfNew(dimension: DimensionItem, chosen: MemberItem | undefined): MemberItem | undefined {
  if (!chosen || depthOf(dimension, chosen) < dimension.levels.length) return chosen;
  return dimension.members.find((m) => m.key === chosen.parent);
}

function DimensionForm({ dimension, change }: { dimension: DimensionItem; change: ChangeSender }) {
  const [name, setName] = useState(dimension.name);
  const [plural, setPlural] = useState(dimension.plural);
  const [levels, setLevels] = useState(writeTextList(dimension.levels, ","));
  const list = parseTextList(levels, ",");
  return (
    <details className="rounded-md border border-thread bg-panel px-4 py-2">
      <summary className="cursor-pointer font-serif text-[16px]">Dimension settings</summary>
      <form
        className="mt-2 grid gap-2 pb-1"
        onSubmit={(event) => {
          event.preventDefault();
          void change.send(STRUCTURE.changeDimension, {
            params: { dimension: dimension.key },
            body: {
              name,
              plural,
              levels: list,
              was: { name: dimension.name, plural: dimension.plural, levels: dimension.levels },
            },
          });
        }}
      >
        <TextField label="Name" value={name} onCommit={setName} />
        <TextField label="Plural" value={plural} onCommit={setPlural} />
        <TextField label="Levels from the top down, separated by commas" value={levels} onCommit={setLevels} />
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
