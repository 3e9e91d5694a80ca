import type { Box } from "./geometry.ts";

/** A mark of an axis with what it says. */
export interface AxisTick {
  readonly at: number;
  readonly label: string;
}

/** Two axes of values, with hairlines and their names. */
export function PlainAxes({
  plot,
  xTicks,
  yTicks,
  xName,
  yName,
}: {
  plot: Box;
  xTicks: readonly AxisTick[];
  yTicks: readonly AxisTick[];
  xName: string;
  yName: string;
}) {
  const bottom = plot.y + plot.height;
  return (
    <g>
      {yTicks.map(({ at, label }) => (
        <g key={at}>
          <line x1={plot.x} x2={plot.x + plot.width} y1={at} y2={at} stroke="var(--thread)" strokeWidth=".6" />
          <text x={plot.x - 6} y={at + 3.5} textAnchor="end" fill="var(--slate)">
            {label}
          </text>
        </g>
      ))}
      {xTicks.map(({ at, label }) => (
        <g key={at}>
          <line x1={at} x2={at} y1={plot.y} y2={bottom} stroke="var(--thread)" strokeWidth=".6" />
          <text x={at} y={bottom + 14} textAnchor="middle" fill="var(--slate)">
            {label}
          </text>
        </g>
      ))}
      <path
        d={`M${plot.x} ${plot.y}V${bottom}H${plot.x + plot.width}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth=".9"
      />
      <text x={0} y={plot.y - 8} fill="var(--ink)" fontWeight="600">
        {yName}
      </text>
      <text x={plot.x + plot.width} y={bottom + 28} textAnchor="end" fill="var(--ink)" fontWeight="600">
        {xName}
      </text>
    </g>
  );
}
