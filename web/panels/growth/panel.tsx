import { formatScope } from "#core/dimensions/scope-text.ts";
import type { GrowthAnswer, GrowthOn } from "#core/panels/growth/schema.ts";
import { growthTable } from "#core/panels/growth/table.ts";
import { writeSigned, writeSignedPercent, writeWithUnit, type NumberStyle } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { chartPanel } from "../../chart-kit/chart-panel.tsx";
import { dyeOf } from "../../chart-kit/dyes.ts";
import { Legend } from "../../chart-kit/legend.tsx";
import type { ChartMark } from "../../chart-kit/mark.ts";
import type { Own } from "../../chart-kit/own.ts";
import { weighedAs, type Reading } from "../../chart-kit/reading.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { GrowthBars } from "./bars.tsx";
import { layoutGrowth, type GrowthBar, type GrowthLayout } from "./layout.ts";

type OwnGrowth = Own<"growth">;

/** A KPI's growth as bars up and down. */
export default chartPanel<"growth", GrowthLayout>({
  label: "Growth",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}`,
  table: growthTable,
  around,
  layout: ({ data, part, panel, deltaStyle }, { width, height }) =>
    layoutGrowth({ data, part, width, height, deltaStyle, hasLabels: panel.hasLabels !== false }),
  marks: (own, { bars }) => bars.map((bar) => markOf(own, bar)),
  Drawing: ({ own: { data, picked }, layout, active }) => (
    <GrowthBars {...{ data, layout, active }} chosen={data.dimension === null ? undefined : picked[data.dimension]} />
  ),
  keys: "Left and right walk along, Enter narrows or shows where a figure comes from.",
  // The last period is what is asked of first.
  start: ({ data }, { bars }) => (data.dimension === null ? bars.length - 1 : 0),
});

function around({ data, actions }: OwnGrowth): Around {
  const than = data.dimension === null ? `${data.noun} before` : "prior period";
  const words = { "prior-year": "on the prior year", "prior-period": `on the ${than}` };
  return {
    head: (
      <ChoiceWord
        label="Growth"
        words={words[data.on]}
        choices={(["prior-year", "prior-period"] as const).map((key) => ({ key, name: words[key] }))}
        chosen={data.on}
        onChoose={(on) => actions.choose({ on: on as GrowthOn })}
        className="meaning-word"
      />
    ),
    legend: data.ranges && (
      <Legend entries={data.ranges.map(({ name, dye }) => ({ key: name, name, sign: <RangeSwatch dye={dye} /> }))} />
    ),
    refusal: data.points.some(({ growth }) => "value" in growth)
      ? null
      : {
          title: "No growth to show",
          detail: firstReason(data) ?? `${data.kpi.name} has no figures for ${data.frame.words.scope}.`,
        },
  };
}

function RangeSwatch({ dye }: { dye: Parameters<typeof dyeOf>[0] }) {
  return (
    <svg aria-hidden="true" width="11" height="11">
      <rect width="11" height="11" fill={dyeOf(dye)} />
    </svg>
  );
}

function markOf(own: OwnGrowth, bar: GrowthBar): ChartMark {
  const { data } = own;
  const { member, months } = bar.point;
  return {
    hit: bar.band,
    member:
      member && data.dimension !== null
        ? { dimension: data.dimension, member: member.key, name: member.name }
        : undefined,
    source: {
      figure: formatFigureAddress(data.kpi.key, "actual", months ?? undefined),
      scope: member ? formatScope(member.scope) : undefined,
    },
    reading: () => readingOf(own, bar),
  };
}

function readingOf({ data, part, style, deltaStyle }: OwnGrowth, { point }: GrowthBar): Reading {
  const grown = growthText(data, point.growth, deltaStyle);
  const weighed = part?.points.find(({ key }) => key === point.key)?.growth;
  const range = data.ranges && point.range !== null ? data.ranges[point.range]! : null;
  return {
    title: point.name,
    lines: [
      { name: data.frame.words.shown, text: written(point.now, style), isStrong: true },
      { name: data.on === "prior-year" ? "Prior year" : "Before", text: written(point.before, style) },
      ...(range ? [{ name: range.name, text: grown }] : []),
    ],
    judged: range ? null : { judgement: point.judgement, text: grown },
    weighed: [weighedAs(weighed, (value) => growthText(data, { value }, deltaStyle))],
  };
}

function written(figure: Figure, style: NumberStyle): string {
  return "value" in figure ? writeWithUnit(figure.value, style) : figure.absent;
}

function growthText({ kpi }: GrowthAnswer, growth: Figure, deltaStyle: NumberStyle): string {
  if (!("value" in growth)) return growth.detail;
  return kpi.unit.kind === "percent" ? writeSigned(growth.value, deltaStyle) : writeSignedPercent(growth.value);
}

function firstReason({ points }: GrowthAnswer): string | undefined {
  return points.flatMap(({ growth }) => ("absent" in growth ? [growth.detail] : []))[0];
}
