import { formatNumber } from "#core/formats/number-words.ts";
import type { Variance } from "#core/figures/schema.ts";
import { judgementColour } from "../figures/judgement.tsx";
import { COMB_WIDTH, layoutComb } from "./comb-layout.ts";

const HEIGHT = 14;
const SPINE = 3.5;
const TIP = 11;

/** How many tolerances a figure is off its basis, as a comb in the colour of its judgement. */
export function VarianceComb({
  variance: { tolerances, judgement },
}: {
  variance: Pick<Variance, "tolerances" | "judgement">;
}) {
  if (tolerances === null) return <span aria-hidden="true" className="inline-block" style={{ width: COMB_WIDTH }} />;
  const { zero, teeth, hasDot, count } = layoutComb(tolerances);
  const colour = judgementColour(judgement);
  return (
    <svg
      role="img"
      aria-label={combWords(tolerances)}
      width={COMB_WIDTH}
      height={HEIGHT}
      className="inline align-middle"
    >
      <title>{combWords(tolerances)}</title>
      <line x1={zero} x2={zero} y1="0" y2={HEIGHT} stroke="var(--thread)" strokeWidth="1.2" />
      {teeth.length > 0 && (
        <path
          d={`M${zero} ${SPINE}H${teeth.at(-1)}${teeth.map((x) => `M${x} ${SPINE - 0.7}V${TIP}`).join("")}`}
          stroke={colour}
          strokeWidth="1.6"
          fill="none"
        />
      )}
      {hasDot && <circle cx={zero} cy={HEIGHT / 2} r="2.4" fill={colour} />}
      {count && (
        <text x={count.x} y="11" textAnchor={count.anchor} fontSize="10" fill={colour}>
          {count.text}
        </text>
      )}
    </svg>
  );
}

/** The comb for those who hear it. */
function combWords(tolerances: number): string {
  if (tolerances === 0) return "inside its tolerance";
  const many = Math.abs(tolerances);
  return `${formatNumber(many, 0)} ${many === 1 ? "tolerance" : "tolerances"} ${tolerances > 0 ? "above" : "below"}`;
}
