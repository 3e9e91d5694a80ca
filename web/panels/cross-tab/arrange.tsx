import { Plus, X } from "lucide-react";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { Field, IconButton, Tick } from "../../ui/form.tsx";
import { Moves } from "../arrange/chosen-list.tsx";
import { KpiList } from "../arrange/kpi-list.tsx";
import { moved } from "../arrange/moved.ts";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { SHADE_CHOICES } from "./shades.ts";
import {
  CROSS_GRAINS,
  CROSS_MEASURES,
  MOST_DEEP,
  type CrossAxis,
  type CrossMeasure,
  type CrossShade,
} from "#core/panels/cross-tab/schema.ts";

const MEASURES: Readonly<Record<CrossMeasure, string>> = {
  value: "The value",
  basis: "The basis",
  delta: "Δ",
  "delta-percent": "Δ%, with combs",
  "share-of-row": "Share of the row",
  "share-of-column": "Share of the column",
  "share-of-total": "Share of the total",
  rank: "Rank (1 is best)",
};

const LASTS = [1, 2, 3, 4, 5, 6, 8, 12, 24, 36] as const;

/** A cross-tab: what stands down the side and along the top, with which totals, and what is said at each place. */
export default function ArrangeCrossTab({ panel, dimensions, onChange }: ArrangeProps<"cross-tab">) {
  const hasPeriods = [...panel.rows, ...panel.columns].some(({ kind }) => kind === "period");
  return (
    <>
      <AxisList
        label="Rows"
        axes={panel.rows}
        least={1}
        dimensions={dimensions}
        onChange={(rows) => onChange({ ...panel, rows })}
      />
      <AxisList
        label="Columns"
        axes={panel.columns}
        least={0}
        dimensions={dimensions}
        onChange={(columns) => onChange({ ...panel, columns })}
      />
      <fieldset className="mt-4">
        <legend className="font-serif text-[16px]">Figures</legend>
        {CROSS_MEASURES.map((measure) => (
          <Tick
            key={measure}
            label={MEASURES[measure]}
            isOn={panel.measures.includes(measure)}
            onChange={(isOn) =>
              onChange({
                ...panel,
                measures: CROSS_MEASURES.filter((own) => (own === measure ? isOn : panel.measures.includes(own))),
              })
            }
          />
        ))}
      </fieldset>
      <div className="mt-3 grid gap-2">
        <Field label="Cells are">
          <select
            className="field"
            value={panel.shade}
            onChange={(event) => onChange({ ...panel, shade: event.target.value as CrossShade })}
          >
            {SHADE_CHOICES.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </Field>
        {hasPeriods && (
          <Field label="Periods">
            <select
              className="field"
              value={panel.last ?? ""}
              onChange={(event) => {
                const { last: _, ...rest } = panel;
                onChange(event.target.value === "" ? rest : { ...rest, last: Number(event.target.value) });
              }}
            >
              <option value="">those of the page’s time</option>
              {LASTS.map((last) => (
                <option key={last} value={last}>
                  the last {last}
                </option>
              ))}
            </select>
          </Field>
        )}
      </div>
      <KpiList
        label={[...panel.rows, ...panel.columns].some(({ kind }) => kind === "kpi") ? "KPIs" : "KPIs to choose from"}
        chosen={panel.kpis}
        onChange={(kpis) => onChange({ ...panel, kpis })}
      />
    </>
  );
}

const axisText = (axis: CrossAxis): string =>
  axis.kind === "member" ? `${axis.dimension}/${axis.level ?? ""}` : axis.kind === "period" ? axis.grain : axis.kind;

/** An axis by its text; a total that was switched stays so. */
function axisOf(text: string, before: CrossAxis | undefined): CrossAxis {
  const hasTotal = before && "hasTotal" in before ? before.hasTotal : true;
  if (text === "scenario" || text === "kpi") return { kind: text };
  const grain = CROSS_GRAINS.find((own) => own === text);
  if (grain) return { kind: "period", grain, hasTotal };
  const [dimension = "", level] = text.split("/");
  return { kind: "member", dimension, level: level ? level : null, hasTotal };
}

function AxisList({
  label,
  axes,
  least,
  dimensions,
  onChange,
}: {
  label: string;
  axes: readonly CrossAxis[];
  least: number;
  dimensions: FrameChoices["dimensions"];
  onChange: (next: readonly CrossAxis[]) => void;
}) {
  return (
    <section aria-label={label} className="mt-3">
      <h3 className="font-serif text-[16px]">{label}</h3>
      {axes.length === 0 && <p className="text-[13px] text-slate">None: one column of figures.</p>}
      <ol>
        {axes.map((axis, i) => (
          <li key={i} className="border-t border-thread/60 py-1">
            <span className="flex items-center gap-1">
              <select
                aria-label={`${label}, depth ${i + 1}`}
                className="field min-w-0 flex-1"
                value={axisText(axis)}
                onChange={(event) => onChange(axes.with(i, axisOf(event.target.value, axis)))}
              >
                <AxisOptions dimensions={dimensions} />
              </select>
              <Moves
                name={`depth ${i + 1} ${label.toLowerCase()}`}
                isFirst={i === 0}
                isLast={i === axes.length - 1}
                onMove={(by) => onChange(moved(axes, i, i + by))}
              />
              <IconButton
                label={`Leave out depth ${i + 1} ${label.toLowerCase()}`}
                isDisabled={axes.length <= least}
                onClick={() => onChange(axes.toSpliced(i, 1))}
              >
                <X size={13} />
              </IconButton>
            </span>
            {"hasTotal" in axis && (
              <Tick
                label={i === 0 ? "Show total" : "Show subtotals"}
                isOn={axis.hasTotal}
                onChange={(hasTotal) => onChange(axes.with(i, { ...axis, hasTotal }))}
              />
            )}
          </li>
        ))}
      </ol>
      {axes.length < MOST_DEEP && (
        <button
          type="button"
          className="flex min-h-[24px] items-center gap-0.5 text-[13px] text-accent hover:underline"
          onClick={() => onChange([...axes, nextAxis(axes, dimensions)])}
        >
          <Plus size={12} aria-hidden="true" /> {axes.length === 0 ? "Something" : "Add a level"}{" "}
          <span className="sr-only">{label.toLowerCase()}</span>
        </button>
      )}
    </section>
  );
}

function AxisOptions({ dimensions }: { dimensions: FrameChoices["dimensions"] }) {
  return (
    <>
      <option value="month">month</option>
      <option value="quarter">quarter</option>
      <option value="year">year</option>
      <option value="scenario">scenario</option>
      <option value="kpi">KPI</option>
      {dimensions.flatMap(({ key, levels }) =>
        levels.map((level, i) => (
          <option key={`${key}/${level}`} value={`${key}/${i === 0 ? "" : level}`}>
            {level}
          </option>
        )),
      )}
    </>
  );
}

/** What stands one depth further in until something else is chosen: the next level of the last one, or the months. */
function nextAxis(axes: readonly CrossAxis[], dimensions: FrameChoices["dimensions"]): CrossAxis {
  const last = axes.at(-1);
  if (last?.kind === "member") {
    const levels = dimensions.find(({ key }) => key === last.dimension)?.levels ?? [];
    const next = levels[(last.level === null ? 0 : levels.indexOf(last.level)) + 1];
    if (next) return { kind: "member", dimension: last.dimension, level: next, hasTotal: true };
  }
  return last?.kind === "period" ? { kind: "scenario" } : { kind: "period", grain: "month", hasTotal: true };
}
