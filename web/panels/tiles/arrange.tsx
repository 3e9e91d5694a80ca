import { TILE_FIGURES, type TileFigureKind } from "#core/panels/tiles/figure-kinds.ts";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { KpiList } from "../arrange/kpi-list.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import { Field, Tick } from "../../ui/form.tsx";
import { ArrangeMembers } from "../arrange/member-arrangement.tsx";
import { ChosenList } from "../arrange/chosen-list.tsx";
import { DEFAULT_TILE_FIGURES, MOST_IN_ROW } from "#core/panels/tiles/schema.ts";

const FIGURE_NAMES: Readonly<Record<TileFigureKind, string>> = {
  month: "The month",
  "month-to-date": "Month to date",
  "same-day": "Last month to the same day",
  "year-to-date": "Year to date",
  "prior-year": "Prior year",
  "run-rate-month": "Run rate of the month",
  "run-rate-year": "Run rate of the year",
  outlook: "Full-year outlook",
};

/** Tiles: of which KPIs, with which small figures, repeated by what, in which order. */
export default function ArrangeTiles({ panel, dimensions, onChange }: ArrangeProps<"tiles">) {
  const figures = panel.figures ?? DEFAULT_TILE_FIGURES;
  const { repeatBy } = panel;
  return (
    <>
      <div className="mt-3 grid gap-2">
        <LevelPick
          label="Repeated by"
          none="nothing: a tile for each KPI"
          dimensions={dimensions}
          chosen={repeatBy}
          onPick={(next) => onChange({ ...panel, repeatBy: next })}
        />
        <ArrangeMembers
          arrangement={panel}
          hasTop={repeatBy !== null}
          onChange={(change) => onChange({ ...panel, ...change })}
        />
      </div>
      <section aria-label="Small figures" className="mt-4">
        <h3 className="font-serif text-[16px]">Small figures</h3>
        <ChosenList
          chosen={figures}
          nameOf={(key) => FIGURE_NAMES[key]}
          rest={TILE_FIGURES.filter((key) => !figures.includes(key))}
          mayBeEmpty
          onChange={(next) => onChange({ ...panel, figures: next })}
        />
        <p className="mt-1 text-[12.5px] text-slate">The large figure is not repeated.</p>
        <Tick
          label="Mark unusual months"
          isOn={panel.marksOutside === true}
          onChange={(isOn) => onChange({ ...panel, marksOutside: isOn ? true : undefined })}
        />
      </section>
      <div className="mt-3 grid grid-cols-2 gap-2">
        <KpiPick
          label="Second KPI"
          none="none"
          chosen={panel.second ?? ""}
          onPick={(second) => onChange({ ...panel, second: second === "" ? undefined : second })}
        />
        <Field label="Tiles per row">
          <select
            className="field"
            value={panel.perRow ?? ""}
            onChange={({ target: { value } }) =>
              onChange({ ...panel, perRow: value === "" ? undefined : Number(value) })
            }
          >
            <option value="">automatic</option>
            {Array.from({ length: MOST_IN_ROW }, (_, i) => (
              <option key={i} value={i + 1}>
                {i + 1}
              </option>
            ))}
          </select>
        </Field>
      </div>
      <KpiList
        label={repeatBy ? "Layers" : "KPIs"}
        chosen={panel.kpis}
        onChange={(kpis) => onChange({ ...panel, kpis })}
      />
    </>
  );
}
