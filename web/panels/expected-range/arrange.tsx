import { LEAST_LEVEL, MOST_LEVEL } from "#core/ahead/settings.ts";
import { RANGE_GRAINS } from "#core/ahead/settings.ts";
import { Field } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { RANGE_PERIODS } from "#core/panels/expected-range/schema.ts";

/** An expected range: of which KPI, by which periods, how many, how wide, and where an event may be. */
export default function ArrangeExpectedRange({ panel, dimensions, onChange }: ArrangeProps<"expected-range">) {
  const { most, usual } = RANGE_PERIODS[panel.grain];
  const set = (change: Partial<typeof panel>) => {
    const next = { ...panel, ...change };
    onChange(Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as typeof panel);
  };
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => set({ kpi })} />
      <div className="grid grid-cols-2 gap-2">
        <Field label="By">
          <select
            className="field"
            value={panel.grain}
            onChange={(e) => set({ grain: RANGE_GRAINS.find((grain) => grain === e.target.value)!, last: undefined })}
          >
            {RANGE_GRAINS.map((grain) => (
              <option key={grain} value={grain}>
                {grain}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Judged">
          <select
            className="field"
            value={panel.last ?? ""}
            onChange={(e) => set({ last: e.target.value === "" ? undefined : Number(e.target.value) })}
          >
            <option value="">the last {usual}</option>
            {[12, 24, 31, 48, 92, 183, 365]
              .filter((last) => last <= most && last !== usual)
              .map((last) => (
                <option key={last} value={last}>
                  the last {last}
                </option>
              ))}
          </select>
        </Field>
      </div>
      <Field label="Confidence level of the range, %">
        <input
          className="field"
          type="number"
          min={LEAST_LEVEL}
          max={MOST_LEVEL}
          value={panel.level ?? 95}
          onChange={(e) => {
            const level = Number(e.target.value);
            if (level >= LEAST_LEVEL && level <= MOST_LEVEL) set({ level: level === 95 ? undefined : level });
          }}
        />
      </Field>
      <LevelPick
        label="Also test members one by one, to locate events"
        none="only the total"
        dimensions={dimensions}
        chosen={panel.split ?? null}
        onPick={(split) => set({ split: split ?? undefined })}
      />
    </div>
  );
}
