import { KPIS } from "#contract/operations/kpis.ts";
import { Plus, X } from "lucide-react";
import type { DefinitionOf } from "#core/panels/schemas.ts";
import { Field, IconButton, TextField, Tick } from "../../ui/form.tsx";
import { ChosenList, Moves } from "../arrange/chosen-list.tsx";
import { moved } from "../arrange/moved.ts";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { COLUMNS } from "./columns.tsx";
import { moveKpi } from "./move-kpi.ts";
import { useAnswer } from "../../client/answer.ts";
import { DEFAULT_COLUMNS, SCORECARD_COLUMNS } from "#core/panels/scorecard/schema.ts";

type Definition = DefinitionOf<"scorecard">;

/** A scorecard's columns, groups and KPIs, and what its rows open into. */
export default function ArrangeScorecard({ panel, dimensions, onChange }: ArrangeProps<"scorecard">) {
  const columns = panel.columns ?? DEFAULT_COLUMNS;
  return (
    <>
      <section aria-label="Columns" className="mt-4">
        <h3 className="font-serif text-[16px]">Columns</h3>
        <ChosenList
          chosen={columns}
          nameOf={(key) => COLUMNS.find((c) => c.key === key)!.name}
          rest={SCORECARD_COLUMNS.filter((key) => !columns.includes(key))}
          onChange={(next) => onChange({ ...panel, columns: next })}
        />
      </section>
      <GroupsPart panel={panel} onChange={onChange} />
      <div className="mt-4 grid gap-2">
        <Field label="Expand rows by">
          <select
            className="field"
            value={panel.expandBy ?? dimensions[0]?.key ?? ""}
            onChange={(e) => onChange({ ...panel, expandBy: e.target.value })}
          >
            {dimensions.map((d) => (
              <option key={d.key} value={d.key}>
                {d.name}
              </option>
            ))}
          </select>
        </Field>
        <Tick
          label="Mark unusual months"
          isOn={panel.marksOutside === true}
          onChange={(isOn) => onChange({ ...panel, marksOutside: isOn ? true : undefined })}
        />
      </div>
    </>
  );
}

function GroupsPart({ panel, onChange }: { panel: Definition; onChange: (next: Definition) => void }) {
  const kpis = useAnswer(KPIS.kpis);
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
                  label={`Remove ${nameOf(key)}`}
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
        className="mt-2 flex min-h-[24px] items-center gap-1 text-accent hover:underline"
        onClick={() => set([...groups, { title: freeTitle(groups), kpis: [] }])}
      >
        <Plus size={13} aria-hidden="true" /> Add a group
      </button>
    </section>
  );
}

function freeTitle(groups: Definition["groups"]): string {
  const taken = new Set(groups.map((g) => g.title));
  for (let n = 1; ; n += 1) {
    const title = n === 1 ? "New group" : `New group ${n}`;
    if (!taken.has(title)) return title;
  }
}
