import { X } from "lucide-react";
import { writeDecimal } from "#core/reading/write-decimal.ts";
import { readNumber } from "#core/reading/read-number.ts";
import { DYE_NAMES, DYES } from "../../chart-kit/dyes.ts";
import { Button, Field, IconButton, TextField, Tick } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { GROWTH_GRAINS, GROWTH_ON, MOST_RANGES, rangesProblem, type GrowthRange } from "#core/panels/growth/schema.ts";

/** Growth: of which KPI, on what, over time or by whom, coloured by judgement or by ranges of one's own. */
export default function ArrangeGrowth({ panel, dimensions, onChange }: ArrangeProps<"growth">) {
  const { by } = panel;
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
      <Field label="Growth against">
        <select
          className="field"
          value={panel.on}
          onChange={(e) => onChange({ ...panel, on: GROWTH_ON.find((on) => on === e.target.value)! })}
        >
          <option value="prior-year">the prior year</option>
          <option value="prior-period">the period before</option>
        </select>
      </Field>
      <LevelPick
        label="Break down by"
        none="over time instead"
        dimensions={dimensions}
        chosen={by.kind === "member" ? by : null}
        onPick={(level) =>
          onChange({
            ...panel,
            by: level ? { kind: "member", ...level } : { kind: "time", grain: "month", last: null },
          })
        }
      />
      {by.kind === "time" && (
        <div className="grid grid-cols-2 gap-2">
          <Field label="By">
            <select
              className="field"
              value={by.grain}
              onChange={(e) =>
                onChange({ ...panel, by: { ...by, grain: GROWTH_GRAINS.find((g) => g === e.target.value)! } })
              }
            >
              {GROWTH_GRAINS.map((grain) => (
                <option key={grain} value={grain}>
                  {grain}
                </option>
              ))}
            </select>
          </Field>
          <Field label="Window">
            <select
              className="field"
              value={by.last ?? ""}
              onChange={(e) =>
                onChange({ ...panel, by: { ...by, last: e.target.value === "" ? null : Number(e.target.value) } })
              }
            >
              <option value="">what is usual</option>
              {[...new Set([6, 12, 18, 24, 36, ...(by.last === null ? [] : [by.last])])]
                .sort((a, b) => a - b)
                .map((last) => (
                  <option key={last} value={last}>
                    the last {last}
                  </option>
                ))}
            </select>
          </Field>
        </div>
      )}
      <Tick
        label="Show values on bars"
        isOn={panel.hasLabels !== false}
        onChange={(hasLabels) => onChange({ ...panel, hasLabels })}
      />
      <Ranges ranges={panel.ranges} onChange={(ranges) => onChange({ ...panel, ranges })} />
    </div>
  );
}

const FIRST: readonly GrowthRange[] = [
  { below: 0, name: "shrinking", dye: 2 },
  { below: 0.05, name: "growing", dye: 0 },
  { below: null, name: "growing fast", dye: 3 },
];

/** Colours by ranges of growth. What is not sound yet is said, and not taken over. */
function Ranges({
  ranges,
  onChange,
}: {
  ranges: readonly GrowthRange[] | null;
  onChange: (ranges: readonly GrowthRange[] | null) => void;
}) {
  const put = (next: readonly GrowthRange[]) => {
    if (rangesProblem(next) === null) onChange(next);
  };
  return (
    <fieldset>
      <legend className="font-serif text-[16px]">Colours</legend>
      <Tick label="Colour by my own ranges" isOn={ranges !== null} onChange={(isOn) => onChange(isOn ? FIRST : null)} />
      {ranges?.map((range, i) => {
        const set = (change: Partial<GrowthRange>) => put(ranges.with(i, { ...range, ...change }));
        return (
          <div key={i} className="mt-1 grid grid-cols-[1.4fr_1fr_1fr_auto] items-end gap-1.5">
            <TextField
              label={`Name of range ${i + 1}`}
              value={range.name}
              whenLeft
              onCommit={(name) => name !== "" && set({ name })}
            />
            {range.below === null ? (
              <span className="pb-1 text-[12.5px] text-slate">and above</span>
            ) : (
              <TextField
                label="below, %"
                value={String(Math.round(range.below * 1e6) / 1e4)}
                whenLeft
                onCommit={(text) => {
                  const value = readNumber(text, ".");
                  if (value !== undefined) set({ below: Number(writeDecimal(value, ".")) / 100 });
                }}
              />
            )}
            <Field label="Colour">
              <select className="field" value={range.dye} onChange={(e) => set({ dye: Number(e.target.value) })}>
                {DYE_NAMES.map((name, dye) => (
                  <option key={dye} value={dye}>
                    {name}
                  </option>
                ))}
              </select>
            </Field>
            <IconButton
              label={`Leave out ${range.name}`}
              isDisabled={ranges.length === 1 || range.below === null}
              onClick={() => put(ranges.toSpliced(i, 1))}
            >
              <X size={13} />
            </IconButton>
          </div>
        );
      })}
      {ranges && ranges.length < MOST_RANGES && (
        <Button
          onClick={() => {
            const last = ranges.at(-2)?.below ?? 0;
            put([
              ...ranges.slice(0, -1),
              { below: last + 0.05, name: `Range ${ranges.length}`, dye: ranges.length % DYES },
              ranges.at(-1)!,
            ]);
          }}
        >
          Add a range
        </Button>
      )}
    </fieldset>
  );
}
