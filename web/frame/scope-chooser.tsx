import { useState } from "react";
import { formatScope, parseScope } from "#core/dimensions/scope-text.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";

/** From so many members on they are searched rather than looked through; so many are listed at once. */
const SEARCHED_FROM = 12;
const LISTED = 200;

type Members = FrameChoices["dimensions"][number]["members"];

/** The members that hold what is typed in their name; of very many the first, and those that are chosen. */
export function findMembers(
  members: Members,
  typed: string,
  chosen: readonly string[],
): { readonly found: Members; readonly more: number } {
  const wanted = typed.trim().toLowerCase();
  const all = wanted === "" ? members : members.filter(({ name }) => name.toLowerCase().includes(wanted));
  if (all.length <= LISTED) return { found: all, more: 0 };
  const kept = new Set(chosen);
  const found = all.filter(({ key }, i) => i < LISTED || kept.has(key));
  return { found, more: all.length - found.length };
}

/** Chooses which members of which dimensions are in; the page follows each click. */
export function ScopeChooser({
  structure,
  chosen,
  onChoose,
}: {
  structure: FrameChoices;
  chosen: string;
  onChoose: (scope: string) => void;
}) {
  // A tick shows at once; the address, and with it the page, follows a moment later.
  const [text, setText] = useState(chosen);
  const scope = parseScope(text) ?? {};
  const [openKey, setOpenKey] = useState(Object.keys(scope)[0] ?? structure.dimensions[0]?.key);
  const open = structure.dimensions.find((d) => d.key === openKey);
  const [find, setFind] = useState("");
  const members = open ? scope[open.key] : undefined;
  const { found, more } = findMembers(open?.members ?? [], find, members ?? []);
  const change = (key: string, next: readonly string[] | undefined) => {
    const { [key]: _, ...others } = scope;
    const changed = formatScope(next === undefined ? others : { ...others, [key]: next });
    setText(changed);
    onChoose(changed);
  };
  return (
    <div className="grid grid-cols-[11rem_1fr]">
      <ul role="tablist" aria-label="Dimension" aria-orientation="vertical" className="border-r border-thread p-1.5">
        {structure.dimensions.map((dimension) => (
          <li key={dimension.key} role="presentation">
            <button
              type="button"
              role="tab"
              aria-selected={dimension.key === openKey}
              onClick={() => {
                setOpenKey(dimension.key);
                setFind("");
              }}
              className={`flex w-full justify-between rounded px-2 py-1 text-left ${dimension.key === openKey ? "bg-chosen font-semibold" : ""}`}
            >
              {dimension.name}
              {scope[dimension.key] && <span className="text-accent">{scope[dimension.key]!.length}</span>}
            </button>
          </li>
        ))}
      </ul>
      {open && (
        <div role="tabpanel" aria-label={open.name} className="max-h-[55vh] overflow-y-auto p-2">
          {open.members.length > SEARCHED_FROM && (
            <input
              type="search"
              className="field mb-1"
              aria-label={`Find a ${open.name.toLowerCase()}`}
              placeholder={`Find among ${open.members.length.toLocaleString("en")} ${open.plural}`}
              value={find}
              onChange={(event) => setFind(event.target.value)}
            />
          )}
          <label className="flex items-center gap-2 rounded px-2 py-1 hover:bg-chosen">
            <input
              type="checkbox"
              className="accent-[var(--accent)]"
              checked={members === undefined}
              onChange={() => change(open.key, undefined)}
            />
            <span className="font-semibold">All {open.plural}</span>
          </label>
          {found.map((member) => (
            <label
              key={member.key}
              className={`flex items-center gap-2 rounded px-2 py-1 hover:bg-chosen ${member.parent === null || find !== "" ? "" : "ml-5"}`}
            >
              <input
                type="checkbox"
                className="accent-[var(--accent)]"
                checked={members?.includes(member.key) ?? false}
                onChange={(event) => {
                  const next = event.target.checked
                    ? [...(members ?? []), member.key]
                    : (members ?? []).filter((m) => m !== member.key);
                  change(open.key, next.length === 0 ? undefined : next);
                }}
              />
              {member.name}
            </label>
          ))}
          {found.length === 0 && <p className="px-2 py-1 text-slate">No match.</p>}
          {more > 0 && (
            <p className="px-2 py-1 text-slate">
              {more.toLocaleString("en")} more: type a part of a name to find them.
            </p>
          )}
        </div>
      )}
    </div>
  );
}
