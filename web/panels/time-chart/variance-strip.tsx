import { shorten } from "../../chart-kit/shorten.ts";
import { judgementColour } from "../../figures/judgement.tsx";
import type { MonthMarks, TimeChartLayout } from "./layout.ts";

/** The variance below, on the same months: bars from a zero line, signed. */
export function VarianceStrip({
  layout,
  name,
  unitName,
}: {
  layout: TimeChartLayout;
  /** What it says of each period: "Δ Budget". */
  name: string;
  unitName: string;
}) {
  const top = layout.plot.y + layout.plot.height + 34;
  return (
    <g>
      <text x={0} y={top + 4} fill="var(--slate)">
        {shorten(name, layout.plot.x + 6)}
        <title>{name}</title>
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
          no period has it
        </text>
      )}
      {layout.months.map((m) => m.variance && <VarianceBar key={m.point.period} variance={m.variance} />)}
    </g>
  );
}

function VarianceBar({ variance }: { variance: NonNullable<MonthMarks["variance"]> }) {
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
        <text x={variance.label.x} y={variance.label.y} textAnchor="middle" fill={colour}>
          {variance.label.text}
        </text>
      )}
    </g>
  );
}
