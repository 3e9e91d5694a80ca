import { Field, Tick } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { VIEW_CHOICES } from "./views.ts";
import { MOST_SEASONS, SEASON_VIEWS } from "#core/panels/season/schema.ts";

/** A season: of which KPI, seen how, against how many years. */
export default function ArrangeSeason({ panel, onChange }: ArrangeProps<"season">) {
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
      <Field label="View">
        <select
          className="field"
          value={panel.view}
          onChange={(e) => onChange({ ...panel, view: SEASON_VIEWS.find((view) => view === e.target.value)! })}
        >
          {VIEW_CHOICES.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </Field>
      <Field label="Prior years">
        <select
          className="field"
          value={panel.years}
          onChange={(e) => onChange({ ...panel, years: Number(e.target.value) })}
        >
          {Array.from({ length: MOST_SEASONS }, (_, i) => (
            <option key={i} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </select>
      </Field>
      <Tick
        label="Include the year itself in average and range"
        isOn={panel.countsStudied}
        onChange={(countsStudied) => onChange({ ...panel, countsStudied })}
      />
    </div>
  );
}
