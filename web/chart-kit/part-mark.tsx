import { partOf } from "#core/panels/parts/part-of.ts";
import { valueStyle, writePercent, writeWithUnit, type MoneyUnit } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import type { KpiHead } from "#core/panels/parts/schema.ts";

/** The part of what is weighed in a figure: a bar with its percent, or its own figure where a share says nothing. */
export function PartMark({
  kpi,
  whole,
  part,
  money,
}: {
  kpi: Pick<KpiHead, "unit" | "decimals">;
  whole: Figure;
  part: Figure | undefined;
  money: MoneyUnit;
}) {
  const of = partOf(kpi.unit, whole, part);
  if (!of) return null;
  const text =
    of.is === "share" ? writePercent(of.share) : writeWithUnit(of.value, valueStyle(kpi.unit, kpi.decimals, money));
  return (
    <span className="flex items-center justify-end gap-1.5 text-[11.5px] text-slate" title={`Selected part: ${text}`}>
      {of.is === "share" && (
        <span aria-hidden="true" className="inline-block h-[5px] w-10 bg-indigo/25">
          <span className="block h-full bg-indigo" style={{ width: `${of.share * 100}%` }} />
        </span>
      )}
      {text}
    </span>
  );
}
