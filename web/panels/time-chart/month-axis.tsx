import { monthName, parseMonth } from "#core/calendar/month.ts";
import type { TimeChartLayout } from "./layout.ts";

/** The months below a chart, and the bracket below those of the span. */
export function MonthAxis({ layout, spanName }: { layout: TimeChartLayout; spanName: string }) {
  return (
    <g>
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
