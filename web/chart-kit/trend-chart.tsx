import { scaleBand, scaleLinear } from "d3-scale";
import type { Figure } from "#core/figures/schema.ts";
import { writeNumber, writeWithUnit, type NumberStyle } from "#core/formats/number-words.ts";

const [HEIGHT, TOP, BOTTOM] = [170, 18, 34];

type TrendPoints = readonly { readonly name: string; readonly actual: Figure; readonly budget: Figure }[];

/** Months as columns from zero, the budget as a stitched seam across them; gaps stay gaps. */
export function TrendChart({
  points,
  style,
  width,
  label,
}: {
  points: TrendPoints;
  style: NumberStyle;
  width: number;
  label: string;
}) {
  const values = points.flatMap((p) => [p.actual, p.budget].flatMap((f) => ("value" in f ? [f.value] : [])));
  if (values.length === 0 || width === 0) return null;
  const y = scaleLinear([Math.min(0, ...values), Math.max(0, ...values)], [HEIGHT - BOTTOM, TOP]).nice(4);
  const x = scaleBand<number>(
    points.map((_, i) => i),
    [0, width],
  ).paddingInner(0.28);
  const step = x.bandwidth();
  const last = points.findLastIndex((p) => "value" in p.actual);
  const zero = y(0);
  const [low, high] = y.domain() as [number, number];
  return (
    <svg role="img" aria-label={label} width={width} height={HEIGHT} className="block">
      {[low, high].map((tick) =>
        tick === 0 ? null : (
          <g key={tick}>
            <line x1={0} x2={width} y1={y(tick)} y2={y(tick)} stroke="var(--thread)" />
            <text x={0} y={y(tick) - 3} className="fill-slate text-[10.5px]">
              {writeWithUnit(tick, style)}
            </text>
          </g>
        ),
      )}
      {points.map((point, i) => {
        const left = x(i)!;
        const [month, year] = point.name.split(" ");
        const isFirst = i === 0 || points[i - 1]!.name.split(" ")[1] !== year;
        return (
          <g key={point.name}>
            <title>
              {point.name}: {"value" in point.actual ? writeWithUnit(point.actual.value, style) : point.actual.absent}
              {"value" in point.budget ? `, Budget ${writeWithUnit(point.budget.value, style)}` : ""}
            </title>
            {"value" in point.actual && (
              <rect
                x={left}
                width={step}
                y={Math.min(zero, y(point.actual.value))}
                height={Math.max(1, Math.abs(y(point.actual.value) - zero))}
                fill="var(--indigo)"
              />
            )}
            {"value" in point.budget && (
              <line
                x1={left - 2}
                x2={left + step + 2}
                y1={y(point.budget.value)}
                y2={y(point.budget.value)}
                stroke="var(--weld)"
                strokeWidth="2"
                strokeDasharray="4 2"
              />
            )}
            {i === last && "value" in point.actual && (
              <text
                x={left + step}
                y={point.actual.value < 0 ? y(point.actual.value) + 12 : labelAbove(points.slice(i - 1, i + 1), y) - 5}
                textAnchor="end"
                className="fill-ink text-[11px] font-semibold"
              >
                {writeNumber(point.actual.value, style)}
              </text>
            )}
            <text x={left + step / 2} y={HEIGHT - 19} textAnchor="middle" className="fill-slate text-[10px]">
              {month?.[0]}
            </text>
            {isFirst && (
              <text x={left} y={HEIGHT - 5} className="fill-slate text-[10.5px] font-semibold">
                {year}
              </text>
            )}
          </g>
        );
      })}
      <line x1={0} x2={width} y1={zero} y2={zero} stroke="var(--ink)" />
    </svg>
  );
}

/** The height above which nothing is drawn in these months. */
function labelAbove(points: TrendPoints, y: (value: number) => number): number {
  return Math.min(...points.flatMap((p) => [p.actual, p.budget].flatMap((f) => ("value" in f ? [y(f.value)] : []))));
}
