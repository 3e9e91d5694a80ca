import { useId } from "react";
import { WovenGrain } from "../../chart-kit/woven-grain.tsx";
import { HALO } from "../../chart-kit/halo.ts";
import { judgementColour } from "../../figures/judgement.tsx";
import type { ScenarioCode } from "#core/compare/scenario-code.ts";
import { scenarioColour } from "../../figures/scenario-mark.tsx";
import type { BridgeLayout, BridgeLine } from "./layout.ts";

/** Draws a laid-out bridge: figures it stands on, steps between them, threads from each to the next. */
export function Steps({
  layout,
  active,
  picked,
}: {
  layout: BridgeLayout;
  active: number | null;
  picked: readonly string[] | undefined;
}) {
  const grain = useId();
  const { lines, zero, plot } = layout;
  return (
    <g>
      <defs>
        <WovenGrain id={grain} />
      </defs>
      {active !== null && lines[active] && <rect {...lines[active].band} fill="var(--chosen)" />}
      {zero !== null && (
        <line x1={zero} x2={zero} y1={plot.y} y2={plot.y + plot.height} stroke="var(--slate)" strokeWidth=".75" />
      )}
      {lines.map((line, i) => {
        const next = lines[i + 1];
        const member = line.step?.member?.key;
        const isFaded = picked !== undefined && member !== undefined && !picked.includes(member);
        return (
          <g key={i} opacity={isFaded ? 0.4 : 1}>
            <text
              x={line.kind === "subtotal" ? 0 : line.kind === "step" ? 8 : 0}
              y={line.centre + 4}
              fill={line.step?.kind === "others" || line.kind === "subtotal" ? "var(--slate)" : "var(--ink)"}
              fontWeight={line.kind === "end" ? 650 : 400}
              fontStyle={line.kind === "subtotal" ? "italic" : undefined}
              className="text-[12.5px]"
            >
              {line.name}
              <title>{line.fullName}</title>
            </text>
            <Bar line={line} grain={grain} />
            {line.part && <rect {...line.part} fill="var(--indigo)" stroke="var(--panel)" strokeWidth="1" />}
            {line.kind === "end" && layout.isShort && <TornEdge line={line} plot={plot} />}
            {next && (
              <line
                x1={line.threadX}
                x2={line.threadX}
                y1={line.bar.y + line.bar.height}
                y2={next.bar.y}
                stroke="var(--slate)"
                strokeWidth=".75"
              />
            )}
            <text
              x={line.label.x}
              y={line.centre + 4}
              textAnchor={line.label.anchor}
              fill={line.kind === "step" ? stepColour(line) : "var(--ink)"}
              fontWeight={line.kind === "end" ? 650 : 400}
              {...HALO}
            >
              {line.label.text}
            </text>
          </g>
        );
      })}
    </g>
  );
}

function stepColour({ step }: BridgeLine): string {
  if (step?.kind === "rest") return "var(--slate)";
  return step?.isForecast ? "var(--indigo)" : judgementColour(step?.judgement ?? null);
}

function Bar({ line, grain }: { line: BridgeLine; grain: string }) {
  const { bar, end, step, kind } = line;
  if (end) {
    const { scenario: code } = end;
    return <EndBar code={code} bar={bar} grain={grain} />;
  }
  if (kind === "subtotal") return <rect {...bar} y={bar.y + bar.height / 2 - 1.5} height={3} fill="var(--slate)" />;
  const colour = stepColour(line);
  if (step?.isForecast)
    return <rect {...bar} fill={`url(#${grain})`} stroke={colour} strokeWidth=".9" strokeDasharray="1.5 2" />;
  const isGathered = step?.kind === "others" || step?.kind === "rest";
  const isOnOneSide = step?.kind === "new" || step?.kind === "gone" || step?.kind === "gap";
  return (
    <rect
      {...bar}
      fill={colour}
      fillOpacity={isGathered ? 0.5 : isOnOneSide ? 0.15 : 1}
      stroke={isOnOneSide ? colour : "none"}
      strokeWidth="1"
    />
  );
}

/** A figure that the bridge stands on, in its scenario's code. */
function EndBar({ code, bar, grain }: { code: ScenarioCode; bar: BridgeLine["bar"]; grain: string }) {
  const colour = scenarioColour(code);
  switch (code) {
    case "actual":
      return <rect {...bar} fill={colour} />;
    case "forecast":
      return <rect {...bar} fill={`url(#${grain})`} stroke={colour} strokeWidth=".9" strokeDasharray="1.5 2" />;
    case "budget":
      return <rect {...bar} fill={colour} fillOpacity=".14" stroke={colour} strokeWidth="2" strokeDasharray="6 2.5" />;
    case "target":
      return <rect {...bar} fill={colour} fillOpacity=".16" stroke={colour} strokeWidth="1.2" />;
    case "prior-year":
      return <rect {...bar} fill={colour} fillOpacity=".55" />;
  }
}

/** Where the axis does not begin at zero, a figure's bar is torn there. */
function TornEdge({ line: { bar, after }, plot }: { line: BridgeLine; plot: BridgeLayout["plot"] }) {
  const isRight = after < 0;
  const x = isRight ? bar.x + bar.width - 9 : plot.x + 9;
  const teeth = 4;
  const step = (bar.height + 4) / teeth;
  const points = Array.from({ length: teeth + 1 }, (_, i) => [x + (i % 2 === 0 ? -2.5 : 2.5), bar.y - 2 + i * step]);
  const path = `M${points.map(([px, py]) => `${px} ${py}`).join("L")}`;
  return (
    <g aria-hidden="true">
      <path d={path} fill="none" stroke="var(--panel)" strokeWidth="5" />
      <path d={path} fill="none" stroke="var(--slate)" strokeWidth=".8" transform="translate(-2.5 0)" />
      <path d={path} fill="none" stroke="var(--slate)" strokeWidth=".8" transform="translate(2.5 0)" />
    </g>
  );
}
