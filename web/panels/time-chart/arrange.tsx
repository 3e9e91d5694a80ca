import { Plus, X } from "lucide-react";
import { useState } from "react";
import { GRAINS } from "#core/series/grain.ts";
import { CHART_SERIES, type ChartSeries } from "#core/panels/time-chart/definition.ts";
import type { DefinitionOf } from "#contract/panels/index.ts";
import {
  REFERENCE_PERIODS,
  REFERENCE_SIDES,
  REFERENCE_STATISTICS,
  type ReferenceLine,
} from "#core/series/reference-kinds.ts";
import { writeDecimal } from "#core/reading/write-decimal.ts";
import { readNumber } from "#core/reading/read-number.ts";
import { Button, Field, IconButton, TextField, Tick } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import type { ArrangeProps } from "../panel-view.ts";

type Panel = DefinitionOf<"time-chart">;
type Statistic = Extract<ReferenceLine, { kind: "statistic" }>;

const SERIES_NAMES: Readonly<Record<ChartSeries, string>> = {
  forecast: "Forecast",
  budget: "Budget",
  target: "Target",
  "prior-year": "Prior year",
};
const PERIOD_NAMES: Readonly<Record<Statistic["over"], string>> = {
  span: "of the span",
  "this-year": "of this fiscal year",
  "last-year": "of the last fiscal year",
  "year-before-last": "of the year before the last",
};

