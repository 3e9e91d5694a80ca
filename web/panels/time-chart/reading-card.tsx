import { writeSigned, writeSignedPercent, writeWithUnit, type NumberStyle } from "#core/words/number-words.ts";
import type { WireFigure } from "#contract/figure.ts";
import type { SeriesPointAnswer, TimeChartAnswer } from "#core/panels/time-chart/compute.ts";
import { CardAt } from "../../charts/card-at.tsx";
import { VarianceComb } from "../../charts/variance-comb.tsx";
import { PartMark } from "../part-mark.tsx";
import { JudgementMark } from "../../ui/judgement.tsx";
import { LegendMark, type ScenarioCode } from "../../ui/scenario-mark.tsx";

interface Line {
  readonly code: ScenarioCode;
  readonly name: string;
  readonly figure: WireFigure;
}

/** The scenarios of a month that have something to say, in the order of the code. */
function linesOf(data: TimeChartAnswer, point: SeriesPointAnswer): Line[] {
  const lines: Line[] = [
    { code: "actual", name: "Actual", figure: point.actual },
    { code: "forecast", name: data.forecastName ?? "Forecast", figure: point.forecast },
    { code: "budget", name: "Budget", figure: point.budget },
    { code: "target", name: "Target", figure: point.target },
    { code: "prior-year", name: "Prior year", figure: point.priorYear },
  ];
  return lines.filter(({ code, figure }) => "value" in figure || (code === "actual" && !("value" in point.forecast)));
}

/** A month's reading card: each scenario, Δ, Δ%, judgement, and what is missing. */
export function ReadingCard({
  data,
  part,
  point,
  style,
  deltaStyle,
  left,
  width,
}: {
  data: TimeChartAnswer;
  /** The point of the part that is weighed. */
  part: SeriesPointAnswer | undefined;
  point: SeriesPointAnswer;
  style: NumberStyle;
  deltaStyle: NumberStyle;
  left: number;
  width: number;
}) {
  const { delta, deltaPercent, judgement } = point.variance;
  return (
    <CardAt x={left} width={width} title={point.name}>
      <dl className="mt-1.5 grid grid-cols-[1fr_auto] gap-x-3 gap-y-0.5">
        {linesOf(data, point).map(({ code, name, figure }) => (
          <div key={code} className="contents">
            <dt className="flex items-center gap-1.5">
              <span className="grid w-[18px] place-items-center">
                <LegendMark code={code} asLine={false} />
              </span>
              {name}
            </dt>
            <dd className="text-right">
              {"value" in figure ? (
                writeWithUnit(figure.value, style)
              ) : (
                <span className="text-slate">{figure.absent}</span>
              )}
            </dd>
          </div>
        ))}
      </dl>
      {part && <PartMark kpi={data.kpi} whole={point.actual} part={part.actual} money={data.frame.unit} />}
      <div className="mt-2 border-t border-thread pt-1.5">
        {"value" in delta ? (
          <>
            <p className="flex justify-between gap-2">
              <span>
                Δ {point.varianceOf === "forecast" ? "forecast" : "actual"} − {data.basisName}
              </span>
              <span className="font-semibold">{writeSigned(delta.value, deltaStyle)}</span>
            </p>
            <p className="flex justify-between gap-2">
              <JudgementMark judgement={judgement} />
              <span className="inline-flex items-center gap-1">
                <VarianceComb variance={point.variance} />
                {"value" in deltaPercent && data.kpi.unit.kind !== "percent"
                  ? writeSignedPercent(deltaPercent.value)
                  : ""}
              </span>
            </p>
          </>
        ) : (
          <p className="text-slate">{delta.detail}</p>
        )}
      </div>
    </CardAt>
  );
}

/** The reading card in one sentence, for those who hear it. */
export function readingWords(
  data: TimeChartAnswer,
  point: SeriesPointAnswer,
  style: NumberStyle,
  deltaStyle: NumberStyle,
): string {
  const parts = linesOf(data, point).map(
    ({ name, figure }) => `${name} ${"value" in figure ? writeWithUnit(figure.value, style) : figure.absent}`,
  );
  const { delta, judgement } = point.variance;
  const variance =
    "value" in delta
      ? `difference to ${data.basisName} ${writeSigned(delta.value, deltaStyle)}${judgement ? `, ${judgement}` : ""}`
      : delta.detail;
  return `${point.name}: ${parts.join(", ")}; ${variance}`;
}
