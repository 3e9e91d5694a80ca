import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Figure } from "#core/figures/schema.ts";

/** The last months of a KPI as a small line that ends in a square; gaps stay gaps. */
export function Spark({
  figures,
  width = 76,
  height = 20,
}: {
  figures: readonly Figure[];
  width?: number;
  height?: number;
}) {
  const values = figures.map((f) => ("value" in f ? f.value : null));
  const known = values.filter((v): v is number => v !== null);
  if (known.length < 2) return null;
  const x = scaleLinear([0, values.length - 1], [2, width - 4]);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const y = scaleLinear(low === high ? [low - 1, high + 1] : [low, high], [height - 3, 3]);
  const path = line<number | null>()
    .defined((v) => v !== null)
    .x((_, i) => x(i))
    .y((v) => y(v!));
  const last = values.at(-1) ?? null;
  return (
    <svg aria-hidden="true" width={width} height={height} className="align-middle">
      <path d={path(values) ?? ""} fill="none" stroke="var(--indigo)" strokeOpacity=".75" strokeWidth="1.2" />
      {last !== null && <rect x={x(values.length - 1) - 2} y={y(last) - 2} width="4" height="4" fill="var(--indigo)" />}
    </svg>
  );
}
