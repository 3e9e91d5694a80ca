import { formatNumber } from "#core/formats/number-words.ts";
import { useState } from "react";
import type { EditableStructure } from "#contract/structure.ts";
import type { Definition, Draft, WireFinding } from "#contract/intake.ts";
import { Button, TextField } from "../ui/form.tsx";
import { ChoiceWord, type Choice } from "../ui/choice-word.tsx";
import { leafAccounts } from "./leaf-accounts.ts";

type Rules = Definition["rules"];
type Found = WireFinding["names"][number];
type Decision = Rules["mapping"]["accounts"][string];

const NAMES_SHOWN = 12;

/** Unknown names, each to be mapped to what is there, created, or rejected. */
export function NameDecisions({
  finding,
  draft,
  structure,
  setRules,
}: {
  finding: WireFinding;
  draft: Draft;
  structure: EditableStructure;
  setRules: (change: Partial<Rules>) => void;
}) {
  const [creating, setCreating] = useState<string | null>(null);
  const { mapping } = draft.definition.rules;
  const decide = (entries: readonly (readonly [Found, Decision])[]) => {
    let next = mapping;
    for (const [found, decision] of entries) {
      const { thing, text } = found;
      if (thing === "account") next = { ...next, accounts: { ...next.accounts, [text]: decision } };
      else if (thing === "scenario") next = { ...next, scenarios: { ...next.scenarios, [text]: decision } };
      else
        next = {
          ...next,
          members: { ...next.members, [thing.dimension]: { ...next.members[thing.dimension], [text]: decision } },
        };
    }
    setRules({ mapping: next });
  };
  const likely = finding.names.filter((n) => n.proposals[0] && n.proposals[0].likeness >= 0.75);
  const makeable = finding.names.filter((n) => typeof n.thing === "object");
  return (
    <div className="mt-1.5 rounded border border-thread/80 px-2 py-1">
      {finding.names.slice(0, NAMES_SHOWN).map((found) => (
        <div key={found.text} className="py-1 text-[13px]">
          <p>
            <span className="font-semibold">{found.text === "" ? "(empty)" : found.text}</span>{" "}
            <span className="text-slate">{found.lines === 1 ? "1 line" : `${formatNumber(found.lines, 0)} lines`}</span>
          </p>
          <p className="flex flex-wrap items-baseline gap-x-3">
            {found.proposals.slice(0, 2).map((p) => (
              <button
                key={p.key}
                type="button"
                className="min-h-[24px] text-accent hover:underline"
                onClick={() => decide([[found, { to: p.key }]])}
              >
                is {p.name}
              </button>
            ))}
            <ChoiceWord
              label={`What ${found.text} is`}
              words={found.proposals.length > 0 ? "another …" : "is …"}
              choices={choicesFor(found, structure, draft)}
              chosen=""
              onChoose={(key) => decide([[found, { to: key }]])}
              className="min-h-[24px] text-accent hover:underline"
            />
            {found.thing !== "scenario" && found.text !== "" && (
              <button
                type="button"
                className="min-h-[24px] text-accent hover:underline"
                onClick={() => setCreating(creating === found.text ? null : found.text)}
              >
                create it
              </button>
            )}
            <button
              type="button"
              className="min-h-[24px] text-accent hover:underline"
              onClick={() => decide([[found, { reject: true }]])}
            >
              reject
            </button>
          </p>
          {creating === found.text && (
            <CreateName
              found={found}
              structure={structure}
              onCreate={(decision) => {
                decide([[found, decision]]);
                setCreating(null);
              }}
            />
          )}
        </div>
      ))}
      {finding.names.length > NAMES_SHOWN && (
        <p className="py-1 text-[13px] text-slate">and {formatNumber(finding.names.length - NAMES_SHOWN, 0)} more</p>
      )}
      {(likely.length > 1 || makeable.length > 1) && (
        <p className="flex gap-3 border-t border-thread/70 pt-1">
          {likely.length > 1 && (
            <Button onClick={() => decide(likely.map((n) => [n, { to: n.proposals[0]!.key }] as const))}>
              Take the {likely.length} likely ones
            </Button>
          )}
          {makeable.length > 1 && (
            <Button
              onClick={() => decide(makeable.map((n) => [n, { create: { name: n.text, parent: null } }] as const))}
            >
              Create all {makeable.length}
            </Button>
          )}
        </p>
      )}
    </div>
  );
}

function CreateName({
  found,
  structure,
  onCreate,
}: {
  found: Found;
  structure: EditableStructure;
  onCreate: (decision: Decision) => void;
}) {
  const parents = parentChoices(found, structure);
  const isAccount = found.thing === "account";
  const [name, setName] = useState(found.text);
  const [parent, setParent] = useState(isAccount ? (parents[0]?.key ?? "") : "");
  return (
    <form
      className="my-1 grid gap-1.5 rounded bg-ground p-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (name !== "") onCreate({ create: { name, parent: parent === "" ? null : parent } });
      }}
    >
      <TextField label="Name" value={name} onCommit={setName} />
      <label className="grid gap-0.5">
        <span className="text-[12.5px] text-slate">Below</span>
        <select className="field" value={parent} onChange={(e) => setParent(e.target.value)}>
          {!isAccount && <option value="">the top level</option>}
          {parents.map((p) => (
            <option key={p.key} value={p.key}>
              {p.name}
            </option>
          ))}
        </select>
      </label>
      <span>
        <Button kind="main" type="submit" isDisabled={name === ""}>
          Create when posted
        </Button>
      </span>
    </form>
  );
}

/** Accounts and members that others stand below already. */
function parentChoices(found: Found, structure: EditableStructure): Choice[] {
  if (found.thing === "account") {
    const parents = new Set(structure.accounts.map((a) => a.parent));
    return structure.accounts.filter((a) => parents.has(a.key)).map((a) => ({ key: a.key, name: a.name }));
  }
  const { thing } = found;
  if (typeof thing !== "object") return [];
  const dimension = structure.dimensions.find((d) => d.key === thing.dimension);
  if (!dimension || dimension.levels.length < 2) return [];
  return dimension.members.filter((m) => m.parent === null).map((m) => ({ key: m.key, name: m.name }));
}

function choicesFor(found: Found, structure: EditableStructure, draft: Draft): Choice[] {
  if (found.thing === "account") return leafAccounts(structure, draft);
  if (found.thing === "scenario") return structure.scenarios.map((s) => ({ key: s.key, name: s.name }));
  const { dimension } = found.thing;
  const own = structure.dimensions.find((d) => d.key === dimension);
  const nameOf = (key: string | null) => own?.members.find((m) => m.key === key)?.name ?? null;
  return (own?.members ?? []).map((m) => ({ key: m.key, name: m.name, note: nameOf(m.parent) }));
}
