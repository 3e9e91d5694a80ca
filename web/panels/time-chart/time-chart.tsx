import { useId, type ReactNode } from "react";
import type { NumberStyle } from "#core/formats/number-words.ts";
import { ReferenceLines } from "../../chart-kit/reference-lines.tsx";
import { HALO } from "../../chart-kit/halo.ts";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { ValueAxis } from "../../chart-kit/value-axis.tsx";
import { WovenGrain } from "../../chart-kit/woven-grain.tsx";
import { ExpectedBand, OutsideMarks } from "./expected-band.tsx";
import { Fans, Foreseen } from "./fans.tsx";
import { PeriodAxis } from "./period-axis.tsx";
import { useSharedExtent } from "../../chart-kit/page-scale.tsx";
import { chartValues, layoutTimeChart, type TimeChartLayout } from "./layout.ts";
import { Columns, Lines, Overlays, Plans, PriorYearLine, RIGHT_COLOUR, Series } from "./marks.tsx";
import type { DrawnOverTime } from "./drawn-over-time.ts";
import { ReadingCard, readingWords } from "./reading-card.tsx";
import { VarianceStrip } from "./variance-strip.tsx";
import type { TimeMarks, ChartPart } from "#core/panels/time-chart/schema.ts";

/** Draws a laid-out time chart; hover or arrow keys open the reading card. */
export function TimeChart({
  data,
  part,
  width,
  height,
  marks,
  style,
  rightStyle,
  deltaStyle,
  hasLabels,
  axisTitle,
  isFaded,
  fan,
  onTable,
  onAsk,
}: DrawnOverTime & {
  marks: Exclude<TimeMarks, "bars">;
  /** Of the KPI at the right. */
  rightStyle: NumberStyle | null;
  hasLabels: boolean;
  axisTitle: string | undefined;
  /** Whether a series steps back, since the page is narrowed to others. */
  isFaded: (part: ChartPart) => boolean;
  /** Whether intervals are drawn for all periods ahead, or for the one that is looked at. */
  fan: "all" | "one";
}) {
  const options = {
    points: data.points,
    marks,
    references: data.references,
    weighed: part?.points ?? [],
    parts: data.parts,
    stacking: data.stacking,
    moving: data.moving,
    trend: data.trend,
    ahead: data.ahead,
    expected: data.band,
  };
  const isShare = data.stacking === "share" && data.parts.length > 0 && marks !== "lines";
  const unit = `over time, ${isShare ? "shares" : `${JSON.stringify({ ...data.kpi.unit, decimals: undefined })} in ${style.unitName}`}`;
  const layout = layoutTimeChart({
    ...options,
    width,
    height,
    style,
    deltaStyle,
    closedTo: data.closedTo,
    hasLabels,
    right: data.right && rightStyle && { figures: data.right.figures, style: rightStyle },
    strip: data.strip,
    pins: data.pins,
    extent: useSharedExtent(unit, chartValues(options)),
  });
  const start = data.points.findIndex((p) => p.period === data.closedTo);
  const { active, look, leave, keys } = useMarkWalk(data.points.length, Math.max(0, start), {
    onTable,
    onEnter: (mark) => onAsk(data.points[mark]!.months),
  });
  const grain = useId();
  const month = active === null ? undefined : layout.months[active];
  const fans = <Fans layout={layout} parts={data.parts} only={fan === "one" ? (active ?? -1) : null} />;
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
        <ValueAxis scale={layout.scale} plot={layout.plot} right={layout.plot.x + layout.plot.width} />
        {axisTitle !== undefined && (
          <text x={0} y={10} fill="var(--slate)">
            {axisTitle}
          </text>
        )}
        {data.right && layout.rightScale && (
          <RightAxis layout={layout} name={data.right.kpi.name} unitName={rightStyle?.unitName ?? ""} width={width} />
        )}
        {layout.closedX !== null && <ClosedLine x={layout.closedX} height={height} />}
        <PeriodAxis layout={layout} grain={data.grain} spanName={data.frame.words.span} />
        <PeriodMarks {...{ data, layout, marks, isFaded, grain, fans }} isWeighed={part !== undefined} />
        <Overlays layout={layout} />
        <OutsideMarks layout={layout} />
        <Pins layout={layout} />
        <ReferenceLines lines={layout.references} plot={layout.plot} />
        <Labels layout={layout} />
        {data.strip && (
          <VarianceStrip
            layout={layout}
            name={data.strip.kind.startsWith("growth") ? "Growth" : data.strip.name}
            unitName={data.strip.isPercent ? "percent" : deltaStyle.unitName}
          />
        )}
        <Hits layout={layout} height={height} onLook={look} onAsk={onAsk} />
      </svg>
      {month && (
        <ReadingCard
          data={data}
          part={part?.points[active!]}
          point={month.point}
          style={style}
          rightStyle={rightStyle}
          deltaStyle={deltaStyle}
          place={active!}
          left={month.centre}
          width={width}
        />
      )}
      <p className="sr-only" aria-live="polite">
        {month ? readingWords(data, active!, style, deltaStyle) : ""}
      </p>
    </div>
  );
}