/** A chart over time: of which KPI, drawn how, with what beside the actual, and what it is read against. */
export default function ArrangeTimeChart({ panel, onChange }: ArrangeProps<"time-chart">) {
  const hides = panel.hides ?? [];
  /** Sets a part, or leaves it out where the usual is wanted. */
  const set = <K extends "marks" | "decimals" | "grain" | "last">(part: K, value: Panel[K] | undefined) => {
    const { [part]: _, ...rest } = panel;
    onChange((value === undefined ? rest : { ...rest, [part]: value }) as Panel);
  };
  return (
    <>
      <div className="mt-2 grid gap-2">
        <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
        <div className="grid grid-cols-2 gap-2">
          <Field label="Drawn as">
            <select
              className="field"
              value={panel.marks ?? ""}
              onChange={(e) => set("marks", e.target.value === "" ? undefined : (e.target.value as Panel["marks"]))}
            >
              <option value="">what fits the KPI</option>
              <option value="columns">columns</option>
              <option value="lines">lines</option>
            </select>
          </Field>
          <Field label="Decimals">
            <select
              className="field"
              value={panel.decimals ?? ""}
              onChange={(e) => set("decimals", e.target.value === "" ? undefined : Number(e.target.value))}
            >
              <option value="">the KPI’s</option>
              {[0, 1, 2, 3, 4].map((n) => (
                <option key={n} value={n}>
                  {n}
                </option>
              ))}
            </select>
          </Field>
        </div>
      </div>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <Field label="By">
          <select
            className="field"
            value={panel.grain ?? "month"}
            onChange={(e) => set("grain", e.target.value === "month" ? undefined : (e.target.value as Panel["grain"]))}
          >
            {GRAINS.map((grain) => (
              <option key={grain} value={grain}>
                {grain}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Window">
          <select
            className="field"
            value={panel.last ?? ""}
            onChange={(e) => set("last", e.target.value === "" ? undefined : Number(e.target.value))}
          >
            <option value="">what is usual</option>
            {[6, 12, 13, 24, 36, 60, 120].map((last) => (
              <option key={last} value={last}>
                the last {last}
              </option>
            ))}
          </select>
        </Field>
      </div>
      <fieldset className="mt-3">
        <legend className="font-serif text-[16px]">Shown with the actual</legend>
        {CHART_SERIES.map((series) => (
          <Tick
            key={series}
            label={SERIES_NAMES[series]}
            isOn={!hides.includes(series)}
            onChange={(isOn) =>
              onChange({ ...panel, hides: isOn ? hides.filter((s) => s !== series) : [...hides, series] })
            }
          />
        ))}
        <Tick
          label="Values next to their marks"
          isOn={panel.hasLabels !== false}
          onChange={(hasLabels) => onChange({ ...panel, hasLabels })}
        />
      </fieldset>
      <References panel={panel} onChange={onChange} />
    </>
  );
}

function References({ panel, onChange }: { panel: Panel; onChange: (next: Panel) => void }) {
  const references = panel.references ?? [];
  const [statistic, setStatistic] = useState<Statistic>({
    kind: "statistic",
    of: "average",
    side: "actual",
    over: "last-year",
  });
  const [constant, setConstant] = useState({ name: "", value: "" });
  const value = readNumber(constant.value, ".");
  const add = (line: ReferenceLine) => onChange({ ...panel, references: [...references, line] });
  return (
    <section aria-label="Reference lines" className="mt-4">
      <h3 className="font-serif text-[16px]">Reference lines</h3>
      <ul>
        {references.map((line, i) => (
          <li key={i} className="flex items-center border-t border-thread/60">
            <span className="flex-1">{referenceName(line)}</span>
            <IconButton
              label={`Leave out ${referenceName(line)}`}
              onClick={() => onChange({ ...panel, references: references.toSpliced(i, 1) })}
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {references.length < 6 && (
        <>
          <div className="mt-1 grid grid-cols-[1fr_1fr_1.4fr_auto] items-end gap-1.5">
            <Pick
              label="Statistic"
              choices={REFERENCE_STATISTICS}
              chosen={statistic.of}
              onChoose={(of) => setStatistic({ ...statistic, of })}
            />
            <Pick
              label="Which scenario"
              choices={REFERENCE_SIDES}
              chosen={statistic.side}
              onChoose={(side) => setStatistic({ ...statistic, side })}
            />
            <Pick
              label="Of which months"
              choices={REFERENCE_PERIODS}
              chosen={statistic.over}
              nameOf={(over) => PERIOD_NAMES[over]}
              onChoose={(over) => setStatistic({ ...statistic, over })}
            />
            <IconButton label="Add this statistic" onClick={() => add(statistic)}>
              <Plus size={14} />
            </IconButton>
          </div>
          {/* Emptied when a line was added. */}
          <div key={references.length} className="mt-1.5 grid grid-cols-[1.4fr_1fr_auto] items-end gap-1.5">
            <TextField
              label="Constant, its name"
              value={constant.name}
              onCommit={(name) => setConstant({ ...constant, name })}
            />
            <TextField
              label="Value, unscaled"
              value={constant.value}
              onCommit={(text) => setConstant({ ...constant, value: text })}
            />
            <Button
              isDisabled={constant.name.trim() === "" || value === undefined}
              onClick={() => {
                add({ kind: "constant", name: constant.name.trim(), value: Number(writeDecimal(value!, ".")) });
                setConstant({ name: "", value: "" });
              }}
            >
              Add
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

function Pick<K extends string>({
  label,
  choices,
  chosen,
  nameOf = (key) => key,
  onChoose,
}: {
  label: string;
  choices: readonly K[];
  chosen: K;
  nameOf?: (key: K) => string;
  onChoose: (key: K) => void;
}) {
  return (
    <Field label={label}>
      <select className="field" value={chosen} onChange={(e) => onChoose(e.target.value as K)}>
        {choices.map((key) => (
          <option key={key} value={key}>
            {nameOf(key)}
          </option>
        ))}
      </select>
    </Field>
  );
}

function referenceName(line: ReferenceLine): string {
  if (line.kind === "constant") return `${line.name}, ${line.value.toLocaleString("en-GB")}`;
  const statistic = line.of.charAt(0).toUpperCase() + line.of.slice(1);
  return `${statistic} ${line.side} ${PERIOD_NAMES[line.over]}`;
}
