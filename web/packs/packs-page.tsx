import { COMPANY } from "#contract/operations/company.ts";
import { PACKS } from "#contract/operations/packs.ts";
import { SESSION } from "#contract/operations/session.ts";
import { useQueryClient } from "@tanstack/react-query";
import { ArrowDown, ArrowUp, Copy, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { newKey } from "#core/reading/names.ts";
import { diffRecords, type Records } from "#core/history/records-diff.ts";
import type { Pack, PackList, Page } from "#contract/pack.ts";
import { recordName, recordsOfPack, type PackRecord } from "#contract/pack-records.ts";
import { PALETTES, type Palette } from "#contract/session.ts";
import { call } from "../client/api.ts";
import { Button, Field, IconButton, TextButton, TextField } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { addPage, copyPage, movePage, withoutPage, withPack, withPage } from "./editing/page-edits.ts";
import { usePackEditor } from "./editing/use-pack-editor.ts";
import { answerKey, useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";

type PackEntry = PackList[number];

/** Packs and their pages: made, named, ordered, copied, retired; which one is opened at sign-in; how the company looks. */
export function PacksPage() {
  const packs = useAnswer(PACKS.packs);
  const mayEdit = useMayEdit();
  const used = packs.data?.filter((pack) => !pack.isRetired) ?? [];
  const retired = packs.data?.filter((pack) => pack.isRetired) ?? [];
  return (
    <div className="max-w-4xl px-8 pt-6 pb-16 max-sm:px-4">
      <h1 className="font-serif text-[24px]">Packs and pages</h1>
      {packs.error && <Notice tone="bad" title="Packs could not be loaded" detail={packs.error.message} />}
      <OpensAtSignIn packs={used} />
      {mayEdit && <CompanyLook />}
      {mayEdit && packs.data && <NewPack packs={packs.data} />}
      {used.map((pack, i) => (
        <PackSection key={pack.key} entry={pack} packs={used} at={i} />
      ))}
      {retired.length > 0 && (
        <section aria-label="Retired packs" className="mt-8">
          <h2 className="font-serif text-[19px]">Retired</h2>
          <p className="text-[13px] text-slate">Retired packs are kept, but not listed for readers.</p>
          {retired.map((pack) => (
            <RetiredPack key={pack.key} entry={pack} />
          ))}
        </section>
      )}
    </div>
  );
}

/** Which pack a person finds when they sign in. */
function OpensAtSignIn({ packs }: { packs: readonly PackEntry[] }) {
  const person = useAnswer(SESSION.session).data;
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const choose = async (pack: string | null) => {
    setProblem(null);
    try {
      client.setQueryData(answerKey(SESSION.session), await call(SESSION.setOpens, { body: { pack } }));
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <div className="mt-3 max-w-xs">
      <Field label="When I sign in, open">
        <select
          className="field"
          value={person?.opens ?? ""}
          onChange={(event) => void choose(event.target.value === "" ? null : event.target.value)}
        >
          <option value="">Home</option>
          {packs.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </Field>
      {problem && (
        <p role="alert" className="text-madder">
          {problem}
        </p>
      )}
    </div>
  );
}

const PALETTE_NAMES: Readonly<Record<Palette, string>> = {
  linen: "Linen",
  chalk: "Chalk",
  heath: "Heath",
  dusk: "Dusk",
};

/** How the company looks: ground, rule and accent, in light and dark; the code of scenarios and judgements stays. */
function CompanyLook() {
  const person = useAnswer(SESSION.session).data;
  const client = useQueryClient();
  const choose = async (palette: Palette) =>
    client.setQueryData(answerKey(SESSION.session), await call(COMPANY.setCompanyLook, { body: { palette } }));
  return (
    <fieldset className="mt-4">
      <legend className="text-[12.5px] text-slate">Company palette</legend>
      <div className="flex flex-wrap gap-2">
        {PALETTES.map((palette) => (
          <button
            key={palette}
            type="button"
            aria-pressed={person?.palette === palette}
            onClick={() => void choose(palette)}
            className={`flex min-h-8 items-center gap-2 rounded border px-2 ${person?.palette === palette ? "border-accent font-semibold" : "border-thread"}`}
          >
            <Swatch palette={palette} />
            {PALETTE_NAMES[palette]}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

/** A palette's ground, rule and accent. */
function Swatch({ palette }: { palette: Palette }) {
  const [ground, rule, accent] = SWATCHES[palette];
  return (
    <svg aria-hidden="true" width="30" height="16" className="rounded-sm border border-thread">
      <rect width="30" height="16" fill={ground} />
      <rect y="11" width="30" height="2" fill={rule} />
      <rect width="8" height="16" fill={accent} />
    </svg>
  );
}
const SWATCHES: Readonly<Record<Palette, readonly [ground: string, rule: string, accent: string]>> = {
  linen: ["#f7f4ec", "#ddd6c8", "#2b4c7e"],
  chalk: ["#f3f5f7", "#d3d9df", "#1f5c86"],
  heath: ["#f2f4ee", "#d2d8c8", "#3f5e3a"],
  dusk: ["#f7f2f3", "#e0d3d6", "#6a3a5c"],
};

/** Makes a pack: empty, or a copy of another one with all its pages. */
function NewPack({ packs }: { packs: PackList }) {
  const client = useQueryClient();
  const [from, setFrom] = useState("");
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const make = async () => {
    setProblem(null);
    try {
      const key = newKey(name.replace("{month}", ""), new Set(packs.map((pack) => pack.key)), "-");
      const position = Math.max(-1, ...packs.map((pack) => pack.position)) + 1;
      const source = from === "" ? null : await call(PACKS.pack, { params: { pack: from } });
      const records = source ? copiedPack(source, key) : {};
      const own: PackRecord = {
        ...(records[recordName({ kind: "pack", pack: key })] as PackRecord | undefined),
        name,
        position,
      };
      const { isRetired: _, ...inUse } = own;
      const diff = diffRecords({}, { ...records, [recordName({ kind: "pack", pack: key })]: inUse });
      await call(PACKS.editPack, { params: { pack: key }, body: { edit: crypto.randomUUID(), diff } });
      await client.invalidateQueries({ queryKey: answerKey(PACKS.packs) });
      setName("");
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <form
      className="mt-5 flex flex-wrap items-end gap-3 border-t border-thread pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() !== "") void make();
      }}
    >
      <Field label="Name of a new pack; {month} rolls forward with the close">
        <input
          className="field"
          value={name}
          onChange={(event) => setName(event.target.value)}
          placeholder="{month} review"
        />
      </Field>
      <Field label="Start from">
        <select className="field" value={from} onChange={(event) => setFrom(event.target.value)}>
          <option value="">an empty pack</option>
          {packs.map((pack) => (
            <option key={pack.key} value={pack.key}>
              a copy of {pack.name}
            </option>
          ))}
        </select>
      </Field>
      <Button kind="main" type="submit" isDisabled={name.trim() === ""}>
        Create pack
      </Button>
      {problem && (
        <p role="alert" className="w-full text-madder">
          {problem}
        </p>
      )}
    </form>
  );
}

/** A pack's records under another key. */
function copiedPack(pack: Pack, key: string): Records {
  const copied: Record<string, unknown> = {};
  for (const [name, record] of Object.entries(recordsOfPack(pack))) {
    const [kind, , ...rest] = name.split("/");
    copied[[kind, key, ...rest].join("/")] = record;
  }
  return copied;
}

/** A pack with its pages, each a line. */
function PackSection({ entry, packs, at }: { entry: PackEntry; packs: readonly PackEntry[]; at: number }) {
  const stored = useAnswer(PACKS.pack, { params: { pack: entry.key } }).data;
  const person = useAnswer(SESSION.session).data?.email ?? "";
  const mayEdit = useMayEdit();
  const { editor, shown, past, future, problem, saving, conflict } = usePackEditor(stored, entry.key, person);
  const [removed, setRemoved] = useState<string | null>(null);
  const pack = shown ?? stored;
  if (!pack) return <div className="waiting mt-6 h-24" />;
  const swap = (by: -1 | 1) => {
    const [other, beyond] = [packs[at + by], packs[at + 2 * by]];
    if (!other) return;
    const position = beyond ? (other.position + beyond.position) / 2 : other.position + by;
    editor.edit((records) => withPack(records, pack.key, { position }));
  };
  return (
    <section aria-label={`Pages of ${pack.name}`} className="mt-6 border-t border-thread pt-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="font-serif text-[19px]">{entry.name}</h2>
        <span role="status" className="text-[13px] text-slate">
          {saving === "saved"
            ? "Saved"
            : saving === "saving"
              ? "Saving …"
              : "Not saved yet: kept in this browser until the server answers"}
        </span>
        {mayEdit && (
          <span className="ml-auto flex items-center gap-1">
            {past.length > 0 && <TextButton onClick={editor.undo}>Undo</TextButton>}
            {future.length > 0 && <TextButton onClick={editor.redo}>Redo</TextButton>}
            <IconButton label={`Move ${pack.name} up`} isDisabled={at === 0} onClick={() => swap(-1)}>
              <ArrowUp size={14} />
            </IconButton>
            <IconButton label={`Move ${pack.name} down`} isDisabled={at === packs.length - 1} onClick={() => swap(1)}>
              <ArrowDown size={14} />
            </IconButton>
            <TextButton onClick={() => editor.edit((records) => withPack(records, pack.key, { isRetired: true }))}>
              Retire
            </TextButton>
          </span>
        )}
      </div>
      {(problem ?? conflict?.message) && (
        <p role="alert" className="text-madder">
          {problem ?? conflict?.message}
        </p>
      )}
      {removed !== null && (
        <p role="status" className="text-[13px]">
          {removed} is removed.{" "}
          <TextButton
            onClick={() => {
              editor.undo();
              setRemoved(null);
            }}
          >
            Restore
          </TextButton>
        </p>
      )}
      {mayEdit && (
        <div className="mt-1 max-w-xs">
          <TextField
            label="Name"
            value={pack.written}
            whenLeft
            onCommit={(name) => name !== "" && editor.edit((records) => withPack(records, pack.key, { name }))}
          />
        </div>
      )}
      <ol className="mt-2">
        {pack.pages.map((page, i) => (
          <PageLine
            key={page.key}
            pack={pack}
            page={page}
            isFirst={i === 0}
            isLast={i === pack.pages.length - 1}
            mayEdit={mayEdit}
            onEdit={editor.edit}
            onRemove={() => {
              editor.edit((records) => withoutPage(records, { pack: pack.key, page: page.key }));
              setRemoved(page.name);
            }}
          />
        ))}
      </ol>
      {mayEdit && (
        <button
          type="button"
          className="mt-1 flex min-h-7 items-center gap-1 text-accent hover:underline"
          onClick={() => editor.edit((records) => addPage(records, pack.key, { name: freeName(pack) }).records)}
        >
          <Plus size={13} aria-hidden="true" /> Add a page
        </button>
      )}
    </section>
  );
}

function PageLine({
  pack,
  page,
  isFirst,
  isLast,
  mayEdit,
  onEdit,
  onRemove,
}: {
  pack: Pack;
  page: Page;
  isFirst: boolean;
  isLast: boolean;
  mayEdit: boolean;
  onEdit: (change: (records: Records) => Records) => boolean;
  onRemove: () => void;
}) {
  const place = { pack: pack.key, page: page.key };
  const address = `/packs/${pack.key}/${page.key}`;
  if (!mayEdit)
    return (
      <li className="border-t border-thread/60 py-1">
        <Link className="text-accent hover:underline" to={address}>
          {page.name}
        </Link>
      </li>
    );
  const set = (part: "name" | "group") => (text: string) =>
    onEdit((records) =>
      withPage(
        records,
        place,
        ({ [part]: _, ...own }) =>
          (part === "name"
            ? { ...own, name: text || page.name }
            : text === ""
              ? own
              : { ...own, group: text }) as never,
      ),
    );
  return (
    <li className="flex flex-wrap items-end gap-x-2 gap-y-1 border-t border-thread/60 py-1">
      <span className="w-56">
        <TextField label="Page" isLabelHidden={!isFirst} value={page.name} whenLeft onCommit={set("name")} />
      </span>
      <span className="w-40">
        <TextField label="Section" isLabelHidden={!isFirst} value={page.group ?? ""} whenLeft onCommit={set("group")} />
      </span>
      <Link className="mb-1 text-accent hover:underline" to={address}>
        Open
      </Link>
      <Link className="mb-1 text-accent hover:underline" to={`${address}?arrange=yes`}>
        Arrange
      </Link>
      <span className="ml-auto flex">
        <IconButton
          label={`Move ${page.name} up`}
          isDisabled={isFirst}
          onClick={() => onEdit((records) => movePage(records, place, -1))}
        >
          <ArrowUp size={13} />
        </IconButton>
        <IconButton
          label={`Move ${page.name} down`}
          isDisabled={isLast}
          onClick={() => onEdit((records) => movePage(records, place, 1))}
        >
          <ArrowDown size={13} />
        </IconButton>
        <IconButton
          label={`Duplicate ${page.name}`}
          onClick={() =>
            onEdit(
              (records) => copyPage(records, pack.key, page, { name: `${page.name}, copy`, after: page.key }).records,
            )
          }
        >
          <Copy size={13} />
        </IconButton>
        <IconButton label={`Remove ${page.name}`} onClick={onRemove}>
          <Trash2 size={13} />
        </IconButton>
      </span>
    </li>
  );
}

function RetiredPack({ entry }: { entry: PackEntry }) {
  const stored = useAnswer(PACKS.pack, { params: { pack: entry.key } }).data;
  const person = useAnswer(SESSION.session).data?.email ?? "";
  const mayEdit = useMayEdit();
  const { editor } = usePackEditor(stored, entry.key, person);
  return (
    <p className="flex items-baseline gap-3 border-t border-thread/60 py-1">
      <Link className="text-accent hover:underline" to={`/packs/${entry.key}`}>
        {entry.name}
      </Link>
      {mayEdit && (
        <TextButton onClick={() => editor.edit((records) => withPack(records, entry.key, { isRetired: false }))}>
          Restore
        </TextButton>
      )}
    </p>
  );
}

function freeName({ pages }: Pack): string {
  const taken = new Set(pages.map(({ name }) => name));
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? "New page" : `New page ${n}`;
    if (!taken.has(name)) return name;
  }
}
