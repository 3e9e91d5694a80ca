import { KPIS } from "#contract/operations/kpis.ts";
import { Plus, X } from "lucide-react";
import { useState } from "react";
import { HORIZONS, MOST_MARKED, USUAL_RANGE_LEVEL } from "#core/ahead/settings.ts";
import { GRAINS } from "#core/series/grain.ts";
import { fiscalYearName } from "#core/calendar/fiscal-calendar.ts";
import type { DefinitionOf } from "#core/panels/schemas.ts";
import {
  REFERENCE_PERIODS,
  REFERENCE_SIDES,
  REFERENCE_STATISTICS,
  type ReferenceLine,
} from "#core/series/reference-kinds.ts";
import { writeDecimal } from "#core/reading/write-decimal.ts";
import { readNumber } from "#core/reading/read-number.ts";
import { Button, Field, IconButton, TextField, Tick } from "../../ui/form.tsx";
import { ChosenList } from "../arrange/chosen-list.tsx";
import { StackingPick } from "../arrange/stacking-pick.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { useAnswer } from "../../client/answer.ts";
import {
  CHART_SERIES,
  MOST_KPIS_OVER_TIME,
  MOST_PINS,
  MOVING_PERIODS,
  TIME_STRIPS,
  type ChartSeries,
  type TimeStrip,
} from "#core/panels/time-chart/schema.ts";

type Panel = DefinitionOf<"time-chart">;
/** The parts that are left out where the usual is wanted. */
type OptionalPart = Exclude<keyof Panel, "key" | "kind" | "kpi">;
type SetPart = <K extends OptionalPart>(part: K, value: Panel[K] | undefined) => void;
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
  "chosen-year": "of a year that is chosen",
};

/** A chart over time: of which KPI, drawn how, with what beside the actual, and what it is read against. */
export default function ArrangeTimeChart({ panel, dimensions, onChange }: ArrangeProps<"time-chart">) {
  const hides = panel.hides ?? [];
  /** Sets a part, or leaves it out where the usual is wanted. */
  const set = <K extends OptionalPart>(part: K, value: Panel[K] | undefined) => {
    const { [part]: _, ...rest } = panel;
    onChange((value === undefined ? rest : { ...rest, [part]: value }) as Panel);
  };
  return (
    <>
      <div className="mt-2 grid gap-2">
        <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
        <Field label="Drawn as">
          <select
            className="field"
            value={panel.marks ?? ""}
            onChange={(e) => set("marks", e.target.value === "" ? undefined : (e.target.value as Panel["marks"]))}
          >
            <option value="">to suit the KPI</option>
            <option value="columns">columns</option>
            <option value="lines">lines</option>
            <option value="both">columns, with a line for the basis</option>
            <option value="bars">bars, periods down the side</option>
          </select>
        </Field>
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
        <legend className="font-serif text-[16px]">Show with the actual</legend>
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
          label="Show values on marks"
          isOn={panel.hasLabels !== false}
          onChange={(hasLabels) => onChange({ ...panel, hasLabels })}
        />
      </fieldset>
      <SeveralSeries panel={panel} dimensions={dimensions} set={set} />
      <LooksAhead panel={panel} set={set} />
      <Overlaid panel={panel} set={set} />
      <References panel={panel} onChange={onChange} />
      <Pins panel={panel} set={set} />
    </>
  );
}

const STRIP_NAMES: Readonly<Record<TimeStrip, string>> = {
  delta: "Δ",
  "delta-percent": "Δ%",
  growth: "growth on the period before",
  "growth-on-year": "growth on the prior year",
  none: "nothing",
};

