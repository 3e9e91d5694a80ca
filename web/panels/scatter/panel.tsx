import type { MouseEvent } from "react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { scatterTable } from "#core/panels/scatter/table.ts";
import { deltaStyle, valueStyle, writeWithUnit } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import { CardAt } from "../../chart-kit/card-at.tsx";
import { HALO } from "../../chart-kit/halo.ts";
import { PlainAxes } from "../../chart-kit/plain-axes.tsx";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { WalkedChart } from "../../chart-kit/walked-chart.tsx";
import { FilledPlace } from "../../chart-kit/filled-place.tsx";
import { useSize } from "../../ui/use-size.ts";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { MemberPath } from "../../chart-kit/member-path.tsx";
import { ChartSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { ChosenPart } from "../../chart-kit/chosen-part.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import { pickHandlers } from "../../chart-kit/pick-handlers.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { layoutScatter, type PlacedPoint } from "./layout.ts";
import type { ScatterAnswer } from "#core/panels/scatter/schema.ts";
import type { KpiHead } from "#core/panels/parts/schema.ts";

const LEAST_HEIGHT = 220;

/** Two KPIs against each other, as points or as a table of numbers. */
export default function ScatterPanel(view: PanelProps<"scatter">) {
  return (
    <PanelSheet
      view={view}
      label="Scatter"
      table={scatterTable}
      skeleton={<ChartSkeleton label="The scatter is being calculated" height={180} />}
    >
      {(data, part) => <Scatter view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

function Scatter({
  view: { panel, choice, picked, actions },
  data,
  part,
}: {
  view: PanelProps<"scatter">;
  data: ScatterAnswer;
  part: ScatterAnswer | undefined;
}) {
  const partAt = ({ point }: PlacedPoint) => part?.points.find(({ key }) => key === point.key);
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const money = data.frame.unit;
  const styleOf = (kpi: KpiHead) => valueStyle(kpi.unit, kpi.decimals, money);
  const [{ width, height }, holder] = useSize<HTMLDivElement>();
  const [xStyle, yStyle] = [styleOf(data.x), styleOf(data.y)];
  const drawnHeight = Math.max(LEAST_HEIGHT, height);
  const layout = layoutScatter({ data, width: Math.max(1, width), height: drawnHeight, xStyle, yStyle });
  const memberOf = ({ point: { member } }: PlacedPoint) =>
    member && data.dimension !== null
      ? { dimension: data.dimension, member: member.key, name: member.name }
      : undefined;
  const openOf = ({ point: { member } }: PlacedPoint) =>
    member?.hasBelow ? () => actions.choose({ below: member.key }) : undefined;
  const ask = ({ point }: PlacedPoint) =>
    actions.ask(
      formatFigureAddress(data.y.key, "actual", point.months ?? undefined),
      point.member ? formatScope(point.member.scope) : undefined,
    );
  const walk = useMarkWalk(layout.points.length, 0, {
    onTable: toggleTable,
    onEnter: (mark, event) => {
      const placed = layout.points[mark]!;
      const member = memberOf(placed);
      if (event.shiftKey || !member) ask(placed);
      else actions.pick?.(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
    },
    onDown: (mark) => openOf(layout.points[mark]!)?.(),
  });
  const looked = walk.active === null ? undefined : layout.points[walk.active];
  const chosen = data.dimension === null ? undefined : picked[data.dimension];
  const lines = (placed: PlacedPoint) => linesOf(data, placed, styleOf);
  return (
    <ChartBody
      words={{ hidesLegend: panel.hidesLegend }}
      head={
        <span className="inline-flex flex-wrap items-baseline gap-x-1 text-[12.5px] text-slate">
          <span>by {data.noun}</span>
          <MemberPath path={data.path} onOpen={(below) => actions.choose({ below })} />
        </span>
      }
      legend={
        <span className="text-[12.5px] text-slate">
          {data.line && (
            <span className="ml-3">
              line: R² {data.line.r2.toFixed(2)}, n {data.line.n}
            </span>
          )}
          {data.quadrants && <span className="ml-3">parted at the {data.quadrants.at}</span>}
        </span>
      }
      isTable={isTable}
      onTable={toggleTable}
      table={() => scatterTable(data)}
      caption={`${data.x.name} in ${xStyle.unitName}, ${data.y.name} in ${yStyle.unitName}`}
      style={yStyle}
      deltaStyle={deltaStyle(data.y.unit, data.y.decimals, money)}
      money={money}
      refusal={
        data.points.length === 0
          ? {
              title: `No ${data.noun} has both`,
              detail: `${data.x.name} and ${data.y.name} have no figures by ${data.noun} for ${data.frame.words.scope}.`,
            }
          : null
      }
      absent={data.absent}
      notes={data.notes}
    >
      <FilledPlace holder={holder} least={LEAST_HEIGHT}>
        <WalkedChart
          width={width}
          height={drawnHeight}
          label={`${data.headline} ${data.descriptor}. Left and right walk along the points, Enter narrows or shows where a figure comes from, down opens.`}
          walk={walk}
          words={
            looked
              ? `${looked.point.name}: ${lines(looked)
                  .map(({ name, text }) => `${name} ${text}`)
                  .join(", ")}`
              : ""
          }
          card={
            looked && (
              <CardAt x={looked.cx} width={width} title={looked.point.name}>
                <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-3">
                  {lines(looked).map(({ name, text }) => (
                    <div key={name} className="contents">
                      <dt>{name}</dt>
                      <dd className="text-right">{text}</dd>
                    </div>
                  ))}
                </dl>
                {(["x", "y"] as const).map((axis) => (
                  <ChosenPart
                    key={axis}
                    name={`${data[axis].name} of the selected part`}
                    figure={partAt(looked)?.[axis]}
                    write={(value) => writeWithUnit(value, axis === "x" ? xStyle : yStyle)}
                  />
                ))}
              </CardAt>
            )
          }
        >
          <PlainAxes
            plot={layout.plot}
            xTicks={layout.xTicks}
            yTicks={layout.yTicks}
            xName={panel.acrossTitle ?? axisName(data.x, xStyle.unitName)}
            yName={panel.axisTitle ?? axisName(data.y, yStyle.unitName)}
          />
          <Marks layout={layout} active={walk.active} chosen={chosen} />
          {layout.points.map((placed, i) => {
            const member = memberOf(placed);
            const handlers: { onClick?: (event: MouseEvent) => void } = member
              ? pickHandlers(actions.pick, member, openOf(placed))
              : { onClick: () => ask(placed) };
            return (
              <circle
                key={placed.point.key}
                cx={placed.cx}
                cy={placed.cy}
                r={Math.max(12, placed.r)}
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

function Marks({
  layout,
  active,
  chosen,
}: {
  layout: ReturnType<typeof layoutScatter>;
  active: number | null;
  chosen: readonly string[] | undefined;
}) {
  const { plot, quadrants, line } = layout;
  return (
    <g>
      {quadrants.x !== null && (
        <line
          x1={quadrants.x}
          x2={quadrants.x}
          y1={plot.y}
          y2={plot.y + plot.height}
          stroke="var(--slate)"
          strokeDasharray="2 3"
        />
      )}
      {quadrants.y !== null && (
        <line
          x1={plot.x}
          x2={plot.x + plot.width}
          y1={quadrants.y}
          y2={quadrants.y}
          stroke="var(--slate)"
          strokeDasharray="2 3"
        />
      )}
      {line && <line {...line} stroke="var(--walnut)" strokeWidth="1.4" />}
      {layout.points.map(({ point, cx, cy, r, label }, i) => (
        <g key={point.key} opacity={chosen !== undefined && !chosen.includes(point.key) ? 0.35 : 1}>
          <circle
            cx={cx}
            cy={cy}
            r={r}
            fill="var(--indigo)"
            fillOpacity={r > 6 ? 0.35 : 0.85}
            stroke={i === active ? "var(--ink)" : "var(--indigo)"}
            strokeWidth={i === active ? 2 : 1}
          />
          {label && (
            <text x={label.x} y={label.y} textAnchor={label.anchor} fill="var(--ink)" {...HALO}>
              {label.text}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

function axisName({ name }: KpiHead, unit: string): string {
  return name.toLowerCase().includes(unit.toLowerCase()) ? name : `${name}, ${unit}`;
}

function linesOf(
  { x, y, size }: ScatterAnswer,
  { point }: PlacedPoint,
  styleOf: (kpi: KpiHead) => ReturnType<typeof valueStyle>,
): { name: string; text: string }[] {
  const entries: [KpiHead, Figure][] = [
    [x, point.x],
    [y, point.y],
    ...(size && point.size ? [[size, point.size] as [KpiHead, Figure]] : []),
  ];
  return entries.map(([kpi, figure]) => ({
    name: kpi.name,
    text: "value" in figure ? writeWithUnit(figure.value, styleOf(kpi)) : figure.absent,
  }));
}
