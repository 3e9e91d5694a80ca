import { RANGE_GRAINS, type RangeGrain } from "#core/ahead/settings.ts";
import type { ExpectedRangeAnswer, RangePointAnswer } from "#core/panels/expected-range/schema.ts";
import { expectedRangeTable } from "#core/panels/expected-range/table.ts";
import { writeNumber, writeWithUnit } from "#core/formats/number-words.ts";
import { writeScore } from "#core/formats/write-score.ts";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { chartPanel } from "../../chart-kit/chart-panel.tsx";
import { Legend } from "../../chart-kit/legend.tsx";
import type { ChartMark } from "../../chart-kit/mark.ts";
import { OutsideSign, RangeSign } from "../../chart-kit/outside-mark.tsx";
import type { Own } from "../../chart-kit/own.ts";
import { weighedIn, type Reading, type ReadingLine } from "../../chart-kit/reading.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { RangeDrawing } from "./drawing.tsx";
import { Events } from "./events.tsx";
import { layoutRange, type RangeLayout } from "./layout.ts";

type OwnRange = Own<"expected-range">;

/** A KPI's actual in its expected range, with what lies outside named and dated. */
export default chartPanel<"expected-range", RangeLayout>({
  label: "Expected range",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}`,
  table: expectedRangeTable,
  around,
  layout: ({ data, part, style }, { width, height }) => layoutRange({ data, part, width, height, style }),
  marks: (own, { marks }) => marks.map(({ band }, i) => markOf(own, own.data.points[i]!, band)),
  Drawing: ({ layout, active }) => <RangeDrawing layout={layout} active={active} />,
  keys: "Left and right walk along the periods, Enter shows where a figure comes from.",
  // The last period is what is asked of first.
  start: (_, { marks }) => Math.max(0, marks.length - 1),
});

function around({ data, actions }: OwnRange): Around {
  return {
    head: (
      <ChoiceWord
        label="By"
        words={`by ${data.grain}`}
        choices={RANGE_GRAINS.map((key) => ({ key, name: `by ${key}` }))}
        chosen={data.grain}
        onChoose={(grain) => actions.choose({ grain: grain as RangeGrain, last: undefined })}
        className="meaning-word"
      />
    ),
    legend: <Legend entries={legendOf(data)} />,
    foot: <Events data={data} pick={actions.pick} />,
    refusal: data.notFitted === null ? null : { title: "No expected range yet", detail: data.notFitted },
  };
}

function legendOf({ level, points }: ExpectedRangeAnswer): Parameters<typeof Legend>[0]["entries"] {
  return [
    { key: "actual", sign: <ActualSign />, name: "Actual" },
    ...(points.some(({ lower }) => lower !== null)
      ? [{ key: "range", sign: <RangeSign />, name: `expected, ${level}%` }]
      : []),
    ...(points.some(({ isOutside }) => isOutside) ? [{ key: "outside", sign: <OutsideSign />, name: "outside" }] : []),
  ];
}

function ActualSign() {
  return (
    <svg aria-hidden="true" width="16" height="11">
      <path d="M0 5.5h16" stroke="var(--indigo)" strokeWidth="1.8" />
    </svg>
  );
}

function markOf(own: OwnRange, point: RangePointAnswer, band: RangeLayout["marks"][number]["band"]): ChartMark {
  return {
    hit: band,
    source: { figure: formatFigureAddress(own.data.kpi.key, "actual", point.months) },
    reading: () => readingOf(own, point),
  };
}

function readingOf({ data, part, style, money }: OwnRange, point: RangePointAnswer): Reading {
  const { period, name, value, expected, lower, upper, score, isOutside } = point;
  const own = part?.points.find((one) => one.period === period)?.value ?? null;
  const isKnown = expected !== null && lower !== null && upper !== null;
  const off = score === null ? "none" : `${writeScore(score)}${isOutside ? ", outside" : ""}`;
  const range: ReadingLine[] = isKnown
    ? [
        { name: "Expected", text: writeWithUnit(expected, style) },
        { name: `${data.level}% between`, text: `${writeNumber(lower, style)} – ${writeNumber(upper, style)}` },
        { name: "Off by", text: off },
      ]
    : [{ name: "Expected", text: "still being calculated" }];
  return {
    title: name,
    lines: [{ name: "Actual", text: value === null ? "none" : writeWithUnit(value, style), isStrong: true }, ...range],
    weighed: [value === null || own === null ? null : weighedIn(data.kpi, { value }, { value: own }, money)],
  };
}
