import { Fragment, useId } from "react";
import { layoutComb } from "../../chart-kit/comb-layout.ts";
import { HALO } from "../../chart-kit/halo.ts";
import { COMB_WIDTH } from "../../chart-kit/comb-layout.ts";
import { seriesDye } from "./series-dye.ts";
import { useDyes } from "../../chart-kit/page-dyes.tsx";
import { WovenGrain } from "../../chart-kit/woven-grain.tsx";
import { judgementColour } from "../../figures/judgement.tsx";
import type { ScenarioCode } from "#core/compare/scenario-code.ts";
import { BasisMark } from "../../chart-kit/basis-mark.tsx";
import { scenarioColour } from "../../figures/scenario-mark.tsx";
import { TOTAL, type BarLine, type BreakdownLayout } from "./layout.ts";
import type { BreakdownAnswer } from "#core/panels/breakdown/schema.ts";

/** Draws a laid-out breakdown: names, bars with their basis, Δ on one zero line, Δ% as combs. */
export function Bars({
  data,
  layout,
  active,
  picked,
}: {
  data: BreakdownAnswer;
  layout: BreakdownLayout;
  /** The line that is looked at. */
  active: number | null;
  /** The members that are picked; `undefined` while none is. */
  picked: readonly string[] | undefined;
}) {
  const grain = useId();
  const isWeighed = layout.lines.some((line) => line.part);
  return (
    <g>
      <defs>
        <WovenGrain id={grain} />
      </defs>
      {active !== null && layout.lines[active] && <rect {...layout.lines[active].band} fill="var(--chosen)" />}
      {layout.heads.total !== null && (
        <text x={layout.heads.total} y={10} textAnchor="end" fill="var(--slate)">
          {TOTAL}
        </text>
      )}
      {layout.heads.delta !== null && (
        <text x={layout.heads.delta} y={10} textAnchor="middle" fill="var(--slate)">
          Δ
        </text>
      )}
      {layout.heads.percent !== null && (
        <text x={layout.heads.percent} y={10} textAnchor="end" fill="var(--slate)">
          Δ%
        </text>
      )}
      {layout.lines.map((line, i) => {
        const isFaded = picked !== undefined && line.kind !== "total" && !picked.includes(line.row.member?.key ?? "");
        return (
          <g key={i} opacity={isFaded ? 0.4 : 1}>
            {line.kind === "total" && (
              <line
                x1={0}
                x2={line.band.width}
                y1={line.band.y}
                y2={line.band.y}
                stroke="var(--ink)"
                strokeWidth=".8"
              />
            )}
            <text
              x={0}
              y={line.centre + 4}
              fill={line.kind === "others" ? "var(--slate)" : "var(--ink)"}
              fontWeight={line.kind === "total" || picked?.includes(line.row.member?.key ?? "") ? 650 : 400}
              className="text-[12.5px]"
            >
              {line.name}
              <title>{line.row.name}</title>
            </text>
            <BarMarks data={data} line={line} grain={grain} isWeighed={isWeighed} />
            {line.value && (
              <text
                x={line.value.x}
                y={line.centre + 4}
                textAnchor={line.value.anchor}
                fill={"value" in line.row.row.actual ? "var(--ink)" : "var(--slate)"}
                fontWeight={line.kind === "total" ? 650 : 400}
                {...HALO}
              >
                {line.value.text}
              </text>
            )}
            <DeltaMarks line={line} />
          </g>
        );
      })}
      <line
        x1={layout.zero}
        x2={layout.zero}
        y1={layout.plot.y}
        y2={layout.plot.y + layout.plot.height}
        stroke="var(--slate)"
        strokeWidth=".75"
      />
      {layout.deltaZero !== null && (
        <line
          x1={layout.deltaZero}
          x2={layout.deltaZero}
          y1={layout.plot.y}
          y2={layout.plot.y + layout.plot.height}
          stroke="var(--slate)"
          strokeWidth=".75"
        />
      )}
    </g>
  );
}

function BarMarks({
  data: { series, total },
  line,
  grain,
  isWeighed,
}: {
  data: BreakdownAnswer;
  line: BarLine;
  grain: string;
  isWeighed: boolean;
}) {
  const colourOf = useDyes();
  const whole = line.kind === "others" ? "var(--slate)" : "var(--indigo)";
  return (
    <>
      {line.segments.map((segment, i) => {
        const { series: at, label, ...box } = segment;
        const own = at === null ? undefined : series[at];
        const code = own?.scenario;
        return (
          <Fragment key={i}>
            <rect
              {...box}
              fill={own ? (code ? scenarioFill(code, grain) : colourOf(seriesDye(own), own.at)) : whole}
              fillOpacity={isWeighed && !own ? 0.35 : code === "prior-year" ? 0.55 : 1}
              stroke={own ? "var(--panel)" : "none"}
              strokeWidth=".5"
            />
            {label && (
              <text
                x={label.x}
                y={box.y + box.height / 2 + 3.5}
                textAnchor={label.anchor}
                fill="var(--ink)"
                className="text-[10.5px]"
                stroke="var(--panel)"
                strokeWidth="2.5"
                paintOrder="stroke"
              >
                {label.text}
              </text>
            )}
          </Fragment>
        );
      })}
      {line.part && <rect {...line.part} fill={whole} />}
      {line.basis && <BasisMark code={total.row.basisCode} {...line.basis} />}
    </>
  );
}

function scenarioFill(code: ScenarioCode, grain: string): string {
  return code === "forecast" ? `url(#${grain})` : scenarioColour(code);
}

function DeltaMarks({ line: { delta, percent, centre, row, kind } }: { line: BarLine }) {
  const colour = judgementColour(delta?.judgement ?? row.row.variance.judgement);
  const { tolerances } = row.row.variance;
  return (
    <>
      {delta?.box && <rect {...delta.box} fill={colour} />}
      {delta && (
        <text
          x={delta.x}
          y={centre + 4}
          textAnchor={delta.anchor}
          fill={colour}
          fontWeight={kind === "total" ? 650 : 400}
        >
          {delta.text}
        </text>
      )}
      {percent && (
        <>
          {tolerances !== null && (
            <CombMarks tolerances={tolerances} x={percent.x - COMB_WIDTH} y={centre} colour={colour} />
          )}
          <text x={percent.x - COMB_WIDTH - 4} y={centre + 4} textAnchor="end" fill={colour}>
            {percent.text}
          </text>
        </>
      )}
    </>
  );
}

/** A comb inside a chart. */
function CombMarks({ tolerances, x, y, colour }: { tolerances: number; x: number; y: number; colour: string }) {
  const { zero, teeth, hasDot, count } = layoutComb(tolerances);
  return (
    <g transform={`translate(${x} ${y - 7})`} aria-hidden="true">
      <line x1={zero} x2={zero} y1={0} y2={14} stroke="var(--thread)" strokeWidth="1.2" />
      {teeth.length > 0 && (
        <path
          d={`M${zero} 3.5H${teeth.at(-1)}${teeth.map((tooth) => `M${tooth} 2.8V11`).join("")}`}
          stroke={colour}
          strokeWidth="1.6"
          fill="none"
        />
      )}
      {hasDot && <circle cx={zero} cy={7} r={2.4} fill={colour} />}
      {count && (
        <text x={count.x} y={11} textAnchor={count.anchor} fontSize="10" fill={colour}>
          {count.text}
        </text>
      )}
    </g>
  );
}
