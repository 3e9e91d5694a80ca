import { area, line } from "d3";
import { RANGE_GRAINS, type RangeGrain } from "#core/ahead/settings.ts";
import { expectedRangeTable } from "#core/panels/expected-range/table.ts";
import { deltaStyle, valueStyle, writeNumber, writeWithUnit, type NumberStyle } from "#core/formats/number-words.ts";
import { writeScore } from "#core/formats/write-score.ts";
import { CardAt } from "../../chart-kit/card-at.tsx";
import { OutsideMark, OutsideSign, RangeSign } from "../../chart-kit/outside-mark.tsx";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { ValueAxis } from "../../chart-kit/value-axis.tsx";
import { WalkedChart } from "../../chart-kit/walked-chart.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { FilledPlace } from "../../chart-kit/filled-place.tsx";
import { useSize } from "../../ui/use-size.ts";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { ChartSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { Events } from "./events.tsx";
import { layoutRange, type RangeLayout, type RangeMark } from "./layout.ts";
import type { ExpectedRangeAnswer, RangePointAnswer } from "#core/panels/expected-range/schema.ts";

const LEAST_HEIGHT = 180;

/** A KPI's actual in its expected range, with what lies outside named and dated, or as a table of numbers. */
export default function ExpectedRangePanel(view: PanelProps<"expected-range">) {
  return (
    <PanelSheet
      view={view}
      label="Expected range"
      table={expectedRangeTable}
      skeleton={<ChartSkeleton label="The range is being calculated" height={160} />}
    >
      {(data) => <Range view={view} data={data} />}
    </PanelSheet>
  );
}

function Range({
  view: { panel, choice, actions },
  data,
}: {
  view: PanelProps<"expected-range">;
  data: ExpectedRangeAnswer;
}) {
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const money = data.frame.unit;
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, money);
  const [{ width, height }, holder] = useSize<HTMLDivElement>();
  const drawnHeight = Math.max(LEAST_HEIGHT, height);
  const layout = layoutRange({ data, width: Math.max(1, width), height: drawnHeight, style });
  const ask = (mark: number) => actions.ask(formatFigureAddress(data.kpi.key, "actual", data.points[mark]!.months));
  const walk = useMarkWalk(layout.marks.length, Math.max(0, layout.marks.length - 1), {
    onTable: toggleTable,
    onEnter: ask,
  });
  const looked = walk.active === null ? undefined : data.points[walk.active];
  return (
    <ChartBody
      words={panel}
      head={
        <ChoiceWord
          label="By"
          words={`by ${data.grain}`}
          choices={RANGE_GRAINS.map((key) => ({ key, name: `by ${key}` }))}
          chosen={data.grain}
          onChoose={(grain) => actions.choose({ grain: grain as RangeGrain, last: undefined })}
          className="meaning-word"
        />
      }
      legend={<Legend data={data} />}
      isTable={isTable}
      onTable={toggleTable}
      table={() => expectedRangeTable(data)}
      caption={`${data.kpi.name} in ${style.unitName}`}
      style={style}
      deltaStyle={deltaStyle(data.kpi.unit, data.kpi.decimals, money)}
      money={money}
      refusal={data.notFitted === null ? null : { title: "No expected range yet", detail: data.notFitted }}
      foot={<Events data={data} pick={actions.pick} />}
      notes={data.notes}
    >
      <FilledPlace holder={holder} least={LEAST_HEIGHT}>
        <WalkedChart
          width={width}
          height={drawnHeight}
          label={`${data.headline} ${data.descriptor}. Left and right walk along the periods, Enter shows where a figure comes from.`}
          walk={walk}
          words={looked ? wordsOf(looked, style) : ""}
          card={
            looked && (
              <CardAt x={layout.marks[walk.active!]!.x} width={width} title={looked.name}>
                <PointFigures point={looked} level={data.level} style={style} />
              </CardAt>
            )
          }
        >
          <Drawing layout={layout} />
          {layout.marks.map((mark, i) => (
            <rect
              key={data.points[i]!.period}
              {...mark.band}
              fill={walk.active === i ? "var(--chosen)" : "transparent"}
              fillOpacity={walk.active === i ? 0.5 : 0}
              className="cursor-pointer"
              onMouseEnter={() => walk.look(i)}
              onClick={() => ask(i)}
            />
          ))}
        </WalkedChart>
      </FilledPlace>
    </ChartBody>
  );
}

