import { line } from "d3";
import { useId, useState, type KeyboardEvent } from "react";
import { monthName, parseMonth } from "#core/calendar/month.ts";
import type { NumberStyle } from "#core/words/number-words.ts";
import type { TimeChartAnswer } from "#contract/panels.ts";
import { judgementColour } from "../../ui/judgement.tsx";
import { layoutTimeChart, type MonthMarks, type Place, type TimeChartLayout } from "./layout.ts";
import { ReadingCard, readingWords } from "./reading-card.tsx";

/** Draws a laid-out time chart; hover or arrow keys open the reading card. */
export function TimeChart({
  data,
  width,
  height,
  marks,
  style,
  deltaStyle,
  onTable,
}: {
  data: TimeChartAnswer;
  width: number;
  height: number;
  marks: "columns" | "lines";
  style: NumberStyle;
  deltaStyle: NumberStyle;
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
        <Variance layout={layout} grain={grain} basisName={data.basisName} unitName={deltaStyle.unitName} />
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

function Axis({ layout, width, spanName }: { layout: TimeChartLayout; width: number; spanName: string }) {
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

function Columns({ layout, grain }: { layout: TimeChartLayout; grain: string }) {
  return (
    <g>
      {layout.months.map(
        (m) => m.priorYear && <rect key={m.point.month} {...m.priorYear} fill="var(--walnut)" fillOpacity=".55" />,
      )}
      {layout.months.map((m) => m.actual && <rect key={m.point.month} {...m.actual} fill="var(--indigo)" />)}
      {layout.months.map(
        (m) =>
          m.forecast && (
            <rect
              key={m.point.month}
              {...m.forecast}
              fill={`url(#${grain})`}
              stroke="var(--indigo)"
              strokeOpacity=".5"
              strokeWidth=".75"
            />
          ),
      )}
    </g>
  );
}

const path = line<Place | null>()
  .defined((p) => p !== null)
  .x((p) => p!.x)
  .y((p) => p!.y);

function Lines({ layout }: { layout: TimeChartLayout }) {
  const { actual, forecast, priorYear } = layout.lines;
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
      <path d={path(actual) ?? ""} stroke="var(--indigo)" strokeWidth="2" />
      {actual.map((p, i) => p && <circle key={i} cx={p.x} cy={p.y} r="2.3" fill="var(--indigo)" />)}
    </g>
  );
}

function Plans({ layout, marks }: { layout: TimeChartLayout; marks: "columns" | "lines" }) {
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
              key={m.point.month}
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

function Variance({
  layout,
  grain,
  basisName,
  unitName,
}: {
  layout: TimeChartLayout;
  grain: string;
  basisName: string;
  unitName: string;
}) {
  const top = layout.plot.y + layout.plot.height + 34;
  return (
    <g>
      <text x={0} y={top + 4} fill="var(--slate)">
        Δ {basisName}
      </text>
      <text x={0} y={top + 17} fill="var(--slate)">
        {unitName}
      </text>
      <line
        x1={layout.plot.x}
        x2={layout.plot.x + layout.plot.width}
        y1={layout.varianceZero}
        y2={layout.varianceZero}
        stroke="var(--ink)"
        strokeWidth=".9"
      />
      {layout.months.every((m) => m.variance === null) && (
        <text
          x={layout.plot.x + layout.plot.width / 2}
          y={layout.varianceZero - 6}
          textAnchor="middle"
          fill="var(--slate)"
          stroke="var(--panel)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          no month can be compared with {basisName}
        </text>
      )}
      {layout.months.map(
        (m) =>
          m.variance && (
            <VarianceBar
              key={m.point.month}
              variance={m.variance}
              grain={grain}
              centre={m.variance.box.x + m.variance.box.width / 2}
            />
          ),
      )}
    </g>
  );
}

function VarianceBar({
  variance,
  centre,
}: {
  variance: NonNullable<MonthMarks["variance"]>;
  grain: string;
  centre: number;
}) {
  const colour = judgementColour(variance.judgement);
  return (
    <g>
      <rect
        {...variance.box}
        fill={colour}
        fillOpacity={variance.isForecast ? 0.18 : 1}
        stroke={variance.isForecast ? colour : "none"}
        strokeDasharray="1.5 2"
        strokeWidth=".9"
      />
      {variance.label && (
        <text x={centre} y={variance.labelY} textAnchor="middle" fill={colour}>
          {variance.label}
        </text>
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
