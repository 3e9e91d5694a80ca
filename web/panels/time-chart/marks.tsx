import { line } from "d3";
import type { Place } from "../../charts/geometry.ts";
import type { TimeChartLayout } from "./layout.ts";

/** Prior year behind, actual solid, forecast woven. */
export function Columns({
  layout,
  grain,
  isWeighed,
}: {
  layout: TimeChartLayout;
  grain: string;
  /** Whether a part of each column is weighed: the whole steps back. */
  isWeighed: boolean;
}) {
  return (
    <g>
      {layout.months.map(
        (m) => m.priorYear && <rect key={m.point.period} {...m.priorYear} fill="var(--walnut)" fillOpacity=".55" />,
      )}
      {layout.months.map(
        (m) =>
          m.actual && (
            <rect key={m.point.period} {...m.actual} fill="var(--indigo)" fillOpacity={isWeighed ? 0.35 : 1} />
          ),
      )}
      {layout.months.map(
        (m) =>
          m.forecast && (
            <rect
              key={m.point.period}
              {...m.forecast}
              fill={`url(#${grain})`}
              stroke="var(--indigo)"
              strokeOpacity=".5"
              strokeWidth=".75"
            />
          ),
      )}
      {layout.months.map((m) => m.part && <rect key={m.point.period} {...m.part} fill="var(--indigo)" />)}
    </g>
  );
}

const path = line<Place | null>()
  .defined((p) => p !== null)
  .x((p) => p!.x)
  .y((p) => p!.y);

/** Prior year thin, forecast dotted, actual solid with its months marked. */
export function Lines({ layout }: { layout: TimeChartLayout }) {
  const { actual, forecast, priorYear, part } = layout.lines;
  return (
    <g fill="none">
      <path d={path(priorYear) ?? ""} stroke="var(--walnut)" strokeWidth="1.2" />
      <path
        d={path(forecast) ?? ""}
        stroke="var(--indigo)"
        strokeWidth="2.4"
        strokeDasharray="0.1 5"
        strokeLinecap="round"
      />
      <path d={path(part) ?? ""} stroke="var(--indigo)" strokeWidth="1" strokeOpacity=".7" />
      <path d={path(actual) ?? ""} stroke="var(--indigo)" strokeWidth="2" />
      {actual.map((p, i) => p && <circle key={i} cx={p.x} cy={p.y} r="2.3" fill="var(--indigo)" />)}
    </g>
  );
}

/** The budget as a stitched seam or line, the target as notches. */
export function Plans({ layout, marks }: { layout: TimeChartLayout; marks: "columns" | "lines" }) {
  const steps = layout.months.flatMap((m, i) => {
    if (!m.budget) return [];
    const next = layout.months[i + 1]?.budget;
    return [
      `M${m.budget.x1} ${m.budget.y}H${m.budget.x2}`,
      ...(marks === "lines" && next ? [`L${next.x1} ${next.y}`] : []),
    ];
  });
  return (
    <g>
      <path d={steps.join("")} fill="none" stroke="var(--weld)" strokeWidth="2.4" strokeDasharray="6 2.5" />
      {layout.months.map(
        (m) =>
          m.target && (
            <path
              key={m.point.period}
              d={`M${m.target.x1 - 1} ${m.target.y - 3.5}l6 3.5l-6 3.5zM${m.target.x2 + 1} ${m.target.y - 3.5}l-6 3.5l6 3.5z`}
              fill="var(--heather)"
              stroke="var(--panel)"
              strokeWidth=".5"
            />
          ),
      )}
    </g>
  );
}
