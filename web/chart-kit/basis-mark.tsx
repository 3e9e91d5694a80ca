import type { ScenarioCode } from "#core/compare/scenario-code.ts";
import { scenarioColour } from "../figures/scenario-mark.tsx";

/** What a lying bar is compared with, across it, in its scenario's code. */
export function BasisMark({ code, x, y1, y2 }: { code: ScenarioCode; x: number; y1: number; y2: number }) {
  const colour = scenarioColour(code);
  if (code === "target")
    return (
      <path
        d={`M${x - 3.5} ${y1}l3.5 6l3.5 -6zM${x - 3.5} ${y2}l3.5 -6l3.5 6z`}
        fill={colour}
        stroke="var(--panel)"
        strokeWidth=".5"
      />
    );
  const dash = { budget: "5 2", forecast: "0.1 4", "prior-year": undefined, actual: undefined }[code];
  return (
    <line
      x1={x}
      x2={x}
      y1={y1}
      y2={y2}
      stroke={colour}
      strokeWidth={code === "prior-year" ? 1.6 : 2.4}
      strokeDasharray={dash}
      strokeLinecap={code === "forecast" ? "round" : undefined}
    />
  );
}
