import { Field } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { MAP_COLOURS } from "#core/panels/map/schema.ts";

/** A map: of which KPI, by whose countries, coloured how. */
export default function ArrangeMap({ panel, dimensions, onChange }: ArrangeProps<"map">) {
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
      <LevelPick
        label="Countries from"
        dimensions={dimensions}
        chosen={panel.by}
        onPick={(by) => by && onChange({ ...panel, by })}
      />
      <Field label="Circles are">
        <select
          className="field"
          value={panel.colour}
          onChange={(e) => onChange({ ...panel, colour: MAP_COLOURS.find((colour) => colour === e.target.value)! })}
        >
          <option value="judgement">coloured by judgement</option>
          <option value="value">in one colour</option>
        </select>
      </Field>
    </div>
  );
}