const band = area<RangeMark>()
  .defined(({ range }) => range !== null)
  .x(({ x }) => x)
  .y0(({ range }) => range!.bottom)
  .y1(({ range }) => range!.top);
const middle = line<RangeMark>()
  .defined(({ range }) => range !== null)
  .x(({ x }) => x)
  .y(({ range }) => range!.expected);
const actual = line<RangeMark>()
  .defined(({ seen }) => seen !== null)
  .x(({ x }) => x)
  .y(({ seen }) => seen!.y);

function Drawing({ layout: { marks, events, scale, plot, axisY } }: { layout: RangeLayout }) {
  return (
    <>
      {events.map(({ x, width, centre, isKnown }, i) => (
        <g key={i} stroke={isKnown ? "var(--slate)" : "var(--weld)"} fill={isKnown ? "var(--slate)" : "var(--weld)"}>
          <rect x={x} width={width} y={plot.y} height={plot.height} stroke="none" fillOpacity={isKnown ? 0.08 : 0.14} />
          <circle cx={centre} cy={11} r="8" fillOpacity=".25" />
          <text x={centre} y={14.5} textAnchor="middle" stroke="none" fill="var(--ink)" className="text-[10.5px]">
            {i + 1}
          </text>
        </g>
      ))}
      <ValueAxis scale={scale} plot={plot} right={plot.x + plot.width} />
      <path d={band([...marks]) ?? ""} fill="var(--indigo)" fillOpacity=".14" />
      <path d={middle([...marks]) ?? ""} fill="none" stroke="var(--indigo)" strokeOpacity=".6" strokeDasharray="1 4" />
      <path d={actual([...marks]) ?? ""} fill="none" stroke="var(--indigo)" strokeWidth="1.8" />
      {marks.map(({ seen, isOutside, x }) => seen && isOutside && <OutsideMark key={x} x={seen.x} y={seen.y} />)}
      {marks.map(
        ({ label, x }) =>
          label !== null && (
            <text key={x} x={x} y={axisY} textAnchor="middle" fill="var(--slate)">
              {label}
            </text>
          ),
      )}
    </>
  );
}

function Legend({ data: { level, points } }: { data: ExpectedRangeAnswer }) {
  return (
    <ul className="flex flex-wrap gap-x-3.5 gap-y-1 text-[12.5px]">
      <li className="flex items-center gap-1.5">
        <svg aria-hidden="true" width="16" height="11">
          <path d="M0 5.5h16" stroke="var(--indigo)" strokeWidth="1.8" />
        </svg>
        Actual
      </li>
      {points.some(({ lower }) => lower !== null) && (
        <li className="flex items-center gap-1.5">
          <RangeSign />
          expected, {level}%
        </li>
      )}
      {points.some(({ isOutside }) => isOutside) && (
        <li className="flex items-center gap-1.5">
          <OutsideSign />
          outside
        </li>
      )}
    </ul>
  );
}

function PointFigures({
  point: { value, expected, lower, upper, score, isOutside },
  level,
  style,
}: {
  point: RangePointAnswer;
  level: number;
  style: NumberStyle;
}) {
  const rows = [
    ["Actual", value === null ? "none" : writeWithUnit(value, style)],
    ...(expected === null || lower === null || upper === null
      ? [["Expected", "still being calculated"]]
      : [
          ["Expected", writeWithUnit(expected, style)],
          [`${level}% between`, `${writeNumber(lower, style)} – ${writeNumber(upper, style)}`],
          ["Off by", score === null ? "none" : `${writeScore(score)}${isOutside ? ", outside" : ""}`],
        ]),
  ];
  return (
    <dl className="mt-1.5 grid grid-cols-[1fr_auto] gap-x-3 gap-y-0.5">
      {rows.map(([name, text]) => (
        <div key={name} className="contents">
          <dt>{name}</dt>
          <dd className="text-right">{text}</dd>
        </div>
      ))}
    </dl>
  );
}

function wordsOf(
  { name, value, expected, lower, upper, score, isOutside }: RangePointAnswer,
  style: NumberStyle,
): string {
  const seen = value === null ? "no figure" : writeWithUnit(value, style);
  if (expected === null || lower === null || upper === null) return `${name}: ${seen}`;
  const off = score === null ? "" : `, ${writeScore(score)}${isOutside ? ", outside the range" : ""}`;
  return `${name}: ${seen}, expected ${writeWithUnit(expected, style)}, between ${writeNumber(lower, style)} and ${writeWithUnit(upper, style)}${off}`;
}
