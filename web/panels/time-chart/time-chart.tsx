import { useId } from "react";
import type { NumberStyle } from "#core/words/number-words.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/compute.ts";
import { ReferenceLines } from "../../charts/reference-lines.tsx";
import { useMarkWalk } from "../../charts/use-mark-walk.ts";
import { ValueAxis } from "../../charts/value-axis.tsx";
import { WovenGrain } from "../../charts/woven-grain.tsx";
import { PeriodAxis } from "./period-axis.tsx";
import { layoutTimeChart } from "./layout.ts";
import { Columns, Lines, Plans } from "./marks.tsx";
import { ReadingCard, readingWords } from "./reading-card.tsx";
import { VarianceStrip } from "./variance-strip.tsx";

/** Draws a laid-out time chart; hover or arrow keys open the reading card. */
export function TimeChart({
  data,
  part,
  width,
  height,
  marks,
  style,
  deltaStyle,
  hasLabels,
  onTable,
  onAsk,
}: {
  data: TimeChartAnswer;
  /** The same chart of the part that is weighed. */
  part: TimeChartAnswer | undefined;
  width: number;
  height: number;
  marks: "columns" | "lines";
  style: NumberStyle;
  deltaStyle: NumberStyle;
  hasLabels: boolean;
  onTable: () => void;
  /** Opens where a period's actual comes from. */
  onAsk: (months: string) => void;
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
    part: part?.points ?? [],
  });
  const start = data.points.findIndex((p) => p.period === data.closedTo);
  const { active, look, leave, keys } = useMarkWalk(data.points.length, Math.max(0, start), {
    onTable,
    onEnter: (mark) => onAsk(data.points[mark]!.months),
  });
  const grain = useId();
  const month = active === null ? undefined : layout.months[active];
  return (
    <div className="relative" onMouseLeave={leave}>
      <svg
        width={width}
        height={height}
        role="img"
        tabIndex={0}
        aria-roledescription="chart"
        aria-label={`${data.headline} ${data.descriptor}. Arrow keys move along the periods, Enter opens where a figure comes from.`}
        {...keys}
        className="block overflow-visible text-[11px]"
      >
        <defs>
          <WovenGrain id={grain} />
        </defs>
        {month && <rect x={month.band.x} y={0} width={month.band.width} height={height} fill="var(--chosen)" />}
        <ValueAxis scale={layout.scale} plot={layout.plot} right={width} />
        <PeriodAxis layout={layout} grain={data.grain} spanName={data.frame.words.span} />
        {marks === "columns" ? (
          <Columns layout={layout} grain={grain} isWeighed={part !== undefined} />
        ) : (
          <Lines layout={layout} />
        )}
        <Plans layout={layout} marks={marks} />
        {layout.closedX !== null && (
          <g>
            <line x1={layout.closedX} x2={layout.closedX} y1={4} y2={height} stroke="var(--slate)" strokeWidth=".75" />
            <text x={layout.closedX - 4} y={10} textAnchor="end" fill="var(--slate)">
              closed to here
            </text>
          </g>
        )}
        <ReferenceLines lines={layout.references} plot={layout.plot} />
        {layout.months.map(
          (m) =>
            m.label && (
              <text
                key={m.point.period}
                x={m.label.x}
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
            key={m.point.period}
            x={m.band.x}
            y={0}
            width={m.band.width}
            height={height}
            fill="transparent"
            className="cursor-pointer"
            onMouseEnter={() => look(i)}
            onClick={() => onAsk(m.point.months)}
          />
        ))}
      </svg>
      {month && (
        <ReadingCard
          data={data}
          part={part?.points[active!]}
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
