import { PlainAxes } from "../../chart-kit/plain-axes.tsx";
import { PART_LINE } from "../../chart-kit/part-line.ts";
import { HALO } from "../../chart-kit/halo.ts";
import { ValueAxis } from "../../chart-kit/value-axis.tsx";
import type { SeasonAgainst, SeasonLine, SeasonPlot } from "./layout.ts";
import type { SeasonAnswer } from "#core/panels/season/schema.ts";

/** The year under study strong, the others behind it. */
export function Plots({
  plots,
  looked,
}: {
  plots: readonly SeasonPlot[];
  looked: { readonly month: number; readonly year: number; readonly at: { x: number; y: number } | null } | undefined;
}) {
  return (
    <g>
      {plots.map(({ title, plot, scale, months, lines, part, band, mean, isExpected }, i) => (
        <g key={title ?? i}>
          <ValueAxis scale={scale} plot={plot} right={plot.x + plot.width} />
          {title !== null && (
            <text
              x={plot.x}
              y={plot.y - 6}
              fill="var(--ink)"
              fontWeight={lines.some(({ isStudied }) => isStudied) ? 650 : 400}
            >
              {title}
            </text>
          )}
          {months.map(({ at, label }, month) => (
            <text
              key={month}
              x={at}
              y={plot.y + plot.height + 15}
              textAnchor="middle"
              fill={looked?.month === month ? "var(--ink)" : "var(--slate)"}
            >
              {label}
            </text>
          ))}
          {band !== null && <path d={band} fill="var(--walnut)" fillOpacity=".2" />}
          {mean !== null && (
            <path
              d={mean}
              fill="none"
              stroke={isExpected ? "var(--indigo)" : "var(--walnut)"}
              strokeWidth={isExpected ? 2.2 : 1.3}
              strokeDasharray={isExpected ? "0.1 5" : undefined}
              strokeLinecap={isExpected ? "round" : undefined}
            />
          )}
          {lines.map((line) => (
            <YearLine key={line.key} line={line} isAlone={plots.length > 1} />
          ))}
          {part !== null && <path d={part} {...PART_LINE} />}
        </g>
      ))}
      {looked?.at && (
        <circle cx={looked.at.x} cy={looked.at.y} r="4.5" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      )}
    </g>
  );
}

function YearLine({
  line: { key, isStudied, back, path, places, label },
  isAlone,
}: {
  line: SeasonLine;
  isAlone: boolean;
}) {
  const isStrong = isStudied || isAlone;
  return (
    <g opacity={isStrong ? 1 : Math.max(0.35, 0.95 - back * 0.15)}>
      <path
        d={path}
        fill="none"
        stroke={isStrong ? "var(--indigo)" : "var(--walnut)"}
        strokeWidth={isStudied ? 2.2 : 1.3}
      />
      {isStudied &&
        places.map((place, i) => place && <circle key={i} cx={place.x} cy={place.y} r="2.4" fill="var(--indigo)" />)}
      {label && !isAlone && (
        <text
          x={label.x}
          y={label.y}
          fill={isStudied ? "var(--ink)" : "var(--slate)"}
          fontWeight={isStudied ? 650 : 400}
        >
          {key}
        </text>
      )}
    </g>
  );
}

/** The year under study on the average: above the even line a month is more than usual. */
export function Against({ data, against }: { data: SeasonAnswer; against: SeasonAgainst }) {
  const { plot, xTicks, yTicks, dots, line, alike } = against;
  return (
    <g>
      <PlainAxes plot={plot} xTicks={xTicks} yTicks={yTicks} xName="the average" yName={data.years.at(-1)!.key} />
      <line {...alike} stroke="var(--slate)" strokeDasharray="2 3" />
      {line && <line {...line} stroke="var(--walnut)" strokeWidth="1.4" />}
      {dots.map(({ month, x, y, isLabelled }) => (
        <g key={month}>
          <circle cx={x} cy={y} r="4" fill="var(--indigo)" />
          {isLabelled && (
            <text x={x + 7} y={y + 4} fill="var(--ink)" {...HALO}>
              {data.monthNames[month]!.slice(0, 3)}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}
