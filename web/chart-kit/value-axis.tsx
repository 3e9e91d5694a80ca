import type { Box } from "./geometry.ts";
import type { ValueScale } from "./value-scale.ts";

/** Ticks with their hairlines, and the baseline: torn where the axis does not start at zero. */
export function ValueAxis({ scale, plot, right }: { scale: ValueScale; plot: Box; right: number }) {
  return (
    <g>
      {scale.ticks.map((tick) => (
        <g key={tick.label + tick.y}>
          <line x1={plot.x} x2={right} y1={tick.y} y2={tick.y} stroke="var(--thread)" strokeWidth=".6" />
          <text x={plot.x - 6} y={tick.y + 3.5} textAnchor="end" fill="var(--slate)">
            {tick.label}
          </text>
        </g>
      ))}
      {scale.isShortened ? (
        <path d={tornEdge(plot.x, right, plot.y + plot.height + 3)} fill="none" stroke="var(--slate)">
          <title>The axis does not start at zero</title>
        </path>
      ) : (
        <line x1={plot.x} x2={right} y1={scale.baseline} y2={scale.baseline} stroke="var(--ink)" strokeWidth=".9" />
      )}
    </g>
  );
}

function tornEdge(from: number, to: number, y: number): string {
  const teeth = Array.from(
    { length: Math.ceil((to - from) / 8) },
    (_, i) => `L${Math.min(to, from + i * 8 + 4)} ${y + (i % 2 === 0 ? 3 : -3)}`,
  );
  return `M${from} ${y}${teeth.join("")}`;
}
