import { KPIS } from "#contract/operations/kpis.ts";
import { Field, Tick } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { useAnswer } from "../../client/answer.ts";
import { MOST_POINTS, QUADRANTS, SCATTER_GRAINS, type Quadrants } from "#core/panels/scatter/schema.ts";

const QUADRANT_NAMES: Readonly<Record<Quadrants, string>> = {
  none: "none",
  average: "at the mean of the points",
  basis: "at the basis",
};
const LENGTHS = [12, 24, 36, 60, 120];

/** A scatter: which KPIs against each other, by whom or when, parted where, with a line or without. */
export default function ArrangeScatter({ panel, dimensions, onChange }: ArrangeProps<"scatter">) {
  const library = useAnswer(KPIS.kpis).data ?? [];
  const { by } = panel;
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick label="Along" chosen={panel.x} onPick={(x) => onChange({ ...panel, x })} />
      <KpiPick label="Up" chosen={panel.y} onPick={(y) => onChange({ ...panel, y })} />
      <Field label="Sized by">
        <select
          className="field"
          value={panel.size ?? ""}
          onChange={(e) => onChange({ ...panel, size: e.target.value === "" ? null : e.target.value })}
        >
          <option value="">all the same size</option>
          {library.map(({ definition }) => (
            <option key={definition.key} value={definition.key}>
              {definition.name}
            </option>
          ))}
        </select>
      </Field>
      <LevelPick
        label="Each point is a member of"
        none="a period instead"
        dimensions={dimensions}
        chosen={by.kind === "member" ? by : null}
        onPick={(level) =>
          onChange({
            ...panel,
            by: level ? { kind: "member", ...level } : { kind: "period", grain: "month", last: 24 },
          })
        }
      />
      {by.kind === "period" && (
        <div className="grid grid-cols-2 gap-2">
          <Field label="Each point is a">
            <select
              className="field"
              value={by.grain}
              onChange={(e) =>
                onChange({ ...panel, by: { ...by, grain: SCATTER_GRAINS.find((g) => g === e.target.value)! } })
              }
            >
              {SCATTER_GRAINS.map((grain) => (
                <option key={grain} value={grain}>
                  {grain}
                </option>
              ))}
            </select>
          </Field>
          <Field label="The last">
            <select
              className="field"
              value={by.last}
              onChange={(e) => onChange({ ...panel, by: { ...by, last: Number(e.target.value) } })}
            >
              {[...new Set([...LENGTHS, by.last])]
                .filter((length) => length <= MOST_POINTS)
                .sort((a, b) => a - b)
                .map((length) => (
                  <option key={length} value={length}>
                    {length}
                  </option>
                ))}
            </select>
          </Field>
        </div>
      )}
      <Field label="Quadrants">
        <select
          className="field"
          value={panel.quadrants}
          onChange={(e) => onChange({ ...panel, quadrants: QUADRANTS.find((q) => q === e.target.value)! })}
        >
          {QUADRANTS.map((quadrants) => (
            <option key={quadrants} value={quadrants}>
              {QUADRANT_NAMES[quadrants]}
            </option>
          ))}
        </select>
      </Field>
      <Tick label="Trend line with R²" isOn={panel.hasLine} onChange={(hasLine) => onChange({ ...panel, hasLine })} />
    </div>
  );
}
