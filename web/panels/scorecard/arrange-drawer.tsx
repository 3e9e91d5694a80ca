import { useQueryClient } from "@tanstack/react-query";
import { ArrowDown, ArrowUp, Plus, Redo2, Undo2, X } from "lucide-react";
import { useRef, useState } from "react";
import { DEFAULT_COLUMNS, packSchema, type PackDefinition, type ScorecardPanelDefinition } from "#contract/pack.ts";
import { callApi } from "../../app/api.ts";
import { useKpis, usePack } from "../../app/questions.ts";
import { Drawer } from "../../ui/drawer.tsx";
import { Field, IconButton, TextField } from "../../ui/form.tsx";
import { COLUMNS } from "./columns.tsx";
import type { PanelPlace } from "./scorecard-panel.tsx";

type Definition = ScorecardPanelDefinition;

/** A scorecard arranged: columns, groups, KPIs, and what its rows open into. Saved as it is made, with undo. */
export function ArrangeDrawer({
  place,
  dimensions,
  onClose,
}: {
  place: PanelPlace;
  dimensions: readonly { key: string; name: string }[];
  onClose: () => void;
}) {
  const pack = usePack(place.pack);
  const panel = pack.data?.pages.find((p) => p.key === place.page)?.panels.find((p) => p.key === place.panel);
  const { save, undo, redo, canUndo, canRedo, problem } = useArranging(
    place,
    panel?.kind === "scorecard" ? panel : null,
  );
  return (
    <Drawer label="Arrange the scorecard" subject={place.panel} onClose={onClose}>
      <div className="flex items-center gap-2">
        <h2 className="font-serif text-[19px]">Arrange the scorecard</h2>
        <IconButton label="Undo" isDisabled={!canUndo} onClick={undo}>
          <Undo2 size={15} />
        </IconButton>
        <IconButton label="Redo" isDisabled={!canRedo} onClick={redo}>
          <Redo2 size={15} />
        </IconButton>
      </div>
      <p className="text-[13px] text-slate">Every change is saved as it is made, for all who read this page.</p>
      {problem && (
        <p role="alert" className="mt-1 text-madder">
          {problem}
        </p>
      )}
      {panel?.kind === "scorecard" && (
        <>
          <ColumnsPart panel={panel} onChange={save} />
          <GroupsPart panel={panel} onChange={save} />
          <div className="mt-4">
            <Field label="Rows open by">
              <select
                className="field"
                value={panel.expandBy ?? dimensions[0]?.key ?? ""}
                onChange={(e) => save({ ...panel, expandBy: e.target.value })}
              >
                {dimensions.map((d) => (
                  <option key={d.key} value={d.key}>
                    {d.name}
                  </option>
                ))}
              </select>
            </Field>
          </div>
        </>
      )}
    </Drawer>
  );
}

function ColumnsPart({ panel, onChange }: { panel: Definition; onChange: (next: Definition) => void }) {
  const chosen = [...(panel.columns ?? DEFAULT_COLUMNS)];
  const set = (columns: typeof chosen) => onChange({ ...panel, columns });
  const rest = COLUMNS.filter((c) => !chosen.includes(c.key));
  return (
    <section aria-label="Columns" className="mt-4">
      <h3 className="font-serif text-[16px]">Columns</h3>
      <ol>
        {chosen.map((key, i) => {
          const name = COLUMNS.find((c) => c.key === key)!.name;
          return (
            <li key={key} className="flex items-center border-t border-thread/60">
              <span className="flex-1">{name}</span>
              <Moves
                name={name}
                isFirst={i === 0}
                isLast={i === chosen.length - 1}
                onMove={(to) => set(moved(chosen, i, i + to))}
              />
              <IconButton
                label={`Leave out ${name}`}
                isDisabled={chosen.length === 1}
                onClick={() => set(chosen.toSpliced(i, 1))}
              >
                <X size={13} />
              </IconButton>
            </li>
          );
        })}
      </ol>
      <p className="mt-1 flex flex-wrap gap-x-3 gap-y-1 text-[13px]">
        {rest.map((column) => (
          <button
            key={column.key}
            type="button"
            className="flex min-h-6 items-center gap-0.5 text-indigo hover:underline"
            onClick={() => set([...chosen, column.key])}
          >
            <Plus size={12} aria-hidden="true" /> {column.name}
          </button>
        ))}
      </p>
    </section>
  );
}

