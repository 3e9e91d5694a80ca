import type { Figure } from "#core/figures/schema.ts";
import type { ScenarioCode } from "#core/compare/scenario-code.ts";
import { scenarioColour } from "../figures/scenario-mark.tsx";

const HEIGHT = 12;

/**
 * How much of its basis a figure reaches: a bar from zero and the basis as its mark at 100 percent.
 * Bars of one panel share a scale, `limit` being its end; what goes beyond ends in a torn edge.
 */
export function AttainmentBar({ attainment, limit, code }: { attainment: Figure; limit: number; code: ScenarioCode }) {
  if (!("value" in attainment) || attainment.value < 0) return <div style={{ height: HEIGHT }} />;
  const at = (share: number) => `${(share / limit) * 100}%`;
  const isBeyond = attainment.value > limit;
  return (
    <svg aria-hidden="true" width="100%" height={HEIGHT} className="block overflow-visible">
      <line x1="0" x2="100%" y1={HEIGHT / 2} y2={HEIGHT / 2} stroke="var(--thread)" />
      <rect x="0" y="3" width={isBeyond ? "100%" : at(attainment.value)} height={HEIGHT - 6} fill="var(--indigo)" />
      {isBeyond && (
        <svg x="100%" overflow="visible">
          <path d="M-7 1l3 3.3-3 3.4 3 3.3" fill="none" stroke="var(--panel)" strokeWidth="2" />
        </svg>
      )}
      <line
        x1={at(1)}
        x2={at(1)}
        y1="-1"
        y2={HEIGHT + 1}
        stroke={scenarioColour(code)}
        strokeWidth="2.5"
        strokeDasharray={code === "budget" ? "4 1.5" : code === "forecast" ? "2 2" : undefined}
      />
    </svg>
  );
}
