import type { FormulaTried } from "#contract/kpis.ts";
import { deltaStyle, valueStyle, writePercent, writeSigned, writeWithUnit } from "#core/formats/number-words.ts";
import { TrendChart } from "../chart-kit/trend-chart.tsx";
import { Absent } from "../figures/number.tsx";
import { numbers, PlainTable } from "../ui/table.tsx";
import { useSize } from "../ui/use-size.ts";
import type { KpiUnit } from "#core/figures/schema.ts";

type Tried = Exclude<FormulaTried, { problem: unknown }>;

/** What a formula gives: this month, to date, against the budget, and its last 24 months. */
export function FormulaPreview({ tried, unit, decimals }: { tried: Tried; unit: KpiUnit; decimals: number }) {
  const [{ width }, holder] = useSize();
  const style = valueStyle(unit, decimals, tried.frame.unit);
  const delta = deltaStyle(unit, decimals, tried.frame.unit);
  const { words } = tried.frame;
  const hasBudget = tried.points.some((p) => "value" in p.budget);
  return (
    <section aria-label="Result" className="rounded-md border border-thread bg-panel px-4 py-3">
      <p className="text-[13px] text-slate">
        {style.unitName}, for {words.scope}, against {words.basis}
      </p>
      <PlainTable heads={["", numbers(words.shown), numbers(words.basis), numbers("Δ"), numbers("Δ%")]}>
        {tried.figures.map((figure) => (
          <tr key={figure.name} className="border-t border-thread/60">
            <th scope="row" className="py-1 pr-4 text-left font-normal">
              <span className="font-semibold">{figure.name}</span>
              {figure.name !== figure.months && <span className="text-slate"> {figure.months}</span>}
            </th>
            <td className="text-right font-semibold">
              {"value" in figure.actual ? writeWithUnit(figure.actual.value, style) : <Absent figure={figure.actual} />}
            </td>
            <td className="pl-3 text-right">
              {"value" in figure.basis ? writeWithUnit(figure.basis.value, style) : <Absent figure={figure.basis} />}
            </td>
            <td className="pl-3 text-right">
              {"value" in figure.variance.delta ? (
                writeSigned(figure.variance.delta.value, delta)
              ) : (
                <Absent figure={figure.variance.delta} />
              )}
            </td>
            <td className="pl-3 text-right">
              {unit.kind !== "percent" && "value" in figure.variance.deltaPercent
                ? writePercent(figure.variance.deltaPercent.value)
                : ""}
            </td>
          </tr>
        ))}
      </PlainTable>
      {tried.figures.map(
        ({ name, actual }) =>
          "absent" in actual && (
            <p key={name} className="mt-2 border-l-2 border-weld pl-3 text-[13px]">
              {name}: {actual.detail}
            </p>
          ),
      )}
      <h2 className="mt-4 font-serif text-[15px]">The last 24 months</h2>
      <p className="mb-1 flex gap-4 text-[12px] text-slate">
        <span className="flex items-center gap-1.5">
          <span aria-hidden="true" className="inline-block size-2.5 bg-accent" /> Actual
        </span>
        {hasBudget && (
          <span className="flex items-center gap-1.5">
            <span aria-hidden="true" className="inline-block w-4 border-t-2 border-dashed border-weld" /> Budget
          </span>
        )}
      </p>
      <div ref={holder}>
        <TrendChart
          points={tried.points}
          style={style}
          width={width}
          label={`By month, ${tried.points[0]?.name ?? ""} to ${tried.points.at(-1)?.name ?? ""}, in ${style.unitName}`}
        />
      </div>
      {tried.notes.length > 0 && (
        <ul className="mt-2 space-y-1 text-[12.5px] text-slate">
          {tried.notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
