import { useState } from "react";
import { formatScope, parseScope } from "#core/dimensions/scope-text.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";

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
  const members = open ? scope[open.key] : undefined;
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
              onClick={() => setOpenKey(dimension.key)}
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
          <label className="flex items-center gap-2 rounded px-2 py-1 hover:bg-chosen">
            <input
              type="checkbox"
              className="accent-[var(--accent)]"
              checked={members === undefined}
              onChange={() => change(open.key, undefined)}
            />
            <span className="font-semibold">All {open.plural}</span>
          </label>
          {open.members.map((member) => (
            <label
              key={member.key}
              className={`flex items-center gap-2 rounded px-2 py-1 hover:bg-chosen ${member.parent === null ? "" : "ml-5"}`}
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
        </div>
      )}
    </div>
  );
}
