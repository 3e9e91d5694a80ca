import { writeNumber, writePercent, writeSigned, type NumberStyle } from "#core/words/number-words.ts";
import type { WireFigure } from "#contract/figure.ts";
import type { TimeChartAnswer } from "#contract/panels.ts";
import { JudgementMark } from "../../ui/judgement.tsx";
import { ScenarioName, type ScenarioCode } from "../../ui/scenario-mark.tsx";

/** "Apr FY27": tables beside a chart have little room. */
function shortMonth(name: string): string {
  const [month, year] = name.split(" ");
  return `${month!.slice(0, 3)} ${year}`;
}

/** The numbers behind a time chart. */
export function SeriesTable({
  data,
  style,
  deltaStyle,
}: {
  data: TimeChartAnswer;
  style: NumberStyle;
  deltaStyle: NumberStyle;
}) {
  const sides: readonly {
    code: ScenarioCode;
    name: string;
    pick: (p: TimeChartAnswer["points"][number]) => WireFigure;
  }[] = [
    { code: "actual", name: "Actual", pick: (p) => p.actual },
    { code: "forecast", name: data.forecastName ?? "Forecast", pick: (p) => p.forecast },
    { code: "budget", name: "Budget", pick: (p) => p.budget },
    { code: "target", name: "Target", pick: (p) => p.target },
    { code: "prior-year", name: "Prior year", pick: (p) => p.priorYear },
  ];
  const shown = sides.filter(({ pick }) => data.points.some((p) => "value" in pick(p)));
  const text = (figure: WireFigure) => ("value" in figure ? writeNumber(figure.value, style) : "");
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Table of numbers">
      <table className="w-full text-[12.5px]">
        <caption className="pb-2 text-left text-slate">
          {data.kpi.name} in {style.unitName}; Δ {data.basisName} in {deltaStyle.unitName}
        </caption>
        <thead>
          <tr className="align-bottom">
            <th scope="col" className="text-left font-normal text-slate">
              Month
            </th>
            {shown.map(({ code, name }) => (
              <th key={code} scope="col" className="pl-1.5 text-right">
                <ScenarioName code={code} name={name} />
              </th>
            ))}
            <th scope="col" className="pl-2 text-right font-normal text-slate">
              Δ
            </th>
            {data.kpi.unit.kind !== "percent" && (
              <th scope="col" className="pl-2 text-right font-normal text-slate">
                Δ%
              </th>
            )}
            <th scope="col" className="pl-1.5 text-left font-normal text-slate">
              Status
            </th>
          </tr>
        </thead>
        <tbody>
          {data.points.map((point) => (
            <tr key={point.month} className={`border-t border-thread/70 ${point.inSpan ? "" : "text-slate"}`}>
              <th scope="row" className="py-1 text-left font-normal whitespace-nowrap">
                {shortMonth(point.name)}
              </th>
              {shown.map(({ code, pick }) => (
                <td key={code} className="pl-2 text-right">
                  {text(pick(point))}
                </td>
              ))}
              <td className="pl-2 text-right">
                {"value" in point.variance.delta
                  ? writeSigned(point.variance.delta.value, { ...deltaStyle, prefix: "", suffix: "" })
                  : ""}
              </td>
              {data.kpi.unit.kind !== "percent" && (
                <td className="pl-2 text-right">
                  {"value" in point.variance.deltaPercent ? writePercent(point.variance.deltaPercent.value) : ""}
                </td>
              )}
              <td className="pl-1.5">
                <JudgementMark judgement={point.variance.judgement} short />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
