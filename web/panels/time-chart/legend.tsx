import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { intervalsAt } from "#core/panels/time-chart/intervals-at.ts";
import { listed } from "#core/formats/listed.ts";
import { OutsideSign, RangeSign } from "../../chart-kit/outside-mark.tsx";
import { DyeMark } from "../../chart-kit/page-dyes.tsx";
import type { ScenarioCode } from "#core/compare/scenario-code.ts";
import { LegendMark } from "../../figures/scenario-mark.tsx";
import { partDye } from "./part-dye.ts";
import { pickHandlers } from "../../chart-kit/mark.ts";
import { MOVING_COLOUR, RIGHT_COLOUR, TREND_COLOUR } from "./marks.tsx";
import type { ChartPart, TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** What is drawn, by colour and line: scenarios or parts, the selected part, overlays, the fan. */
export function ChartLegend({
  data,
  asLine,
  shows,
  hasPart,
  isFaded,
  pick,
}: {
  data: TimeChartAnswer;
  asLine: boolean;
  /** The scenarios that are drawn; all where nothing is said. */
  shows: readonly ScenarioCode[] | null;
  /** Whether the weighed part is drawn too. */
  hasPart: boolean;
  isFaded: (part: ChartPart) => boolean;
  pick: PanelProps<"time-chart">["actions"]["pick"];
}) {
  if (data.parts.length > 0)
    return (
      <ul className="flex flex-wrap gap-x-3 gap-y-0.5 text-[12.5px]">
        {data.parts.map((part) => (
          <li key={part.key}>
            <PartName part={part} isFaded={isFaded(part)} pick={pick} />
          </li>
        ))}
        <OverlayNames data={data} />
        {asLine && <IntervalName data={data} />}
      </ul>
    );
  const has = (pick: (p: TimeChartAnswer["points"][number]) => object) => data.points.some((p) => "value" in pick(p));
  const entries: { code: ScenarioCode; name: string; isThere: boolean }[] = [
    { code: "actual", name: data.actualName, isThere: has((p) => p.actual) },
    { code: "forecast", name: data.forecastName ?? "Forecast", isThere: has((p) => p.forecast) },
    { code: "budget", name: "Budget", isThere: has((p) => p.budget) },
    { code: "target", name: "Target", isThere: has((p) => p.target) },
    { code: "prior-year", name: "Prior year", isThere: has((p) => p.priorYear) },
  ];
  return (
    <ul className="flex flex-wrap gap-x-3.5 gap-y-1 text-[12.5px]">
      {entries
        .filter((e) => e.isThere && (shows === null || shows.includes(e.code)))
        .map((e) => (
          <li key={e.code} className="flex items-center gap-1.5">
            <LegendMark code={e.code} asLine={asLine} />
            {e.name}
          </li>
        ))}
      {hasPart && (
        <li className="flex items-center gap-1.5">
          <svg aria-hidden="true" width="12" height="11">
            {asLine ? (
              <path d="M0 5.5h12" stroke="var(--indigo)" strokeOpacity=".7" strokeWidth="1" />
            ) : (
              <rect width="11" height="11" fill="var(--indigo)" />
            )}
          </svg>
          selected part
        </li>
      )}
      {shows === null && <OverlayNames data={data} />}
      <IntervalName data={data} />
    </ul>
  );
}

/** What the fan holds. */
function IntervalName({ data: { ahead } }: { data: TimeChartAnswer }) {
  const whole = ahead?.series[0];
  if (!whole) return null;
  const levels = intervalsAt(whole, 0).map(({ level }) => `${level}%`);
  if (levels.length === 0) return null;
  return (
    <li className="flex items-center gap-1.5">
      <svg aria-hidden="true" width="14" height="11" fill="var(--indigo)">
        <rect width="14" height="11" fillOpacity=".17" />
        <rect y="3" width="14" height="5" fillOpacity=".25" />
      </svg>
      holds {listed(levels)} of what comes
    </li>
  );
}

/** A series by its colour; a member's narrows the page. */
function PartName({
  part,
  isFaded,
  pick,
}: {
  part: ChartPart;
  isFaded: boolean;
  pick: PanelProps<"time-chart">["actions"]["pick"];
}) {
  const { at, name, dimension, member } = part;
  return (
    <span className={`flex min-h-[24px] items-center gap-1.5 ${isFaded ? "text-slate" : ""}`}>
      <DyeMark of={partDye(part)} at={at} name={name} isFaded={isFaded} />
      {!member || dimension === null || !pick ? (
        name
      ) : (
        <button
          type="button"
          className="min-h-[24px] hover:underline"
          {...pickHandlers(pick, { dimension, member: member.key, name })}
        >
          {name}
        </button>
      )}
    </span>
  );
}

function OverlayNames({ data: { moving, trend, right, band } }: { data: TimeChartAnswer }) {
  const lines = [
    moving && { key: "moving", colour: MOVING_COLOUR, dash: undefined, words: moving.name },
    trend && { key: "trend", colour: TREND_COLOUR, dash: "6 3", words: `Trend: ${trend.words}` },
    right && { key: "right", colour: RIGHT_COLOUR, dash: undefined, words: `${right.kpi.name}, at the right` },
  ].flatMap((line) => line ?? []);
  return (
    <>
      {lines.map(({ key, colour, dash, words }) => (
        <li key={key} className="flex items-center gap-1.5">
          <svg aria-hidden="true" width="16" height="11">
            <path d="M0 5.5h16" stroke={colour} strokeWidth="1.8" strokeDasharray={dash} />
          </svg>
          {words}
        </li>
      ))}
      {band && (
        <li className="flex items-center gap-1.5">
          <RangeSign />
          expected, {band.level}%
        </li>
      )}
      {band?.points.some((point) => point?.isOutside) && (
        <li className="flex items-center gap-1.5">
          <OutsideSign />
          outside
        </li>
      )}
    </>
  );
}
