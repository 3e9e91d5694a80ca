import { formatScope } from "#core/dimensions/scope-text.ts";
import type { HeatShade } from "#core/panels/heat/schema.ts";
import { heatTable } from "#core/panels/heat/table.ts";
import { writeSigned, writeSignedPercent, writeWithUnit } from "#core/formats/number-words.ts";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { chartPanel } from "../../chart-kit/chart-panel.tsx";
import type { ChartMark } from "../../chart-kit/mark.ts";
import type { Own } from "../../chart-kit/own.ts";
import { weighedIn, type Reading } from "../../chart-kit/reading.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { Cells, ShadeScale } from "./cells.tsx";
import { layoutHeat, partAt, type HeatLayout, type PlacedCell } from "./layout.ts";
import { SHADE_CHOICES } from "./shades.ts";

type OwnHeat = Own<"heat">;

/** A KPI as shaded cells. */
export default chartPanel<"heat", HeatLayout>({
  label: "Heat grid",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}`,
  table: heatTable,
  around,
  layout: ({ data, part, panel, style, deltaStyle }, { width, height }) =>
    layoutHeat({ data, part, width, room: height, style, deltaStyle, hasLabels: panel.hasLabels !== false }),
  marks: (own, { cells }) => cells.map((cell) => markOf(own, cell)),
  Drawing: ({ own, layout, active }) => (
    <Cells layout={layout} active={active} isFaded={(cell) => isCellFaded(own, cell)} />
  ),
  keys: "Arrows walk from cell to cell, Enter narrows the page, Shift and Enter shows where a figure comes from.",
  perRow: ({ data }) => data.columns.entries.length,
});

function around({ data, actions }: OwnHeat, layout: HeatLayout): Around {
  const isEmpty = data.rows.entries.length === 0 || data.columns.entries.length === 0;
  return {
    head: (
      <ChoiceWord
        label="Shaded by"
        words={SHADE_CHOICES.find(({ key }) => key === data.shade)!.name}
        choices={SHADE_CHOICES}
        chosen={data.shade}
        onChoose={(shade) => actions.choose({ shade: shade as HeatShade })}
        className="meaning-word"
      />
    ),
    legend: <ShadeScale layout={layout} shade={data.shade} />,
    refusal:
      data.refusal !== null || isEmpty
        ? {
            title: "Nothing to show here",
            detail: data.refusal ?? `${data.kpi.name} has no figures for ${data.frame.words.scope}.`,
          }
        : null,
  };
}

/** A cell is of what the page is narrowed to where both its row and its column are. */
function isCellFaded({ data, picked }: OwnHeat, { row, column }: PlacedCell): boolean {
  return [[data.rows, row] as const, [data.columns, column] as const].some(([side, at]) => {
    const chosen = side.dimension === null ? undefined : picked[side.dimension];
    return chosen !== undefined && !chosen.includes(side.entries[at]!.key);
  });
}

function markOf(own: OwnHeat, placed: PlacedCell): ChartMark {
  const { data } = own;
  const { row, column, cell } = placed;
  const [side, at] = data.rows.dimension === null ? [data.columns, column] : [data.rows, row];
  const member = side.entries[at]?.member;
  const [a, b] = [data.rows.entries[row]!.member, data.columns.entries[column]!.member];
  const scope =
    a && b && data.columns.dimension !== null
      ? { ...a.scope, [data.columns.dimension]: b.scope[data.columns.dimension]! }
      : (a ?? b)?.scope;
  return {
    hit: placed.box,
    member:
      member && side.dimension !== null
        ? { dimension: side.dimension, member: member.key, name: member.name }
        : undefined,
    source:
      cell.months === null
        ? undefined
        : { figure: formatFigureAddress(data.kpi.key, "actual", cell.months), scope: scope && formatScope(scope) },
    reading: () => readingOf(own, placed),
  };
}

function readingOf({ data, part, style, deltaStyle, money }: OwnHeat, placed: PlacedCell): Reading {
  const { actual, variance } = placed.cell;
  const { delta, deltaPercent, judgement } = variance;
  const percent =
    "value" in deltaPercent && data.kpi.unit.kind !== "percent" ? ` (${writeSignedPercent(deltaPercent.value)})` : "";
  return {
    title: `${data.rows.entries[placed.row]!.name}, ${data.columns.entries[placed.column]!.name}`,
    lines: [{ name: "", text: "value" in actual ? writeWithUnit(actual.value, style) : actual.detail, isStrong: true }],
    judged:
      "value" in delta
        ? { judgement, text: `${writeSigned(delta.value, deltaStyle)}${percent} against ${data.basisName}` }
        : null,
    weighed: [weighedIn(data.kpi, actual, part && partAt(part, data, placed), money)],
  };
}
