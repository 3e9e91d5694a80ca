import type { Box } from "./geometry.ts";
import type { NamedLine } from "./labels.ts";

/** Level lines to read a chart against, each with its name at the right. */
export function ReferenceLines({ lines, plot }: { lines: readonly NamedLine[]; plot: Box }) {
  const right = plot.x + plot.width;
  return lines.map(({ name, y, labelY, labelWidth }) => (
    <g key={name}>
      <line x1={plot.x} x2={right} y1={y} y2={y} stroke="var(--ink)" strokeWidth=".9" strokeDasharray="1 2.5" />
      <rect
        x={right - labelWidth}
        y={labelY - 9.5}
        width={labelWidth}
        height={12}
        fill="var(--panel)"
        fillOpacity=".88"
      />
      <text x={right - 2} y={labelY} textAnchor="end" fill="var(--ink)">
        {name}
      </text>
    </g>
  ));
}
