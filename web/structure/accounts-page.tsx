import { STRUCTURE } from "#contract/operations/structure.ts";
import { useState } from "react";
import { operationPath } from "#contract/operations/operation.ts";
import type { AccountCommand, AccountItem, EditableStructure } from "#contract/structure.ts";
import { newKey } from "#core/reading/names.ts";
import { Field, TextField } from "../ui/form.tsx";
import { FileActions } from "./file-actions.tsx";
import { AliasesField, ItemActions, NewItem } from "./item-form.tsx";
import { useEdited } from "../ui/use-edited.ts";
import { StructurePage } from "./structure-page.tsx";
import { TreeEditor } from "./tree-editor.tsx";
import type { ChangeSender } from "./use-change.ts";

const KINDS = ["income", "expense", "asset", "liability", "equity", "statistic"] as const;

/** The chart of accounts: read, rearranged, edited. */
export function AccountsPage() {
  return (
    <StructurePage title={() => "Chart of accounts"}>
      {(structure, change) => <Accounts structure={structure} change={change} />}
    </StructurePage>
  );
}

function Accounts({ structure, change }: { structure: EditableStructure; change: ChangeSender }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const account = structure.accounts.find((a) => a.key === chosen);
  const send = (body: AccountCommand) => change.send(STRUCTURE.changeAccounts, { body });
  const versionOf = (key: string) => structure.accounts.find((a) => a.key === key)?.version ?? 1;
  return (
    <>
      <p className="mt-1 flex flex-wrap items-center gap-x-4 text-slate">
        <span>{structure.accounts.length} accounts. Drag by the grip, or hold Alt and use the arrow keys.</span>
        <span className="ml-auto flex gap-3">
          <FileActions
            href={operationPath(STRUCTURE.accountsFile)}
            onFile={(file) => void change.send(STRUCTURE.importAccounts, {}, file)}
            change={change}
          />
        </span>
      </p>
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] items-start gap-3 min-[980px]:grid-cols-[minmax(0,1fr)_360px]">
        <section aria-label="Accounts" className="rounded-md border border-thread bg-panel px-3 py-2">
          <TreeEditor
            label="Chart of accounts"
            items={structure.accounts}
            chosen={chosen}
            onChoose={setChosen}
            onMove={(move) => void send({ do: "move", version: versionOf(move.key), ...move })}
            details={(a) => (
              <span className="text-[12.5px] whitespace-nowrap text-slate">
                {a.isRetired && "retired · "}
                {a.kind}
                {a.behaviour === "balance" ? ", balance" : ""}
                {a.unit.kind === "count" ? `, ${a.unit.of}` : ""}
              </span>
            )}
          />
        </section>
        <aside
          aria-label="Account"
          className="grid gap-3 rounded-md border border-thread bg-panel px-4 py-3 min-[980px]:sticky min-[980px]:top-4"
        >
          {account ? (
            <AccountForm
              key={`${account.key}/${change.settled}`}
              account={account}
              isUsed={account.isUsed}
              change={change}
              send={send}
              onGone={() => setChosen(null)}
            />
          ) : (
            <p className="text-slate">Select an account to edit it.</p>
          )}
          <NewItem
            label={account ? `New account below ${account.name}` : "New account at the top"}
            make={(name) => newAccount(structure, account ?? null, name)}
            add={(item) => send({ do: "add", item })}
            change={change}
            onMade={setChosen}
          />
        </aside>
      </div>
    </>
  );
}

function AccountForm({
  account: { isUsed: _, version, ...account },
  isUsed,
  change,
  send,
  onGone,
}: {
  account: EditableStructure["accounts"][number];
  isUsed: boolean;
  change: ChangeSender;
  send: (command: AccountCommand) => Promise<boolean>;
  onGone: () => void;
}) {
  const edited = useEdited<AccountItem>(account, version);
  const item = edited.value;
  const set = edited.change;
  // What was saved is followed again; what was refused stays as it is typed, beside the other's.
  const save = async (next: AccountItem) => {
    if (await send({ do: "change", key: account.key, version: edited.version ?? version, item: next }))
      edited.discard();
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
      <h2 className="font-serif text-[16px]">{account.name}</h2>
      <p className="text-[12.5px] text-slate">
        In formulas: <code>{account.key}</code>. {isUsed ? "It has figures." : "It has no figures yet."}
      </p>
      <TextField label="Name" value={item.name} onCommit={(name) => set({ name })} />
      <AccountFields item={item} set={set} />
      {isUsed && item.kind !== account.kind && (
        <p role="status" className="border-l-2 border-weld pl-3 text-[13px]">
          Amounts that were signed by the account’s kind change sign, and KPIs generated from the accounts follow.
          Formulas that people wrote stay as they are.
        </p>
      )}
      <AliasesField aliases={item.aliases} onCommit={(aliases) => set({ aliases })} />
      <ItemActions
        item={account}
        isChanged={edited.isChanged}
        mayRemove={!isUsed}
        change={change}
        save={save}
        remove={() => send({ do: "remove", key: account.key, version }).then((isDone) => isDone && onGone())}
      />
    </form>
  );
}

function AccountFields({ item, set }: { item: AccountItem; set: (next: Partial<AccountItem>) => void }) {
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Kind">
          <select
            className="field"
            value={item.kind}
            onChange={(e) => set({ kind: e.target.value as AccountItem["kind"] })}
          >
            {KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
        </Field>
        <Field label="Over time">
          <select
            className="field"
            value={item.behaviour}
            onChange={(e) => set({ behaviour: e.target.value as "flow" })}
          >
            <option value="flow">is summed</option>
            <option value="balance">closes</option>
          </select>
        </Field>
        <TextField
          label="Unit counted (empty: money)"
          value={item.unit.kind === "count" ? item.unit.of : ""}
          onCommit={(of) => set({ unit: of === "" ? { kind: "money" } : { kind: "count", of } })}
        />
        <TextField
          label="Decimals kept"
          value={String(item.decimals)}
          onCommit={(text) => set({ decimals: Math.min(9, Math.max(0, Math.trunc(Number(text)) || 0)) })}
        />
      </div>
    </>
  );
}

/** A new account takes over what the one above it is. */
function newAccount(structure: EditableStructure, parent: AccountItem | null, name: string): AccountItem {
  return {
    key: newKey(name, new Set(structure.accounts.map((a) => a.key)), "_"),
    name,
    parent: parent?.key ?? null,
    kind: parent?.kind ?? "expense",
    behaviour: parent?.behaviour ?? "flow",
    unit: parent?.unit ?? { kind: "money" },
    decimals: parent?.decimals ?? 2,
    aliases: [],
    isRetired: false,
  };
}
