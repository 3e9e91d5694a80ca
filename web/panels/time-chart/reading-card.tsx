import { intervalsAt } from "#core/panels/time-chart/intervals-at.ts";
import {
  writeNumber,
  writeSigned,
  writeSignedPercent,
  writeWithUnit,
  type NumberStyle,
} from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import { writeScore } from "#core/formats/write-score.ts";
import { CardAt } from "../../chart-kit/card-at.tsx";
import { useDyes } from "../../chart-kit/page-dyes.tsx";
import { partDye } from "./part-dye.ts";
import { VarianceComb } from "../../chart-kit/variance-comb.tsx";
import { weighedIn, WeighedMark } from "../../chart-kit/reading.tsx";
import { JudgementMark } from "../../figures/judgement.tsx";
import type { ScenarioCode } from "#core/compare/scenario-code.ts";
import { LegendMark } from "../../figures/scenario-mark.tsx";
import type { SeriesPointAnswer, TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

interface Line {
  readonly code: ScenarioCode;
  readonly name: string;
  readonly figure: Figure;
}

/** The scenarios of a month that have something to say, in the order of the code. */
function linesOf(data: TimeChartAnswer, point: SeriesPointAnswer): Line[] {
  const lines: Line[] = [
    { code: "actual", name: data.actualName, figure: point.actual },
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
  place,
  style,
  rightStyle,
  deltaStyle,
  left,
  width,
}: {
  data: TimeChartAnswer;
  /** The point of the part that is weighed. */
  part: SeriesPointAnswer | undefined;
  point: SeriesPointAnswer;
  /** Its place among the points. */
  place: number;
  style: NumberStyle;
  rightStyle: NumberStyle | null;
  deltaStyle: NumberStyle;
  left: number;
  width: number;
}) {
  const { delta, deltaPercent, judgement } = point.variance;
  if (data.parts.length > 0)
    return (
      <CardAt hit={{ cx: left, cy: 0, r: 0 }} width={width} title={point.name}>
        <PartFigures data={data} place={place} point={point} style={style} />
        <MoreFigures data={data} place={place} style={style} rightStyle={rightStyle} />
      </CardAt>
    );
  return (
    <CardAt hit={{ cx: left, cy: 0, r: 0 }} width={width} title={point.name}>
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
      <MoreFigures data={data} place={place} style={style} rightStyle={rightStyle} />
      <WeighedMark part={weighedIn(data.kpi, point.actual, part?.actual, data.frame.unit)} />
      <div className="mt-2 border-t border-thread pt-1.5">
        {"value" in delta ? (
          <>
            <p className="flex justify-between gap-2">
              <span>
                Δ {point.varianceOf === "forecast" ? "forecast" : shownWord(data)} − {data.basisName}
              </span>
              <span className="font-semibold whitespace-nowrap">{writeSigned(delta.value, deltaStyle)}</span>
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

/** The series of a period, each in its colour, and the whole where they are parts of one. */
function PartFigures({
  data,
  place,
  point,
  style,
}: {
  data: TimeChartAnswer;
  place: number;
  point: SeriesPointAnswer;
  style: NumberStyle;
}) {
  const colourOf = useDyes();
  const isSplit = data.parts.some(({ dimension }) => dimension !== null);
  const whole = "value" in point.actual ? point.actual : point.forecast;
  return (
    <dl className="mt-1.5 grid grid-cols-[1fr_auto] gap-x-3 gap-y-0.5">
      {data.parts.map((part) => {
        const { key, name, at, figures } = part;
        const figure = figures[place]!;
        return (
          <div key={key} className="contents">
            <dt className="flex items-center gap-1.5">
              <span
                aria-hidden="true"
                className="inline-block size-2.5"
                style={{ background: colourOf(partDye(part), at) }}
              />
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
        );
      })}
      {isSplit && "value" in whole && (
        <div className="contents font-semibold">
          <dt>All</dt>
          <dd className="text-right">{writeWithUnit(whole.value, style)}</dd>
        </div>
      )}
    </dl>
  );
}

/** What runs over the actual, what stands at the right, and the growth below. */
function MoreFigures({
  data: { moving, right, strip, ahead, parts, band },
  place,
  style,
  rightStyle,
}: {
  data: TimeChartAnswer;
  place: number;
  style: NumberStyle;
  rightStyle: NumberStyle | null;
}) {
  const growth = strip?.kind.startsWith("growth") ? strip.points[place]?.figure : undefined;
  const lines = [
    moving && {
      name: moving.name,
      figure: moving.figures[place]!,
      text: (value: number) => writeWithUnit(value, style),
    },
    right &&
      rightStyle && {
        name: right.kpi.name,
        figure: right.figures[place]!,
        text: (value: number) => writeWithUnit(value, rightStyle),
      },
    growth &&
      strip && {
        name: strip.name,
        figure: growth,
        text: (value: number) => (strip.isPercent ? writeSignedPercent(value) : writeSigned(value, style)),
      },
  ].flatMap((line) => line || []);
  const [whole] = ahead?.series ?? [];
  const step = ahead ? place - ahead.from : -1;
  const bounds = whole ? intervalsAt(whole, step) : [];
  const sum = step >= 0 ? ahead?.sum?.points[step] : undefined;
  const expected = band?.points[place];
  if (lines.length === 0 && bounds.length === 0 && !expected) return null;
  return (
    <dl className="mt-1.5 grid grid-cols-[1fr_auto] gap-x-3 gap-y-0.5 border-t border-thread pt-1">
      {lines.map(({ name, figure, text }) => (
        <div key={name} className="contents">
          <dt>{name}</dt>
          <dd className="text-right">
            {"value" in figure ? text(figure.value) : <span className="text-slate">{figure.absent}</span>}
          </dd>
        </div>
      ))}
      {sum !== undefined && (
        <div className="contents">
          <dt>Sum of the parts' models</dt>
          <dd className="text-right">{writeWithUnit(sum, style)}</dd>
        </div>
      )}
      {band && expected && (
        <>
          <div className="contents">
            <dt>Expected, {band.level}%</dt>
            <dd className="text-right">
              {writeNumber(expected.lower, style)} – {writeNumber(expected.upper, style)}
            </dd>
          </div>
          {expected.score !== null && (
            <div className="contents">
              <dt>Off by</dt>
              <dd className="text-right">
                {writeScore(expected.score)}
                {expected.isOutside && ", outside"}
              </dd>
            </div>
          )}
        </>
      )}
      {bounds.map(({ level, lower, upper }) => (
        <div key={level} className="contents">
          <dt>
            {level}% between{parts.length > 0 ? ", of all" : ""}
          </dt>
          <dd className="text-right">
            {writeNumber(lower, style)} – {writeNumber(upper, style)}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** What is looked at, inside a sentence. */
function shownWord({ frame, actualName }: TimeChartAnswer): string {
  return frame.shown === undefined ? "actual" : actualName;
}

/** The reading card in one sentence, for those who hear it. */
export function readingWords(
  data: TimeChartAnswer,
  place: number,
  style: NumberStyle,
  deltaStyle: NumberStyle,
): string {
  const point = data.points[place]!;
  if (data.parts.length > 0)
    return `${point.name}: ${data.parts
      .map(({ name, figures }) => {
        const figure = figures[place]!;
        return `${name} ${"value" in figure ? writeWithUnit(figure.value, style) : figure.absent}`;
      })
      .join(", ")}`;
  const parts = linesOf(data, point).map(
    ({ name, figure }) => `${name} ${"value" in figure ? writeWithUnit(figure.value, style) : figure.absent}`,
  );
  const { delta, judgement } = point.variance;
  const { ahead } = data;
  const bounds = ahead?.series[0] ? intervalsAt(ahead.series[0], place - ahead.from) : [];
  const range = bounds.map(
    ({ level, lower, upper }) => `${level}% between ${writeNumber(lower, style)} and ${writeWithUnit(upper, style)}`,
  );
  const expected = data.band?.points[place];
  const usual = expected
    ? [
        `expected between ${writeNumber(expected.lower, style)} and ${writeWithUnit(expected.upper, style)}${expected.isOutside ? ", which it is outside of" : ""}`,
      ]
    : [];
  const variance =
    "value" in delta
      ? `difference to ${data.basisName} ${writeSigned(delta.value, deltaStyle)}${judgement ? `, ${judgement}` : ""}`
      : delta.detail;
  return `${point.name}: ${[...parts, ...range, ...usual].join(", ")}; ${variance}`;
}
