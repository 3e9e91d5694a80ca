import { monthName, parseMonth } from "#core/calendar/month.ts";
import type { TimeChartLayout } from "./layout.ts";

/** Ticks, baseline (torn where it is shortened), months, and the bracket below the span. */
export function Axis({ layout, width, spanName }: { layout: TimeChartLayout; width: number; spanName: string }) {
  const { plot } = layout;
  return (
    <g>
      {layout.ticks.map((tick) => (
        <g key={tick.label + tick.y}>
          <line x1={plot.x} x2={width} y1={tick.y} y2={tick.y} stroke="var(--thread)" strokeWidth=".6" />
          <text x={plot.x - 6} y={tick.y + 3.5} textAnchor="end" fill="var(--slate)">
            {tick.label}
          </text>
        </g>
      ))}
      {layout.isShortened ? (
        <path d={tornEdge(plot.x, width, plot.y + plot.height + 3)} fill="none" stroke="var(--slate)">
          <title>The axis does not start at zero</title>
        </path>
      ) : (
        <line x1={plot.x} x2={width} y1={layout.baseline} y2={layout.baseline} stroke="var(--ink)" strokeWidth=".9" />
      )}
      {layout.months.map((m) => (
        <text
          key={m.point.month}
          x={m.centre}
          y={layout.monthY}
          textAnchor="middle"
          fill={m.point.inSpan ? "var(--ink)" : "var(--slate)"}
          fontWeight={m.point.inSpan ? 600 : 400}
        >
          {monthName(parseMonth(m.point.month)!).slice(0, m.band.width < 24 ? 1 : 3)}
        </text>
      ))}
      {layout.spanX && (
        <g>
          <path
            d={`M${layout.spanX[0]} ${layout.monthY + 5}v3H${layout.spanX[1]}v-3`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth=".9"
          />
          {layout.spanX[1] - layout.spanX[0] > spanName.length * 5.5 && (
            <text
              x={(layout.spanX[0] + layout.spanX[1]) / 2}
              y={layout.monthY + 18}
              textAnchor="middle"
              fill="var(--slate)"
            >
              {spanName}
            </text>
          )}
        </g>
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
