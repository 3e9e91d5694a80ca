import { formatScope } from "#core/dimensions/scope-text.ts";
import type { BreakdownAnswer } from "#core/panels/breakdown/schema.ts";
import { breakdownTable } from "#core/panels/breakdown/table.ts";
import { writeSigned, writeSignedPercent, writeWithUnit, type NumberStyle } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { chartPanel } from "../../chart-kit/chart-panel.tsx";
import { LineSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { Legend } from "../../chart-kit/legend.tsx";
import type { ChartMark } from "../../chart-kit/mark.ts";
import { MemberHead, MemberOrder } from "../../chart-kit/member-head.tsx";
import type { Own } from "../../chart-kit/own.ts";
import { DyeMark } from "../../chart-kit/page-dyes.tsx";
import { weighedIn, type Reading } from "../../chart-kit/reading.tsx";
import { LegendMark } from "../../figures/scenario-mark.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { Bars } from "./bars.tsx";
import { barValues, layoutBreakdown, type BarLine, type BreakdownLayout } from "./layout.ts";
import { seriesDye } from "./series-dye.ts";

type OwnBreakdown = Own<"breakdown">;

/** A KPI by the members of a level, as bars. */
export default chartPanel<"breakdown", BreakdownLayout>({
  label: "Breakdown",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style, deltaStyle }) =>
    `${data.kpi.name} in ${style.unitName}; Δ ${data.total.row.basisName} in ${deltaStyle.unitName}`,
  table: breakdownTable,
  skeleton: <LineSkeleton label="Breakdown: being calculated" widths={[90, 76, 62, 48, 34]} />,
  around,
  extent: ({ data, style }) => ({ unit: axisUnit(data, style), values: barValues(data) }),
  layout: (own, { width, height, extent }) => {
    const { data, part, style, deltaStyle } = own;
    return layoutBreakdown({
      data,
      width,
      room: height,
      style,
      deltaStyle,
      extent,
      ...(part ? { parts: partsOf(part) } : {}),
    });
  },
  marks: (own, { lines }) => lines.map((line) => markOf(own, line)),
  Drawing: ({ own: { data, picked }, layout, active }) => (
    <Bars {...{ data, layout, active }} picked={picked[data.by.dimension]} />
  ),
  keys: "Left and right walk along the members, Enter narrows the page, down opens, Shift and Enter shows where a figure comes from.",
  liesInLines: true,
});

/** What the axis of the bars measures: charts that measure the same can share a scale. */
function axisUnit({ stacking, series, kpi }: BreakdownAnswer, style: NumberStyle): string {
  return stacking === "share" && series.length > 0
    ? "bars, shares"
    : `bars, ${JSON.stringify({ ...kpi.unit, decimals: undefined })} in ${style.unitName}`;
}

function partsOf(part: BreakdownAnswer): Map<string, Figure> {
  return new Map(part.rows.flatMap(({ member, row }) => (member ? [[member.key, row.actual] as const] : [])));
}

function around({ data, actions }: OwnBreakdown): Around {
  const { layers, kpi, by, order, isReversed, top } = data;
  return {
    head: <MemberHead layers={layers} shown={kpi.key} level={by.level} path={by.path} onChoose={actions.choose} />,
    legend: <Legend entries={legendOf(data)} />,
    aside: <MemberOrder order={order} isReversed={isReversed} top={top} onChoose={actions.choose} />,
    refusal:
      data.rows.length > 0
        ? null
        : {
            title: `No ${by.level} has a figure here`,
            detail: `${kpi.name} has no figures by ${by.level} for ${data.frame.words.scope}. Choose another scope or breakdown.`,
          },
  };
}

function legendOf({ series, total, shows, frame }: BreakdownAnswer): Parameters<typeof Legend>[0]["entries"] {
  if (series.length > 0)
    return series.map((one) => ({
      key: one.key,
      name: one.name,
      sign:
        one.scenario === undefined ? (
          <DyeMark of={seriesDye(one)} at={one.at} name={one.name} />
        ) : (
          <LegendMark code={one.scenario} asLine={false} />
        ),
    }));
  const { basisCode, basisName } = total.row;
  return [
    { key: "actual", sign: <LegendMark code="actual" asLine={false} />, name: frame.words.shown },
    ...(shows.includes("basis")
      ? [{ key: "basis", sign: <LegendMark code={basisCode} asLine={false} />, name: basisName }]
      : []),
  ];
}

function markOf(own: OwnBreakdown, line: BarLine): ChartMark {
  const { data, actions } = own;
  const { member } = line.row;
  return {
    hit: line.band,
    member: member ? { dimension: data.by.dimension, member: member.key, name: member.name } : undefined,
    open: member?.hasBelow ? () => actions.choose({ below: member.key }) : undefined,
    source: {
      figure: formatFigureAddress(data.kpi.key, "actual"),
      scope: member ? formatScope(member.scope) : undefined,
    },
    reading: () => readingOf(own, line),
  };
}

function readingOf({ data, part, style, deltaStyle, money }: OwnBreakdown, line: BarLine): Reading {
  const { row, member, name, parts } = line.row;
  const { delta, deltaPercent, judgement } = row.variance;
  const written = (figure: Figure) => ("value" in figure ? writeWithUnit(figure.value, style) : figure.absent);
  const percent =
    "value" in deltaPercent && row.kpi.unit.kind !== "percent" ? ` (${writeSignedPercent(deltaPercent.value)})` : "";
  return {
    title: name,
    lines: [
      { name: data.frame.words.shown, text: written(row.actual), isStrong: true },
      { name: row.basisName, text: written(row.basis) },
      ...data.series.flatMap((series, i) => {
        const figure = parts[i];
        return figure && "value" in figure ? [{ name: series.name, text: written(figure) }] : [];
      }),
    ],
    judged: {
      judgement,
      text: "value" in delta ? `${writeSigned(delta.value, deltaStyle)}${percent}` : delta.detail,
    },
    weighed: [weighedIn(row.kpi, row.actual, member && part ? partsOf(part).get(member.key) : undefined, money)],
    notes: row.notes.join(" "),
    hint: line.kind === "member" ? `Click narrows, Ctrl adds${member?.hasBelow ? ", double click opens" : ""}` : null,
  };
}
