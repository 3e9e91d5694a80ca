import { useEffect, useId, useLayoutEffect, useRef } from "react";
import type { ScenarioCode } from "#core/compare/scenario-code.ts";
import { BasisMark } from "../../chart-kit/basis-mark.tsx";
import { HALO } from "../../chart-kit/halo.ts";
import { useSharedExtent } from "../../chart-kit/page-scale.tsx";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { WalkedChart } from "../../chart-kit/walked-chart.tsx";
import { WovenGrain } from "../../chart-kit/woven-grain.tsx";
import { judgementColour } from "../../figures/judgement.tsx";
import type { DrawnOverTime } from "./drawn-over-time.ts";
import { layoutPeriodBars, periodBarValues, type PeriodBar } from "./layout-bars.ts";
import { ReadingCard, readingWords } from "./reading-card.tsx";

/** One KPI over time as lying bars: the periods down the side, what is expected woven, with the width of its interval. */
export function PeriodBars({ data, part, width, height, style, deltaStyle, onTable, onAsk }: DrawnOverTime) {
  const grain = useId();
  const unit = `lying over time, ${JSON.stringify({ ...data.kpi.unit, decimals: undefined })} in ${style.unitName}`;
  const extent = useSharedExtent(unit, periodBarValues(data));
  const layout = layoutPeriodBars({
    data,
    width,
    height,
    style,
    deltaStyle,
    weighed: part?.points ?? [],
    ...(extent ? { extent } : {}),
  });
  const closed = data.points.findIndex(({ period }) => period === data.closedTo);
  const walk = useMarkWalk(data.points.length, Math.max(0, closed), {
    onTable,
    onEnter: (mark) => onAsk(data.points[mark]!.months),
    perRow: 1,
  });
  const { active } = walk;
  const looked = active === null ? undefined : layout.bars[active];
  const room = useRef<HTMLDivElement>(null);
  const isOpen = layout.openY !== null;
  // Of more periods than fit, what is expected is seen first: it is what the eye is here for.
  useLayoutEffect(() => {
    if (isOpen && room.current) room.current.scrollTop = room.current.scrollHeight;
  }, [isOpen, data.points.length, height]);
  const [top, bottom] = looked ? [looked.band.y, looked.band.y + looked.band.height] : [null, null];
  useEffect(() => {
    const seen = room.current;
    if (!seen || top === null) return;
    if (top < seen.scrollTop) seen.scrollTop = top;
    else if (bottom > seen.scrollTop + seen.clientHeight) seen.scrollTop = bottom - seen.clientHeight;
  }, [top, bottom]);
  return (
    <div className="relative h-full">
      <div ref={room} className="h-full overflow-y-auto">
        <WalkedChart
          width={width}
          height={layout.height}
          label={`${data.headline} ${data.descriptor}. Arrow keys move along the periods, Enter opens where a figure comes from.`}
          walk={walk}
          words={looked ? readingWords(data, active!, style, deltaStyle) : ""}
          card={null}
        >
          <defs>
            <WovenGrain id={grain} />
          </defs>
          {looked && <rect {...looked.band} fill="var(--chosen)" />}
          {layout.bars.some(({ delta }) => delta !== null) && (
            <text x={width} y={11} textAnchor="end" fill="var(--slate)">
              Δ {data.basisName}, {deltaStyle.unitName}
            </text>
          )}
          {layout.openY !== null && (
            <g>
              <line x1={0} x2={width} y1={layout.openY} y2={layout.openY} stroke="var(--slate)" strokeWidth=".75" />
              <text x={layout.plot.x + layout.plot.width - 6} y={layout.openY - 4} textAnchor="end" fill="var(--slate)">
                closed to here
              </text>
            </g>
          )}
          {layout.bars.map((line, i) => (
            <g key={line.point.period}>
              <BarLine line={line} grain={grain} basisCode={data.frame.basisCode} width={width} />
              <rect
                {...line.band}
                fill="transparent"
                className="cursor-pointer"
                onMouseMove={() => walk.look(i)}
                onClick={() => onAsk(line.point.months)}
              />
            </g>
          ))}
          <line
            x1={layout.zero}
            x2={layout.zero}
            y1={layout.plot.y}
            y2={layout.plot.y + layout.plot.height}
            stroke="var(--slate)"
            strokeWidth=".75"
          />
        </WalkedChart>
      </div>
      {looked && (
        <ReadingCard
          data={data}
          part={part?.points[active!]}
          point={looked.point}
          style={style}
          rightStyle={null}
          deltaStyle={deltaStyle}
          place={active!}
          left={layout.plot.x + layout.plot.width * 0.6}
          width={width}
        />
      )}
    </div>
  );
}

/** A period's name, bar, interval, basis, value and Δ. */
function BarLine({
  line: { point, centre, name, bar, part, isForecast, interval, basis, value, delta },
  grain,
  basisCode,
  width,
}: {
  line: PeriodBar;
  grain: string;
  basisCode: ScenarioCode;
  width: number;
}) {
  return (
    <>
      <text x={0} y={centre + 4} fill={isForecast ? "var(--slate)" : "var(--ink)"}>
        {name}
      </text>
      {bar && (
        <rect
          {...bar}
          fill={isForecast ? `url(#${grain})` : "var(--indigo)"}
          fillOpacity={part ? 0.35 : 1}
          stroke={isForecast ? "var(--indigo)" : "none"}
          strokeOpacity=".5"
          strokeWidth=".75"
        />
      )}
      {part && <rect {...part} fill="var(--indigo)" />}
      {interval && (
        <path d={`M${interval.from} ${centre - 4}v8m0 -4H${interval.to}m0 -4v8`} stroke="var(--ink)" fill="none">
          <title>{`${interval.level}% between`}</title>
        </path>
      )}
      {basis && <BasisMark code={basisCode} {...basis} />}
      {value && (
        <text x={value.x} y={centre + 4} textAnchor={value.anchor} fill="var(--ink)" {...HALO}>
          {value.text}
        </text>
      )}
      {delta !== null && (
        <text x={width} y={centre + 4} textAnchor="end" fill={judgementColour(point.variance.judgement)}>
          {delta}
        </text>
      )}
    </>
  );
}