/** What stands for the periods: lines, or columns with what is planned and foreseen on them. */
function PeriodMarks({
  data,
  layout,
  marks,
  isFaded,
  isWeighed,
  grain,
  fans,
}: Pick<DrawnOverTime, "data"> & {
  layout: TimeChartLayout;
  marks: Exclude<TimeMarks, "bars">;
  isFaded: (part: ChartPart) => boolean;
  isWeighed: boolean;
  /** The pattern of what is not closed. */
  grain: string;
  fans: ReactNode;
}) {
  const isAlone = data.parts.length === 0;
  const areLines = marks === "lines";
  const band = (
    <>
      <ExpectedBand layout={layout} isOnColumns={!areLines} />
      {fans}
    </>
  );
  const firstOpen = data.points.findIndex((p) => p.period === data.closedTo) + 1;
  return (
    <>
      {areLines && band}
      {!isAlone ? (
        <Series {...{ layout, marks, firstOpen, isFaded, grain }} parts={data.parts} />
      ) : areLines ? (
        <Lines layout={layout} />
      ) : (
        <>
          <Columns layout={layout} grain={grain} isWeighed={isWeighed} />
          {marks === "both" && <PriorYearLine layout={layout} />}
        </>
      )}
      {!areLines && band}
      {isAlone && !areLines && data.ahead && <Foreseen layout={layout} from={data.ahead.from} />}
      {isAlone && <Plans layout={layout} marks={marks} />}
    </>
  );
}

/** To where periods are closed. */
function ClosedLine({ x, height }: { x: number; height: number }) {
  return (
    <g>
      <line x1={x} x2={x} y1={4} y2={height} stroke="var(--slate)" strokeWidth=".75" />
      <text x={x - 4} y={10} textAnchor="end" fill="var(--slate)">
        closed to here
      </text>
    </g>
  );
}

/** Numbered remarks at their periods. */
function Pins({ layout }: { layout: TimeChartLayout }) {
  return layout.pins.map(({ number, x, text }) => (
    <g key={number}>
      <title>{text}</title>
      <line
        x1={x}
        x2={x}
        y1={22}
        y2={layout.plot.y + layout.plot.height}
        stroke="var(--thread)"
        strokeDasharray="2 3"
      />
      <circle cx={x} cy={15} r="7" fill="var(--weld)" fillOpacity=".25" stroke="var(--weld)" />
      <text x={x} y={18.5} textAnchor="middle" fill="var(--ink)" className="text-[10px]">
        {number}
      </text>
    </g>
  ));
}

/** Figures at the marks. */
function Labels({ layout }: { layout: TimeChartLayout }) {
  return layout.months.map(
    (m) =>
      m.label && (
        <text key={m.point.period} x={m.label.x} y={m.label.y} textAnchor="middle" fill="var(--ink)" {...HALO}>
          {m.label.text}
        </text>
      ),
  );
}

/** Where each period is pointed at. */
function Hits({
  layout,
  height,
  onLook,
  onAsk,
}: Pick<DrawnOverTime, "height" | "onAsk"> & { layout: TimeChartLayout; onLook: (mark: number) => void }) {
  return layout.months.map((m, i) => (
    <rect
      key={m.point.period}
      x={m.band.x}
      y={0}
      width={m.band.width}
      height={height}
      fill="transparent"
      className="cursor-pointer"
      onMouseMove={() => onLook(i)}
      onClick={() => onAsk(m.point.months)}
    />
  ));
}

/** The axis of the KPI at the right, in the colour of its line. */
function RightAxis({
  layout,
  name,
  unitName,
  width,
}: {
  layout: TimeChartLayout;
  name: string;
  unitName: string;
  width: number;
}) {
  const x = layout.plot.x + layout.plot.width;
  return (
    <g fill={RIGHT_COLOUR}>
      {layout.rightScale!.ticks.map(({ y, label }) => (
        <text key={label + y} x={x + 6} y={y + 3.5}>
          {label}
        </text>
      ))}
      <text x={width} y={10} textAnchor="end">
        {name.toLowerCase().includes(unitName.toLowerCase()) ? name : `${name}, ${unitName}`} →
      </text>
    </g>
  );
}