/** More than one series: further KPIs of its unit, or the members that one is split by. */
function SeveralSeries({
  panel,
  dimensions,
  set,
}: {
  panel: Panel;
  dimensions: ArrangeProps<"time-chart">["dimensions"];
  set: SetPart;
}) {
  const library = useAnswer(KPIS.kpis).data ?? [];
  const unitOf = (key: string) => library.find(({ definition }) => definition.key === key)?.definition.unit;
  const own = JSON.stringify(unitOf(panel.kpi));
  const others = panel.others ?? [];
  const isOffered = (key: string) => key !== panel.kpi && JSON.stringify(unitOf(key)) === own;
  return (
    <section aria-label="Several series" className="mt-4 grid gap-2">
      <h3 className="font-serif text-[16px]">Several series</h3>
      <LevelPick
        label="Split by"
        none="nothing"
        dimensions={dimensions}
        chosen={panel.split ?? null}
        onPick={(split) => set("split", split ?? undefined)}
      />
      {!panel.split && (
        <div>
          <p className="text-[12.5px] text-slate">More KPIs of the same unit</p>
          <ChosenList
            chosen={others}
            mayBeEmpty
            nameOf={(key) => library.find(({ definition }) => definition.key === key)?.definition.name ?? key}
            rest={
              others.length >= MOST_KPIS_OVER_TIME - 1
                ? []
                : library.flatMap(({ definition: { key }, problem }) =>
                    problem || others.includes(key) || !isOffered(key) ? [] : key,
                  )
            }
            onChange={(next) => set("others", next.length === 0 ? undefined : next)}
          />
        </div>
      )}
      {(panel.split || others.length > 0) && (
        <StackingPick
          label="Arrange columns"
          chosen={panel.stacking ?? "clustered"}
          onPick={(stacking) => set("stacking", stacking === "clustered" ? undefined : stacking)}
        />
      )}
    </section>
  );
}

/** Whether it looks ahead, and what of the history is no part of the pattern. */
function LooksAhead({ panel, set }: { panel: Panel; set: SetPart }) {
  const { ahead, grain = "month" } = panel;
  const change = (part: Partial<NonNullable<Panel["ahead"]>>) => {
    const next = Object.entries({ ...ahead, ...part }).filter(([, value]) => value !== undefined);
    set("ahead", Object.fromEntries(next));
  };
  const keysOf = (text: string) => {
    const keys = text.split(/[\s,;]+/).filter((key) => key !== "");
    return keys.length === 0 ? undefined : keys.slice(0, MOST_MARKED);
  };
  return (
    <section aria-label="Looking ahead" className="mt-4 grid gap-2">
      <h3 className="font-serif text-[16px]">Looking ahead</h3>
      <Tick
        label="Forecast open periods"
        isOn={ahead !== undefined}
        onChange={(isOn) => set("ahead", isOn ? {} : undefined)}
      />
      {ahead && (
        <>
          <Field label="How far">
            <select
              className="field"
              value={ahead.horizon ?? ""}
              onChange={(event) =>
                change({ horizon: event.target.value === "" ? undefined : Number(event.target.value) })
              }
            >
              <option value="">what is usual</option>
              {[1, 2, 3, 5, 6, 12, 18, 24, 36, 52, 92]
                .filter((count) => count <= HORIZONS[grain].most)
                .map((count) => (
                  <option key={count} value={count}>
                    {count} {grain}
                    {count === 1 ? "" : "s"}
                  </option>
                ))}
            </select>
          </Field>
          <TextField
            label="Periods to exclude from the fit, such as 2026-09"
            value={(ahead.leaveOut ?? []).join(", ")}
            onCommit={(text) => change({ leaveOut: keysOf(text) })}
          />
          <TextField
            label="Periods in which the level shifts"
            value={(ahead.steps ?? []).join(", ")}
            onCommit={(text) => change({ steps: keysOf(text) })}
          />
        </>
      )}
    </section>
  );
}

