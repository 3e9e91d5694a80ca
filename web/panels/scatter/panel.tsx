import { formatScope } from "#core/dimensions/scope-text.ts";
import type { ScatterAnswer } from "#core/panels/scatter/schema.ts";
import { scatterTable } from "#core/panels/scatter/table.ts";
import { valueStyle, writeWithUnit, type MoneyUnit } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import type { KpiHead } from "#core/panels/parts/schema.ts";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { chartPanel } from "../../chart-kit/chart-panel.tsx";
import type { ChartMark } from "../../chart-kit/mark.ts";
import { MemberPath } from "../../chart-kit/member-path.tsx";
import type { Own } from "../../chart-kit/own.ts";
import { PlainAxes } from "../../chart-kit/plain-axes.tsx";
import { weighedAs, type Reading } from "../../chart-kit/reading.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { layoutScatter, type PlacedPoint, type ScatterLayout } from "./layout.ts";
import { Points } from "./points.tsx";

type OwnScatter = Own<"scatter">;

/** Two KPIs against each other. */
export default chartPanel<"scatter", ScatterLayout>({
  label: "Scatter",
  kpi: ({ y }) => y,
  caption: ({ data: { x, y }, money }) =>
    `${x.name} in ${styleOf(x, money).unitName}, ${y.name} in ${styleOf(y, money).unitName}`,
  table: scatterTable,
  around,
  layout: ({ data, part, money }, { width, height }) => {
    const [xStyle, yStyle] = [styleOf(data.x, money), styleOf(data.y, money)];
    return layoutScatter({ data, part, width, height, xStyle, yStyle });
  },
  marks: (own, { points }) => points.map((placed) => markOf(own, placed)),
  Drawing: ({ own: { data, panel, picked, money }, layout, active }) => (
    <>
      <PlainAxes
        plot={layout.plot}
        xTicks={layout.xTicks}
        yTicks={layout.yTicks}
        xName={panel.acrossTitle ?? axisName(data.x, money)}
        yName={panel.axisTitle ?? axisName(data.y, money)}
      />
      <Points layout={layout} active={active} chosen={data.dimension === null ? undefined : picked[data.dimension]} />
    </>
  ),
  keys: "Left and right walk along the points, Enter narrows or shows where a figure comes from, down opens.",
});

const LEAST_HIT = 12;

function styleOf({ unit, decimals }: KpiHead, money: MoneyUnit) {
  return valueStyle(unit, decimals, money);
}

function around({ data, actions }: OwnScatter): Around {
  const { noun, path, line, quadrants, points, x, y, frame } = data;
  return {
    drawsAxisWords: true,
    head: (
      <span className="inline-flex flex-wrap items-baseline gap-x-1 text-[12.5px] text-slate">
        <span>by {noun}</span>
        <MemberPath path={path} onOpen={(below) => actions.choose({ below })} />
      </span>
    ),
    legend: (
      <span className="text-[12.5px] text-slate">
        {line && (
          <span className="ml-3">
            line: R² {line.r2.toFixed(2)}, n {line.n}
          </span>
        )}
        {quadrants && <span className="ml-3">parted at the {quadrants.at}</span>}
      </span>
    ),
    refusal:
      points.length === 0
        ? {
            title: `No ${noun} has both`,
            detail: `${x.name} and ${y.name} have no figures by ${noun} for ${frame.words.scope}.`,
          }
        : null,
  };
}

function markOf(own: OwnScatter, placed: PlacedPoint): ChartMark {
  const { data, actions } = own;
  const { member, months } = placed.point;
  return {
    hit: { cx: placed.cx, cy: placed.cy, r: Math.max(LEAST_HIT, placed.r) },
    member:
      member && data.dimension !== null
        ? { dimension: data.dimension, member: member.key, name: member.name }
        : undefined,
    open: member?.hasBelow ? () => actions.choose({ below: member.key }) : undefined,
    source: {
      figure: formatFigureAddress(data.y.key, "actual", months ?? undefined),
      scope: member ? formatScope(member.scope) : undefined,
    },
    reading: () => readingOf(own, placed),
  };
}

function readingOf({ data, part, money }: OwnScatter, { point }: PlacedPoint): Reading {
  const { x, y, size } = data;
  const entries: [KpiHead, Figure][] = [
    [x, point.x],
    [y, point.y],
    ...(size && point.size ? [[size, point.size] as [KpiHead, Figure]] : []),
  ];
  const own = part?.points.find(({ key }) => key === point.key);
  return {
    title: point.name,
    lines: entries.map(([kpi, figure]) => ({
      name: kpi.name,
      text: "value" in figure ? writeWithUnit(figure.value, styleOf(kpi, money)) : figure.absent,
    })),
    weighed: (["x", "y"] as const).map((axis) =>
      weighedAs(
        own?.[axis],
        (value) => writeWithUnit(value, styleOf(data[axis], money)),
        `${data[axis].name} of the selected part`,
      ),
    ),
  };
}

function axisName(kpi: ScatterAnswer["x"], money: MoneyUnit): string {
  const { unitName } = styleOf(kpi, money);
  return kpi.name.toLowerCase().includes(unitName.toLowerCase()) ? kpi.name : `${kpi.name}, ${unitName}`;
}
