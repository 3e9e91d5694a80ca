import { HALO } from "../../chart-kit/halo.ts";
import type { ScatterLayout } from "./layout.ts";

/** Draws the points of a laid-out scatter, its line and quadrants, and where the selected part of each stands. */
export function Points({
  layout: { plot, quadrants, line, points },
  active,
  chosen,
}: {
  layout: ScatterLayout;
  active: number | null;
  chosen: readonly string[] | undefined;
}) {
  const [right, bottom] = [plot.x + plot.width, plot.y + plot.height];
  const parting = { stroke: "var(--slate)", strokeDasharray: "2 3" };
  return (
    <g>
      {quadrants.x !== null && <line x1={quadrants.x} x2={quadrants.x} y1={plot.y} y2={bottom} {...parting} />}
      {quadrants.y !== null && <line x1={plot.x} x2={right} y1={quadrants.y} y2={quadrants.y} {...parting} />}
      {line && <line {...line} stroke="var(--walnut)" strokeWidth="1.4" />}
      {points.map(({ point, cx, cy, r, part, label }, i) => (
        <g key={point.key} opacity={chosen !== undefined && !chosen.includes(point.key) ? 0.35 : 1}>
          {part && (
            <>
              <line x1={cx} y1={cy} x2={part.x} y2={part.y} stroke="var(--indigo)" strokeWidth=".8" />
              <circle cx={part.x} cy={part.y} r="3.5" fill="var(--panel)" stroke="var(--indigo)" strokeWidth="1.6" />
            </>
          )}
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
