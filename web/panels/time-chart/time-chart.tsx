import { useId, useState, type KeyboardEvent } from "react";
import type { NumberStyle } from "#core/words/number-words.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/compute.ts";
import { Axis } from "./axis.tsx";
import { layoutTimeChart } from "./layout.ts";
import { Columns, Lines, Plans } from "./marks.tsx";
import { ReadingCard, readingWords } from "./reading-card.tsx";
import { VarianceStrip } from "./variance-strip.tsx";

/** Draws a laid-out time chart; hover or arrow keys open the reading card. */
export function TimeChart({
  data,
  width,
  height,
  marks,
  style,
  deltaStyle,
  hasLabels,
  onTable,
}: {
  data: TimeChartAnswer;
  width: number;
  height: number;
  marks: "columns" | "lines";
  style: NumberStyle;
  deltaStyle: NumberStyle;
  hasLabels: boolean;
  onTable: () => void;
}) {
  const layout = layoutTimeChart({
    points: data.points,
    width,
    height,
    marks,
    style,
    deltaStyle,
    closedTo: data.closedTo,
    references: data.references,
    hasLabels,
  });
  const [active, setActive] = useState<number | null>(null);
  const grain = useId();
  const start = Math.max(
    0,
    data.points.findIndex((p) => p.month === data.frame.asOf),
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const last = data.points.length - 1;
    const moves: Record<string, number | null> = {
      ArrowRight: Math.min(last, (active ?? start) + 1),
      ArrowLeft: Math.max(0, (active ?? start) - 1),
      Home: 0,
      End: last,
      Escape: null,
    };
    if (event.key === "t") onTable();
    else if (event.key in moves) setActive(moves[event.key]!);
    else return;
    event.preventDefault();
  };
  const month = active === null ? undefined : layout.months[active];
  return (
    <div className="relative" onMouseLeave={() => setActive(null)}>
      <svg
        width={width}
        height={height}
        role="img"
        tabIndex={0}
        aria-roledescription="chart"
        aria-label={`${data.headline} ${data.descriptor}. Arrow keys move along the months.`}
        onKeyDown={onKeyDown}
        onFocus={() => setActive((a) => a ?? start)}
        onBlur={() => setActive(null)}
        className="block overflow-visible text-[11px]"
      >
        <defs>
          <pattern id={grain} width="5" height="5" patternUnits="userSpaceOnUse">
            <rect width="5" height="5" fill="var(--indigo)" fillOpacity=".17" />
            <circle cx="1.2" cy="1.2" r=".8" fill="var(--indigo)" fillOpacity=".75" />
            <circle cx="3.7" cy="3.7" r=".8" fill="var(--indigo)" fillOpacity=".75" />
          </pattern>
        </defs>
        {month && <rect x={month.band.x} y={0} width={month.band.width} height={height} fill="var(--chosen)" />}
        <Axis layout={layout} width={width} spanName={data.frame.words.span} />
        {marks === "columns" ? <Columns layout={layout} grain={grain} /> : <Lines layout={layout} />}
        <Plans layout={layout} marks={marks} />
        {layout.closedX !== null && (
          <g>
            <line x1={layout.closedX} x2={layout.closedX} y1={4} y2={height} stroke="var(--slate)" strokeWidth=".75" />
            <text x={layout.closedX - 4} y={10} textAnchor="end" fill="var(--slate)">
              closed to here
            </text>
          </g>
        )}
        {layout.references.map(({ name, y, labelY, labelWidth }) => (
          <g key={name}>
            <line
              x1={layout.plot.x}
              x2={layout.plot.x + layout.plot.width}
              y1={y}
              y2={y}
              stroke="var(--ink)"
              strokeWidth=".9"
              strokeDasharray="1 2.5"
            />
            <rect
              x={layout.plot.x + layout.plot.width - labelWidth}
              y={labelY - 9.5}
              width={labelWidth}
              height={12}
              fill="var(--panel)"
              fillOpacity=".88"
            />
            <text x={layout.plot.x + layout.plot.width - 2} y={labelY} textAnchor="end" fill="var(--ink)">
              {name}
            </text>
          </g>
        ))}
        {layout.months.map(
          (m) =>
            m.label && (
              <text
                key={m.point.month}
                x={m.centre + (marks === "columns" ? m.band.width * 0.07 : 0)}
                y={m.label.y}
                textAnchor="middle"
                fill="var(--ink)"
                stroke="var(--panel)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {m.label.text}
              </text>
            ),
        )}
        <VarianceStrip layout={layout} basisName={data.basisName} unitName={deltaStyle.unitName} />
        {layout.months.map((m, i) => (
          <rect
            key={m.point.month}
            x={m.band.x}
            y={0}
            width={m.band.width}
            height={height}
            fill="transparent"
            onMouseEnter={() => setActive(i)}
          />
        ))}
      </svg>
      {month && (
        <ReadingCard
          data={data}
          point={month.point}
          style={style}
          deltaStyle={deltaStyle}
          left={month.centre}
          width={width}
        />
      )}
      <p className="sr-only" aria-live="polite">
        {month ? readingWords(data, month.point, style, deltaStyle) : ""}
      </p>
    </div>
  );
}
