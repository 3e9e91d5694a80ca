import type { FrameChoices } from "#contract/frame-choices.ts";
import { Field, Tick } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { SHADE_CHOICES } from "./shades.ts";
import { HEAT_SHADES, MOST_YEARS, type HeatAxis } from "#core/panels/heat/schema.ts";

/** A heat grid: of which KPI, by what on either side, over how many years, shaded by what. */
export default function ArrangeHeat({ panel, dimensions, onChange }: ArrangeProps<"heat">) {
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
      <AxisPick
        label="Rows"
        dimensions={dimensions}
        chosen={panel.rows}
        onPick={(rows) => onChange({ ...panel, rows })}
      />
      <AxisPick
        label="Columns"
        dimensions={dimensions}
        chosen={panel.columns}
        onPick={(columns) => onChange({ ...panel, columns })}
      />
      <Field label="Cells are">
        <select
          className="field"
          value={panel.shade}
          onChange={(e) => onChange({ ...panel, shade: HEAT_SHADES.find((shade) => shade === e.target.value)! })}
        >
          {SHADE_CHOICES.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </Field>
      <Field label="Fiscal years, including this one">
        <select
          className="field"
          value={panel.years}
          onChange={(e) => onChange({ ...panel, years: Number(e.target.value) })}
        >
          {Array.from({ length: MOST_YEARS }, (_, i) => (
            <option key={i} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </select>
      </Field>
      <Tick
        label="Show values in cells"
        isOn={panel.hasLabels !== false}
        onChange={(hasLabels) => onChange({ ...panel, hasLabels })}
      />
    </div>
  );
}

function AxisPick({
  label,
  dimensions,
  chosen,
  onPick,
}: {
  label: string;
  dimensions: FrameChoices["dimensions"];
  chosen: HeatAxis;
  onPick: (axis: HeatAxis) => void;
}) {
  const pick = (text: string): HeatAxis => {
    if (text === "month" || text === "weekday" || text === "year") return { kind: text };
    const [dimension = "", level] = text.split("/");
    return { kind: "member", dimension, level: level ? level : null };
  };
  return (
    <Field label={label}>
      <select
        className="field"
        value={chosen.kind === "member" ? `${chosen.dimension}/${chosen.level ?? ""}` : chosen.kind}
        onChange={(event) => onPick(pick(event.target.value))}
      >
        <option value="month">month</option>
        <option value="weekday">weekday, of daily figures</option>
        <option value="year">year</option>
        {dimensions.flatMap(({ key, levels }) =>
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
