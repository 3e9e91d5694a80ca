import type { DefinitionOf } from "#core/panels/schemas.ts";
import { Field, Tick } from "../../ui/form.tsx";
import { KpiList } from "../arrange/kpi-list.tsx";
import { StackingPick } from "../arrange/stacking-pick.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import { ArrangeMembers } from "../arrange/member-arrangement.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { BREAKDOWN_PARTS, type BreakdownPart } from "#core/panels/breakdown/schema.ts";

const PART_NAMES: Readonly<Record<BreakdownPart, string>> = {
  basis: "Mark the basis on each bar",
  delta: "Δ, on one zero line",
  "delta-percent": "Δ%, as combs",
  total: "The total",
};

/** A breakdown: of which KPIs, by whose members, taken apart by what, in which order. */
export default function ArrangeBreakdown({ panel, dimensions, onChange }: ArrangeProps<"breakdown">) {
  const hides = panel.hides ?? [];
  return (
    <>
      <div className="mt-2 grid gap-2">
        <LevelPick
          label="Break down by"
          dimensions={dimensions}
          chosen={panel.by}
          onPick={(by) => by && onChange({ ...panel, by })}
        />
        <Cluster panel={panel} dimensions={dimensions} onChange={onChange} />
        {panel.cluster && (
          <StackingPick
            label="Arrange parts"
            chosen={panel.stacking}
            onPick={(stacking) => onChange({ ...panel, stacking })}
          />
        )}
        <ArrangeMembers arrangement={panel} onChange={(change) => onChange({ ...panel, ...change })} />
      </div>
      <fieldset className="mt-3">
        <legend className="font-serif text-[16px]">Show with the bars</legend>
        {BREAKDOWN_PARTS.map((part) => (
          <Tick
            key={part}
            label={PART_NAMES[part]}
            isOn={!hides.includes(part)}
            onChange={(isOn) =>
              onChange({ ...panel, hides: isOn ? hides.filter((own) => own !== part) : [...hides, part] })
            }
          />
        ))}
      </fieldset>
      <KpiList
        label={panel.cluster?.kind === "kpis" ? "KPIs beside each other" : "KPIs to choose from"}
        chosen={panel.kpis}
        onChange={(kpis) => onChange({ ...panel, kpis })}
      />
    </>
  );
}

function Cluster({ panel, dimensions, onChange }: ArrangeProps<"breakdown">) {
  const { cluster } = panel;
  const value = !cluster
    ? ""
    : cluster.kind === "dimension"
      ? `${cluster.dimension}/${cluster.level ?? ""}`
      : cluster.kind;
  const pick = (text: string): DefinitionOf<"breakdown">["cluster"] => {
    if (text === "") return null;
    if (text === "scenarios" || text === "kpis") return { kind: text };
    const [dimension = "", level] = text.split("/");
    return { kind: "dimension", dimension, level: level ? level : null };
  };
  return (
    <Field label="Split bars by">
      <select
        className="field"
        value={value}
        onChange={(event) => onChange({ ...panel, cluster: pick(event.target.value) })}
      >
        <option value="">nothing</option>
        <option value="scenarios">scenario</option>
        {panel.kpis.length > 1 && <option value="kpis">KPI</option>}
        {dimensions
          .filter(({ key }) => key !== panel.by.dimension)
          .flatMap(({ key, levels }) =>
            levels.map((level, i) => (
              <option key={`${key}/${level}`} value={`${key}/${i === 0 ? "" : level}`}>
                {level}
              </option>
            )),
          )}
      </select>
    </Field>
  );
}