function GroupsPart({ panel, onChange }: { panel: Definition; onChange: (next: Definition) => void }) {
  const kpis = useKpis();
  const { groups } = panel;
  const nameOf = (key: string) => kpis.data?.find((k) => k.definition.key === key)?.definition.name ?? key;
  const used = new Set(groups.flatMap((g) => g.kpis));
  const set = (next: Definition["groups"]) => onChange({ ...panel, groups: next });
  const setGroup = (at: number, change: Partial<Definition["groups"][number]>) =>
    set(groups.map((group, i) => (i === at ? { ...group, ...change } : group)));
  return (
    <section aria-label="Groups" className="mt-4">
      <h3 className="font-serif text-[16px]">Groups and KPIs</h3>
      {groups.map((group, g) => (
        <fieldset key={g} className="mt-2 rounded border border-thread px-2.5 pt-1 pb-2">
          <div className="flex items-end gap-1">
            <span className="flex-1">
              <TextField
                key={`${g}/${group.title}`}
                label={`Group ${g + 1}`}
                value={group.title}
                whenLeft
                onCommit={(title) => setGroup(g, { title })}
              />
            </span>
            <Moves
              name={group.title}
              isFirst={g === 0}
              isLast={g === groups.length - 1}
              onMove={(to) => set(moved(groups, g, g + to))}
            />
            <IconButton label={`Remove the group ${group.title}`} onClick={() => set(groups.toSpliced(g, 1))}>
              <X size={13} />
            </IconButton>
          </div>
          <ol>
            {group.kpis.map((key, i) => (
              <li key={key} className="flex items-center border-t border-thread/60 first:border-0">
                <span className="flex-1">{nameOf(key)}</span>
                <Moves
                  name={nameOf(key)}
                  isFirst={i === 0 && g === 0}
                  isLast={i === group.kpis.length - 1 && g === groups.length - 1}
                  onMove={(to) => set(moveKpi(groups, g, i, to))}
                />
                <IconButton
                  label={`Take out ${nameOf(key)}`}
                  onClick={() => setGroup(g, { kpis: group.kpis.toSpliced(i, 1) })}
                >
                  <X size={13} />
                </IconButton>
              </li>
            ))}
          </ol>
          <select
            aria-label={`Add a KPI to ${group.title}`}
            className="field mt-1"
            value=""
            onChange={(e) => setGroup(g, { kpis: [...group.kpis, e.target.value] })}
          >
            <option value="">Add a KPI …</option>
            {kpis.data
              ?.filter((k) => !used.has(k.definition.key) && !k.problem)
              .map(({ definition }) => (
                <option key={definition.key} value={definition.key}>
                  {definition.name}
                </option>
              ))}
          </select>
        </fieldset>
      ))}
      <button
        type="button"
        className="mt-2 flex min-h-6 items-center gap-1 text-indigo hover:underline"
        onClick={() => set([...groups, { title: freeTitle(groups), kpis: [] }])}
      >
        <Plus size={13} aria-hidden="true" /> Another group
      </button>
    </section>
  );
}

function Moves({
  name,
  isFirst,
  isLast,
  onMove,
}: {
  name: string;
  isFirst: boolean;
  isLast: boolean;
  onMove: (by: -1 | 1) => void;
}) {
  return (
    <>
      <IconButton label={`Move ${name} up`} isDisabled={isFirst} onClick={() => onMove(-1)}>
        <ArrowUp size={13} />
      </IconButton>
      <IconButton label={`Move ${name} down`} isDisabled={isLast} onClick={() => onMove(1)}>
        <ArrowDown size={13} />
      </IconButton>
    </>
  );
}

function moved<T>(items: readonly T[], from: number, to: number): T[] {
  return items.toSpliced(from, 1).toSpliced(to, 0, items[from]!);
}

/** A KPI one place up or down; at the end of its group it goes over into the next. */
export function moveKpi(groups: Definition["groups"], g: number, i: number, by: -1 | 1): Definition["groups"] {
  const own = groups[g]!;
  const to = i + by;
  if (to >= 0 && to < own.kpis.length)
    return groups.map((group, k) => (k === g ? { ...group, kpis: moved(group.kpis, i, to) } : group));
  const key = own.kpis[i]!;
  return groups.map((group, k) => {
    if (k === g) return { ...group, kpis: group.kpis.toSpliced(i, 1) };
    if (k !== g + by) return group;
    return { ...group, kpis: by > 0 ? [key, ...group.kpis] : [...group.kpis, key] };
  });
}

function freeTitle(groups: Definition["groups"]): string {
  const taken = new Set(groups.map((g) => g.title));
  for (let n = 1; ; n += 1) {
    const title = n === 1 ? "New group" : `New group ${n}`;
    if (!taken.has(title)) return title;
  }
}

/** Saves arrangements in order, each seen at once, with a way back and forth. */
function useArranging(place: PanelPlace, panel: Definition | null) {
  const client = useQueryClient();
  const [past, setPast] = useState<readonly Definition[]>([]);
  const [future, setFuture] = useState<readonly Definition[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const key = ["pack", place.pack];
  // Changes are sent one after the other: the last one made is the one that stays.
  const queue = useRef(Promise.resolve());
  const put = (next: Definition) => {
    setProblem(null);
    client.setQueryData<PackDefinition>(key, (pack) => pack && withPanel(pack, place, next));
    queue.current = queue.current.then(() => send(next));
  };
  const send = async (next: Definition) => {
    try {
      const path = `/api/packs/${place.pack}/pages/${place.page}/panels/${place.panel}`;
      await callApi(path, packSchema, { method: "PUT", body: next });
      await client.invalidateQueries({
        predicate: (q) => ["panel", "member-rows", "kpis"].includes(String(q.queryKey[0])),
      });
    } catch (error) {
      setProblem((error as Error).message);
      await client.invalidateQueries({ queryKey: key });
    }
  };
  const step = (from: readonly Definition[], isBack: boolean) => {
    const next = isBack ? from.at(-1) : from[0];
    if (!next || !panel) return;
    setPast(isBack ? past.slice(0, -1) : [...past, panel]);
    setFuture(isBack ? [panel, ...future] : future.slice(1));
    put(next);
  };
  return {
    save: (next: Definition) => {
      if (!panel) return;
      setPast([...past, panel]);
      setFuture([]);
      put(next);
    },
    undo: () => step(past, true),
    redo: () => step(future, false),
    canUndo: past.length > 0,
    canRedo: future.length > 0,
    problem,
  };
}

function withPanel(pack: PackDefinition, place: PanelPlace, next: Definition): PackDefinition {
  return {
    ...pack,
    pages: pack.pages.map((page) =>
      page.key === place.page ? { ...page, panels: page.panels.map((p) => (p.key === place.panel ? next : p)) } : page,
    ),
  };
}
