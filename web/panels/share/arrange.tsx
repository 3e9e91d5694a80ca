import { Field } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { SHARE_OF, SHARE_SHAPES } from "#core/panels/share/schema.ts";

/** Shares: of which KPI, by whom, of the whole or of what each is to reach, and in which shape. */
export default function ArrangeShare({ panel, dimensions, onChange }: ArrangeProps<"share">) {
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
      <LevelPick
        label="Break down by"
        dimensions={dimensions}
        chosen={panel.by}
        onPick={(by) => by && onChange({ ...panel, by })}
      />
      <Field label="Show as">
        <select
          className="field"
          value={panel.of}
          onChange={(e) => onChange({ ...panel, of: SHARE_OF.find((of) => of === e.target.value)! })}
        >
          <option value="whole">a part of the whole</option>
          <option value="basis">attainment of the basis</option>
        </select>
      </Field>
      <Field label="Shape">
        <select
          className="field"
          value={panel.shape}
          onChange={(e) => onChange({ ...panel, shape: SHARE_SHAPES.find((shape) => shape === e.target.value)! })}
        >
          <option value="ring">ring</option>
          <option value="ruler">ruler</option>
        </select>
      </Field>
    </div>
  );
}
