import type { ScenarioCode } from "#core/compare/scenario-code.ts";

const RULES: Readonly<Record<ScenarioCode, { stroke: string; width: number; dash?: string; cap?: "round" }>> = {
  actual: { stroke: "var(--indigo)", width: 2.5 },
  forecast: { stroke: "var(--indigo)", width: 2.5, dash: "0.1 4.5", cap: "round" },
  budget: { stroke: "var(--weld)", width: 2.5, dash: "6 3" },
  target: { stroke: "var(--heather)", width: 2 },
  "prior-year": { stroke: "var(--walnut)", width: 1.2 },
};

/** The colour of a scenario; never without its shape. */
export function scenarioColour(code: ScenarioCode): string {
  return RULES[code].stroke;
}

/** A scenario's name in a table's head, with its rule below. */
export function ScenarioName({ code, name }: { code: ScenarioCode; name: string }) {
  return (
    <span className="block font-semibold text-ink">
      {name}
      <ScenarioRule code={code} />
    </span>
  );
}

function RuleLine({ code, to, y }: { code: ScenarioCode; to: string; y: number }) {
  const { stroke, width, dash, cap } = RULES[code];
  return (
    <line x1="1" x2={to} y1={y} y2={y} stroke={stroke} strokeWidth={width} strokeDasharray={dash} strokeLinecap={cap} />
  );
}

/** The rule under a table header: solid, dotted, stitched, notched or thin. */
function ScenarioRule({ code }: { code: ScenarioCode }) {
  return (
    <svg aria-hidden="true" className="block h-[5px] w-full overflow-hidden" preserveAspectRatio="none">
      <RuleLine code={code} to="100%" y={2.5} />
      {code === "target" && <path d="M0 0l5 2.5L0 5z" fill={RULES.target.stroke} />}
    </svg>
  );
}

/** A scenario's mark in a legend, as it is drawn in the chart. */
export function LegendMark({ code, asLine }: { code: ScenarioCode; asLine: boolean }) {
  if (code === "target") {
    return (
      <svg aria-hidden="true" width="16" height="11">
        <path d="M0 2l5 3.5L0 9zM16 2l-5 3.5L16 9z" fill={RULES.target.stroke} />
      </svg>
    );
  }
  if (asLine || code === "budget") {
    return (
      <svg aria-hidden="true" width="18" height="11">
        <RuleLine code={code} to="17" y={5.5} />
      </svg>
    );
  }
  return (
    <svg aria-hidden="true" width="12" height="11">
      {code === "actual" && <rect x="1" width="10" height="11" fill="var(--indigo)" />}
      {code === "forecast" && (
        <>
          <rect
            x="1.5"
            y=".5"
            width="9"
            height="10"
            fill="var(--indigo)"
            fillOpacity=".22"
            stroke="var(--indigo)"
            strokeWidth=".6"
          />
          <path
            d="M3.5 3h0M8 3h0M5.8 5.6h0M3.5 8.2h0M8 8.2h0"
            stroke="var(--indigo)"
            strokeWidth="1.5"
            strokeLinecap="round"
          />
        </>
      )}
      {code === "prior-year" && <rect x="4" width="4" height="11" fill="var(--walnut)" fillOpacity=".55" />}
    </svg>
  );
}
