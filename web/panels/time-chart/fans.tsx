import { area, line } from "d3-shape";
import { useDyes } from "../../chart-kit/page-dyes.tsx";
import type { FanLayout, FanStep } from "./layout-fans.ts";
import { partDye } from "./part-dye.ts";
import type { TimeChartLayout } from "./layout.ts";
import type { ChartPart } from "#core/panels/time-chart/schema.ts";

/** The wider a stretch, the fainter it is. */
const FAINTEST = 0.13;

/** The intervals of forecasts as fading fans: of all periods ahead, or of the one that is looked at. */
export function Fans({
  layout,
  parts,
  only,
}: {
  layout: TimeChartLayout;
  parts: readonly ChartPart[];
  /** The place of the one period whose intervals are drawn; `null` for all. */
  only: number | null;
}) {
  const colourOf = useDyes();
  return (
    <g data-marks="intervals">
      {layout.fans.map((fan) => {
        const part = parts.find(({ key }) => key === fan.key);
        const colour = part ? colourOf(partDye(part), part.at) : "var(--indigo)";
        const steps = only === null ? fan.steps : fan.steps.filter(({ place }) => place === only);
        return (
          <g key={fan.key} fill={colour}>
            {fan.isArea && only === null ? (
              <Areas fan={fan} />
            ) : (
              steps.map((step) => <Stretches key={step.place} step={step} />)
            )}
          </g>
        );
      })}
    </g>
  );
}

function Areas({ fan: { steps } }: { fan: FanLayout }) {
  const levels = steps[0]?.stretches.length ?? 0;
  return Array.from({ length: levels }, (_, l) => {
    const shape = area<FanStep>()
      .x(({ x }) => x)
      .y0(({ stretches }) => stretches[l]!.bottom)
      .y1(({ stretches }) => stretches[l]!.top);
    return <path key={l} d={shape([...steps]) ?? ""} fillOpacity={FAINTEST + 0.04 * l} />;
  });
}

function Stretches({ step: { x, width, stretches } }: { step: FanStep }) {
  return stretches.map(({ level, top, bottom }, l) => (
    <rect
      key={level}
      x={x - width / 2}
      y={top}
      width={width}
      height={Math.max(1, bottom - top)}
      fillOpacity={0.2 + 0.14 * l}
      stroke="var(--panel)"
      strokeWidth=".5"
    />
  ));
}

const path = line<{ readonly x: number; readonly y: number } | null>()
  .defined((place) => place !== null)
  .x((place) => place!.x)
  .y((place) => place!.y);

/** The forecast of periods that came, which were left out to see it beside them: its dotted line over what they were. */
export function Foreseen({ layout, from }: { layout: TimeChartLayout; from: number }) {
  const places = layout.lines.forecast.map((place, i) =>
    i >= from && "value" in layout.months[i]!.point.actual ? place : null,
  );
  if (places.every((place) => place === null)) return null;
  return (
    <g>
      <path
        d={path(places) ?? ""}
        fill="none"
        stroke="var(--panel)"
        strokeWidth="4.5"
        strokeLinecap="round"
        strokeOpacity=".8"
      />
      <path
        d={path(places) ?? ""}
        fill="none"
        stroke="var(--indigo)"
        strokeWidth="2.4"
        strokeDasharray="0.1 5"
        strokeLinecap="round"
      />
      {places.map((place, i) => place && <circle key={i} cx={place.x} cy={place.y} r="2.2" fill="var(--indigo)" />)}
    </g>
  );
}
