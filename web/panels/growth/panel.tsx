import { formatScope } from "#core/dimensions/scope-text.ts";
import { growthTable } from "#core/panels/growth/table.ts";
import {
  deltaStyle,
  valueStyle,
  writeSigned,
  writeSignedPercent,
  writeWithUnit,
  type NumberStyle,
} from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import { CardAt } from "../../chart-kit/card-at.tsx";
import { HALO } from "../../chart-kit/halo.ts";
import { dyeOf } from "../../chart-kit/dyes.ts";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { WalkedChart } from "../../chart-kit/walked-chart.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { judgementColour, JudgementMark } from "../../figures/judgement.tsx";
import { FilledPlace } from "../../chart-kit/filled-place.tsx";
import { useSize } from "../../ui/use-size.ts";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { ChartSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { ChosenPart } from "../../chart-kit/chosen-part.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import { pickHandlers } from "../../chart-kit/pick-handlers.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { layoutGrowth, type GrowthBar, type GrowthLayout } from "./layout.ts";
import type { GrowthOn, GrowthAnswer } from "#core/panels/growth/schema.ts";

const LEAST_HEIGHT = 160;

/** A KPI's growth as bars up and down, or as a table of numbers. */
export default function GrowthPanel(view: PanelProps<"growth">) {
  return (
    <PanelSheet
      view={view}
      label="Growth"
      table={growthTable}
      skeleton={<ChartSkeleton label="Growth is being calculated" height={140} />}
    >
      {(data, part) => <Growth view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

function Growth({
  view: { panel, choice, picked, actions },
  data,
  part,
}: {
  view: PanelProps<"growth">;
  data: GrowthAnswer;
  part: GrowthAnswer | undefined;
}) {
  const partAt = ({ point }: GrowthBar) => part?.points.find(({ key }) => key === point.key)?.growth;
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const money = data.frame.unit;
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, money);
  const dStyle = deltaStyle(data.kpi.unit, data.kpi.decimals, money);
  const [{ width, height }, holder] = useSize<HTMLDivElement>();
  const drawnHeight = Math.max(LEAST_HEIGHT, height);
  const layout = layoutGrowth({
    data,
    width: Math.max(1, width),
    height: drawnHeight,
    deltaStyle: dStyle,
    hasLabels: panel.hasLabels !== false,
  });
  const memberOf = ({ point: { member } }: GrowthBar) =>
    member && data.dimension !== null
      ? { dimension: data.dimension, member: member.key, name: member.name }
      : undefined;
  const ask = ({ point }: GrowthBar) =>
    actions.ask(
      formatFigureAddress(data.kpi.key, "actual", point.months ?? undefined),
      point.member ? formatScope(point.member.scope) : undefined,
    );
  const walk = useMarkWalk(layout.bars.length, data.dimension === null ? layout.bars.length - 1 : 0, {
    onTable: toggleTable,
    onEnter: (mark, event) => {
      const bar = layout.bars[mark]!;
      const member = memberOf(bar);
      if (event.shiftKey || !member) ask(bar);
      else actions.pick?.(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
    },
  });
  const looked = walk.active === null ? undefined : layout.bars[walk.active];
  const chosen = data.dimension === null ? undefined : picked[data.dimension];
  const than = data.dimension === null ? `${data.noun} before` : "prior period";
  return (
    <ChartBody
      words={panel}
      head={
        <ChoiceWord
          label="Growth"
          words={data.on === "prior-year" ? "on the prior year" : `on the ${than}`}
          choices={[
            { key: "prior-year", name: "on the prior year" },
            { key: "prior-period", name: `on the ${than}` },
          ]}
          chosen={data.on}
          onChoose={(on) => actions.choose({ on: on as GrowthOn })}
          className="meaning-word"
        />
      }
      legend={<Legend data={data} />}
      isTable={isTable}
      onTable={toggleTable}
      table={() => growthTable(data)}
      caption={`${data.kpi.name} in ${style.unitName}`}
      style={style}
      deltaStyle={dStyle}
      money={money}
      refusal={
        data.points.some(({ growth }) => "value" in growth)
          ? null
          : {
              title: "No growth to show",
              detail: firstReason(data) ?? `${data.kpi.name} has no figures for ${data.frame.words.scope}.`,
            }
      }
      notes={data.notes}
    >
      <FilledPlace holder={holder} least={LEAST_HEIGHT}>
        <WalkedChart
          width={width}
          height={drawnHeight}
          label={`${data.headline} ${data.descriptor}. Left and right walk along, Enter narrows or shows where a figure comes from.`}
          walk={walk}
          words={looked ? wordsOf(data, looked, style, dStyle) : ""}
          card={
            looked && (
              <CardAt x={looked.band.x + looked.band.width / 2} width={width} title={looked.point.name}>
                <BarFigures data={data} bar={looked} style={style} deltaStyle={dStyle} />
                <ChosenPart figure={partAt(looked)} write={(value) => growthText(data, { value }, dStyle)} />
              </CardAt>
            )
          }
        >
          <Bars data={data} layout={layout} active={walk.active} chosen={chosen} />
          {layout.bars.map((bar, i) => {
            const member = memberOf(bar);
            const handlers = member ? pickHandlers(actions.pick, member) : { onClick: () => ask(bar) };
            return (
              <rect
                key={bar.point.key}
                {...bar.band}
                fill="transparent"
                className="cursor-pointer"
                onMouseEnter={() => walk.look(i)}
                {...handlers}
              />
            );
          })}
        </WalkedChart>
      </FilledPlace>
    </ChartBody>
  );
}

function Bars({
  data,
  layout: { bars, plot, zero, ticks, names },
  active,
  chosen,
}: {
  data: GrowthAnswer;
  layout: GrowthLayout;
  active: number | null;
  chosen: readonly string[] | undefined;
}) {
  return (
    <g>
      {active !== null && bars[active] && (
        <rect
          x={bars[active].band.x}
          width={bars[active].band.width}
          y={plot.y}
          height={plot.height}
          fill="var(--chosen)"
        />
      )}
      {ticks.map(({ at, label }) => (
        <g key={at}>
          <line x1={plot.x} x2={plot.x + plot.width} y1={at} y2={at} stroke="var(--thread)" strokeWidth=".6" />
          <text x={plot.x - 6} y={at + 3.5} textAnchor="end" fill="var(--slate)">
            {label}
          </text>
        </g>
      ))}
      {bars.map(({ point, bar, label }) => {
        const colour = colourOf(data, point);
        return (
          <g key={point.key} opacity={chosen !== undefined && !chosen.includes(point.key) ? 0.4 : 1}>
            {bar && <rect {...bar} fill={colour} />}
            {label && (
              <text x={label.x} y={label.y} textAnchor="middle" fill={data.ranges ? "var(--ink)" : colour} {...HALO}>
                {label.text}
              </text>
            )}
          </g>
        );
      })}
      <line x1={plot.x} x2={plot.x + plot.width} y1={zero} y2={zero} stroke="var(--ink)" strokeWidth=".9" />
      {names.map(({ at, label }) => (
        <text key={at} x={at} y={plot.y + plot.height + 16} textAnchor="middle" fill="var(--slate)">
          {label}
        </text>
      ))}
    </g>
  );
}

function colourOf({ ranges }: GrowthAnswer, { range, judgement }: GrowthAnswer["points"][number]): string {
  return ranges && range !== null ? dyeOf(ranges[range]!.dye) : judgementColour(judgement);
}

function Legend({ data: { ranges } }: { data: GrowthAnswer }) {
  if (!ranges) return null;
  return (
    <ul className="flex flex-wrap gap-x-3.5 gap-y-1 text-[12.5px]">
      {ranges.map(({ name, dye }) => (
        <li key={name} className="flex items-center gap-1.5">
          <svg aria-hidden="true" width="11" height="11">
            <rect width="11" height="11" fill={dyeOf(dye)} />
          </svg>
          {name}
        </li>
      ))}
    </ul>
  );
}

function BarFigures({
  data,
  bar: { point },
  style,
  deltaStyle: dStyle,
}: {
  data: GrowthAnswer;
  bar: GrowthBar;
  style: NumberStyle;
  deltaStyle: NumberStyle;
}) {
  return (
    <>
      <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-3">
        <dt>{data.frame.words.shown}</dt>
        <dd className="text-right font-semibold">{written(point.now, style)}</dd>
        <dt>{data.on === "prior-year" ? "Prior year" : "Before"}</dt>
        <dd className="text-right">{written(point.before, style)}</dd>
      </dl>
      <p className="mt-1 flex justify-between gap-2 border-t border-thread pt-1">
        {data.ranges && point.range !== null ? (
          <span>{data.ranges[point.range]!.name}</span>
        ) : (
          <JudgementMark judgement={point.judgement} />
        )}
        <span className="font-semibold">{growthText(data, point.growth, dStyle)}</span>
      </p>
    </>
  );
}

function written(figure: Figure, style: NumberStyle): string {
  return "value" in figure ? writeWithUnit(figure.value, style) : figure.absent;
}

function growthText({ kpi }: GrowthAnswer, growth: Figure, dStyle: NumberStyle): string {
  if (!("value" in growth)) return growth.detail;
  return kpi.unit.kind === "percent" ? writeSigned(growth.value, dStyle) : writeSignedPercent(growth.value);
}

function wordsOf(data: GrowthAnswer, { point }: GrowthBar, style: NumberStyle, dStyle: NumberStyle): string {
  return `${point.name}: ${growthText(data, point.growth, dStyle)}, from ${written(point.before, style)} to ${written(point.now, style)}`;
}

function firstReason({ points }: GrowthAnswer): string | undefined {
  return points.flatMap(({ growth }) => ("absent" in growth ? [growth.detail] : []))[0];
}
