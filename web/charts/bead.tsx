import { judgementColour } from "../ui/judgement.tsx";
import type { WireVariance } from "#contract/figure.ts";

/** A percent variance as a short thread with a square bead, from a zero line all rows share. */
export function Bead({
  fraction,
  limit,
  judgement,
  width = 64,
}: {
  fraction: number;
  limit: number;
  judgement: WireVariance["judgement"];
  width?: number;
}) {
  const middle = width / 2;
  const clipped = Math.abs(fraction) > limit;
  const reach = (Math.min(Math.abs(fraction), limit) / limit) * (middle - 6);
  const x = middle + Math.sign(fraction) * reach;
  const colour = judgementColour(judgement);
  return (
    <svg aria-hidden="true" width={width} height="14" className="align-middle">
      <line x1={middle} x2={middle} y1="0" y2="14" stroke="var(--thread)" />
      <line x1={middle} x2={x} y1="7" y2="7" stroke={colour} strokeWidth="1.4" />
      {clipped && <path d={`M${x - Math.sign(fraction) * 8} 3l2 8`} stroke="var(--panel)" strokeWidth="2.5" />}
      <rect x={x - 3} y="4" width="6" height="6" fill={colour} />
    </svg>
  );
}