/** What runs over the actual, at the right of it, and below. */
function Overlaid({ panel, set }: { panel: Panel; set: SetPart }) {
  const library = useAnswer(KPIS.kpis).data ?? [];
  const { moving } = panel;
  return (
    <section aria-label="Also show" className="mt-4 grid gap-2">
      <h3 className="font-serif text-[16px]">Also show</h3>
      <Field label="Below">
        <select
          className="field"
          value={panel.strip ?? "delta"}
          onChange={(event) =>
            set("strip", event.target.value === "delta" ? undefined : (event.target.value as TimeStrip))
          }
        >
          {TIME_STRIPS.map((strip) => (
            <option key={strip} value={strip}>
              {STRIP_NAMES[strip]}
            </option>
          ))}
        </select>
      </Field>
      <Field label="KPI on a right-hand axis">
        <select
          className="field"
          value={panel.right ?? ""}
          onChange={(event) => set("right", event.target.value === "" ? undefined : event.target.value)}
        >
          <option value="">none</option>
          {library
            .filter(({ definition, problem }) => !problem && definition.key !== panel.kpi)
            .map(({ definition }) => (
              <option key={definition.key} value={definition.key}>
                {definition.name}
              </option>
            ))}
        </select>
      </Field>
      <Field label="Moving average">
        <select
          className="field"
          value={moving ? `${moving.periods}${moving.isCentred ? " centred" : ""}` : ""}
          onChange={(event) => {
            const [count, centred] = event.target.value.split(" ");
            const periods = MOVING_PERIODS.find((own) => String(own) === count);
            set("moving", periods && { periods, isCentred: centred !== undefined });
          }}
        >
          <option value="">none</option>
          {MOVING_PERIODS.flatMap((count) => [
            <option key={count} value={count}>
              over the last {count}
            </option>,
            <option key={`${count} centred`} value={`${count} centred`}>
              over the {count} around each
            </option>,
          ])}
        </select>
      </Field>
      <Tick
        label="Trend line through the actual"
        isOn={panel.hasTrend === true}
        onChange={(isOn) => set("hasTrend", isOn ? true : undefined)}
      />
      <Tick
        label="Expected range"
        isOn={panel.range !== undefined}
        onChange={(isOn) => set("range", isOn ? USUAL_RANGE_LEVEL : undefined)}
      />
      {panel.range !== undefined && (
        <Field label="Confidence level">
          <select className="field" value={panel.range} onChange={(event) => set("range", Number(event.target.value))}>
            {[...new Set([80, 90, 95, 99, panel.range])]
              .sort((a, b) => a - b)
              .map((level) => (
                <option key={level} value={level}>
                  {level}%
                </option>
              ))}
          </select>
        </Field>
      )}
    </section>
  );
}

/** Notes that stand at a period. */
function Pins({ panel, set }: { panel: Panel; set: SetPart }) {
  const pins = panel.pins ?? [];
  const [note, setNote] = useState({ period: "", text: "" });
  return (
    <section aria-label="Notes on periods" className="mt-4">
      <h3 className="font-serif text-[16px]">Notes on periods</h3>
      <ul>
        {pins.map(({ period, text }, i) => (
          <li key={i} className="flex items-center border-t border-thread/60">
            <span className="flex-1">
              {period}: {text}
            </span>
            <IconButton
              label={`Remove the note on ${period}`}
              onClick={() => set("pins", pins.length === 1 ? undefined : pins.toSpliced(i, 1))}
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {pins.length < MOST_PINS && (
        // Emptied when a note was added.
        <div key={pins.length} className="mt-1 grid grid-cols-[1fr_2fr_auto] items-end gap-1.5">
          <TextField
            label="Period, such as 2026-09"
            value={note.period}
            onCommit={(period) => setNote({ ...note, period })}
          />
          <TextField label="Note" value={note.text} onCommit={(text) => setNote({ ...note, text })} />
          <Button
            isDisabled={note.period === "" || note.text === ""}
            onClick={() => {
              set("pins", [...pins, note]);
              setNote({ period: "", text: "" });
            }}
          >
            Pin
          </Button>
        </div>
      )}
    </section>
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
  const [year, setYear] = useState("");
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
              label={`Remove ${referenceName(line)}`}
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
              label="Over which months"
              choices={REFERENCE_PERIODS}
              chosen={statistic.over}
              nameOf={(over) => PERIOD_NAMES[over]}
              onChoose={(over) => setStatistic({ ...statistic, over })}
            />
            <IconButton label="Add this statistic" onClick={() => add(withYear(statistic, year))}>
              <Plus size={14} />
            </IconButton>
          </div>
          {statistic.over === "chosen-year" && (
            <TextField label="Default fiscal year, such as 2026" value={year} onCommit={setYear} />
          )}
          {/* Emptied when a line was added. */}
          <div key={references.length} className="mt-1.5 grid grid-cols-[1.4fr_1fr_auto] items-end gap-1.5">
            <TextField
              label="Name of the constant"
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

/** With the year that was written for it, where it is one. */
function withYear(line: Statistic, year: string): Statistic {
  return line.over === "chosen-year" && /^\d{4}$/.test(year) ? { ...line, year: Number(year) } : line;
}

function referenceName(line: ReferenceLine): string {
  if (line.kind === "constant") return `${line.name}, ${line.value.toLocaleString("en-GB")}`;
  const statistic = line.of.charAt(0).toUpperCase() + line.of.slice(1);
  const year = line.over === "chosen-year" && line.year !== undefined ? ` (${fiscalYearName(line.year)})` : "";
  return `${statistic} ${line.side} ${PERIOD_NAMES[line.over]}${year}`;
}
