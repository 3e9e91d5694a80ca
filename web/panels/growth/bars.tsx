import type { GrowthAnswer } from "#core/panels/growth/schema.ts";
import { dyeOf } from "../../chart-kit/dyes.ts";
import { HALO } from "../../chart-kit/halo.ts";
import { judgementColour } from "../../figures/judgement.tsx";
import type { GrowthLayout } from "./layout.ts";

/** Draws laid-out growth: gains up and losses down on one zero line, and across them what the selected part grew. */
export function GrowthBars({
  data,
  layout: { bars, plot, zero, ticks, names },
  active,
  chosen,
}: {
  data: GrowthAnswer;
  layout: GrowthLayout;
  active: number | null;
  chosen: readonly string[] | undefined;
}) {
  const looked = active === null ? undefined : bars[active];
  return (
    <g>
      {looked && (
        <rect x={looked.band.x} width={looked.band.width} y={plot.y} height={plot.height} fill="var(--chosen)" />
      )}
      {ticks.map(({ at, label }) => (
        <g key={at}>
          <line x1={plot.x} x2={plot.x + plot.width} y1={at} y2={at} stroke="var(--thread)" strokeWidth=".6" />
          <text x={plot.x - 6} y={at + 3.5} textAnchor="end" fill="var(--slate)">
            {label}
          </text>
        </g>
      ))}
      {bars.map(({ point, bar, part, label }) => {
        const colour = colourOf(data, point);
        return (
          <g key={point.key} opacity={chosen !== undefined && !chosen.includes(point.key) ? 0.4 : 1}>
            {bar && <rect {...bar} fill={colour} fillOpacity={part ? 0.45 : 1} />}
            {part && (
              <line x1={part.x1} x2={part.x2} y1={part.y} y2={part.y} stroke="var(--indigo)" strokeWidth="2.5" />
            )}
            {label && (
              <text x={label.x} y={label.y} textAnchor="middle" fill={data.ranges ? "var(--ink)" : colour} {...HALO}>
                {label.text}
              </text>
            )}
          </g>
        );
      })}
      <line x1={plot.x} x2={plot.x + plot.width} y1={zero} y2={zero} stroke="var(--ink)" strokeWidth=".9" />
      {names.map(({ at, label }) => (
        <text key={at} x={at} y={plot.y + plot.height + 16} textAnchor="middle" fill="var(--slate)">
          {label}
        </text>
      ))}
    </g>
  );
}

function colourOf({ ranges }: GrowthAnswer, { range, judgement }: GrowthAnswer["points"][number]): string {
  return ranges && range !== null ? dyeOf(ranges[range]!.dye) : judgementColour(judgement);
}
