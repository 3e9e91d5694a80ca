import { PART_LINE } from "../../chart-kit/part-line.ts";
import { line } from "d3-shape";
import type { Place } from "../../chart-kit/geometry.ts";
import { WovenGrain } from "../../chart-kit/woven-grain.tsx";
import { partDye } from "./part-dye.ts";
import { useDyes } from "../../chart-kit/page-dyes.tsx";
import type { TimeChartLayout } from "./layout.ts";
import type { TimeMarks, ChartPart } from "#core/panels/time-chart/schema.ts";

const path = line<Place | null>()
  .defined((p) => p !== null)
  .x((p) => p!.x)
  .y((p) => p!.y);

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

const dotted = { strokeDasharray: "0.1 5", strokeLinecap: "round" } as const;

/** Several series in the colours of their members, as columns or lines; what is forecast is woven, or dotted. */
export function Series({
  layout,
  parts,
  marks,
  firstOpen,
  isFaded,
  grain,
}: {
  layout: TimeChartLayout;
  parts: readonly ChartPart[];
  marks: TimeMarks;
  /** The first period without an actual. */
  firstOpen: number;
  isFaded: (part: ChartPart) => boolean;
  /** What the patterns of what is forecast are called by. */
  grain: string;
}) {
  const colourOf = useDyes();
  return (
    <g>
      {parts.map((part, s) => {
        const colour = colourOf(partDye(part), part.at);
        const opacity = isFaded(part) ? 0.3 : 1;
        if (marks !== "lines")
          return (
            <g key={part.key} opacity={opacity}>
              <defs>
                <WovenGrain id={`${grain}-${s}`} colour={colour} />
              </defs>
              {layout.series.boxes[s]!.map(
                (box, i) =>
                  box && (
                    <rect
                      key={i}
                      {...box}
                      fill={i >= firstOpen ? `url(#${grain}-${s})` : colour}
                      stroke={i >= firstOpen ? colour : "var(--panel)"}
                      strokeWidth=".75"
                    />
                  ),
              )}
            </g>
          );
        const places = layout.series.places[s]!;
        const closed = places.map((place, i) => (i < firstOpen ? place : null));
        const open = places.map((place, i) => (i >= firstOpen - 1 ? place : null));
        return (
          <g key={part.key} fill="none" stroke={colour} opacity={opacity}>
            <path d={path(closed) ?? ""} strokeWidth="2" />
            <path d={path(open) ?? ""} strokeWidth="2.2" {...dotted} />
          </g>
        );
      })}
    </g>
  );
}

/** What runs over the actual: its moving average, the straight line through it, and a KPI on an axis of its own. */
export function Overlays({ layout }: { layout: TimeChartLayout }) {
  const { trend, lines } = layout;
  return (
    <g fill="none">
      {lines.moving.length > 0 && <path d={path(lines.moving) ?? ""} stroke={MOVING_COLOUR} strokeWidth="1.8" />}
      {trend && <line {...trend} stroke={TREND_COLOUR} strokeWidth="1.2" strokeDasharray="10 4" />}
      {layout.rightScale && (
        <>
          <path d={path(lines.right) ?? ""} stroke={RIGHT_COLOUR} strokeWidth="1.8" />
          {lines.right.map(
            (place, i) => place && <circle key={i} cx={place.x} cy={place.y} r="2" fill={RIGHT_COLOUR} />,
          )}
        </>
      )}
    </g>
  );
}

export const MOVING_COLOUR = "var(--ink)";
export const TREND_COLOUR = "var(--slate)";
/** The line on the right axis, and the axis. */
export const RIGHT_COLOUR = "var(--dye-7)";

/** Prior year thin, forecast dotted, actual solid with its months marked. */
export function Lines({ layout }: { layout: TimeChartLayout }) {
  const { actual, forecast, priorYear, part } = layout.lines;
  return (
    <g fill="none">
      <path d={path(priorYear) ?? ""} stroke="var(--walnut)" strokeWidth="1.2" />
      <path d={path(forecast) ?? ""} stroke="var(--indigo)" strokeWidth="2.4" {...dotted} />
      <path d={path(part) ?? ""} {...PART_LINE} />
      <path d={path(actual) ?? ""} stroke="var(--indigo)" strokeWidth="2" />
      {actual.map((p, i) => p && <circle key={i} cx={p.x} cy={p.y} r="2.3" fill="var(--indigo)" />)}
    </g>
  );
}

/** The budget as a stitched seam or line, the target as notches, on a line where others are lines. */
export function Plans({ layout, marks }: { layout: TimeChartLayout; marks: TimeMarks }) {
  const steps = layout.months.flatMap((m, i) => {
    if (!m.budget) return [];
    const next = layout.months[i + 1]?.budget;
    return [
      `M${m.budget.x1} ${m.budget.y}H${m.budget.x2}`,
      ...(marks !== "columns" && next ? [`L${next.x1} ${next.y}`] : []),
    ];
  });
  // Where notches would stand in each other they are a line.
  const isDense = (layout.months[0]?.band.width ?? 0) < 12;
  const targets = layout.months.map((m) => m.target && { x: m.centre, y: m.target.y });
  return (
    <g>
      <path d={steps.join("")} fill="none" stroke="var(--weld)" strokeWidth="2.4" strokeDasharray="6 2.5" />
      {(marks !== "columns" || isDense) && (
        <path d={path(targets) ?? ""} fill="none" stroke="var(--heather)" strokeWidth="1.4" />
      )}
      {layout.months.map(
        (m) =>
          m.target &&
          !isDense && (
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

/** The prior year as a line, beside columns of the actual. */
export function PriorYearLine({ layout }: { layout: TimeChartLayout }) {
  return <path d={path(layout.lines.priorYear) ?? ""} fill="none" stroke="var(--walnut)" strokeWidth="1.4" />;
}
