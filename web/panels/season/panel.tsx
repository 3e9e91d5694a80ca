import type { SeasonAnswer, SeasonView } from "#core/panels/season/schema.ts";
import { seasonTable } from "#core/panels/season/table.ts";
import { writeWithUnit } from "#core/formats/number-words.ts";
import { BetterKind } from "../../chart-kit/better-kind.tsx";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { chartPanel } from "../../chart-kit/chart-panel.tsx";
import type { ChartMark } from "../../chart-kit/mark.ts";
import type { Own } from "../../chart-kit/own.ts";
import { weighedIn, type Reading, type ReadingLine } from "../../chart-kit/reading.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { layoutSeason, type SeasonLayout, type SeasonMark } from "./layout.ts";
import { Against, Plots } from "./marks.tsx";
import { VIEW_CHOICES } from "./views.ts";

type OwnSeason = Own<"season">;

/** A year against others by month. */
export default chartPanel<"season", SeasonLayout>({
  label: "Season",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}`,
  table: seasonTable,
  around,
  layout: ({ data, part, style }, { width, height }) => layoutSeason({ data, part, width, height, style }),
  marks: (own, { marks }) => marks.map((mark) => markOf(own, mark)),
  Drawing: ({ own: { data }, layout, active }) =>
    layout.against ? (
      <Against data={data} against={layout.against} />
    ) : (
      <Plots plots={layout.plots} looked={active === null ? undefined : layout.marks[active]} />
    ),
  keys: "Left and right walk along the months, Enter shows where a figure comes from.",
  perRow: ({ data }) => (data.view === "small" ? 12 : undefined),
  start: ({ data }, { marks }) => {
    const last = data.years.at(-1)!.values.findLastIndex((figure) => "value" in figure);
    return Math.max(
      0,
      marks.findIndex(({ month, year }) => month === last && year === data.years.length - 1),
    );
  },
});

function around({ data, actions }: OwnSeason): Around {
  const { key } = data.years.at(-1)!;
  return {
    head: (
      <span className="flex flex-wrap items-baseline gap-x-1">
        <ChoiceWord
          label="Year"
          words={`${key},`}
          choices={data.choices.map((year) => ({ key: year, name: year }))}
          chosen={key}
          onChoose={(year) => actions.choose({ year })}
          className="meaning-word"
        />
        <ChoiceWord
          label="Seen"
          words={VIEW_CHOICES.find((view) => view.key === data.view)!.name}
          choices={VIEW_CHOICES}
          chosen={data.view}
          onChoose={(view) => actions.choose({ view: view as SeasonView })}
          className="meaning-word"
        />
      </span>
    ),
    legend: <SeasonKey data={data} />,
    refusal:
      data.refusal === null
        ? null
        : {
            title: "No season yet",
            detail: data.refusal,
            better: <BetterKind kind="time-chart" name="a chart over time" kpi={data.kpi.key} />,
          },
  };
}

function markOf(own: OwnSeason, mark: SeasonMark): ChartMark {
  const { data, part, money } = own;
  const { month, year, band } = mark;
  const { key, months, values } = data.years[year]!;
  return {
    hit: band,
    source: { figure: formatFigureAddress(data.kpi.key, "actual", months[month]) },
    reading: (): Reading => ({
      title: `${data.monthNames[month]!} ${key}`,
      lines: linesOf(own, mark),
      weighed: [weighedIn(data.kpi, values[month]!, part?.years.find((one) => one.key === key)?.values[month], money)],
    }),
  };
}

/** What the lines and areas are. */
function SeasonKey({ data: { view, years, statistics, next, line } }: { data: SeasonAnswer }) {
  const n = Math.max(0, ...statistics.map((month) => month?.n ?? 0));
  const nNext = Math.max(0, ...next.months.map((month) => month?.n ?? 0));
  const words =
    view === "overlay"
      ? years.length > 1
        ? `thin: ${years[0]!.key}${years.length > 2 ? `–${years.at(-2)!.key}, the older the paler` : ""}`
        : ""
      : view === "against"
        ? line
          ? `one dot a month; line: r ${line.r.toFixed(2).replace("-", "−")}, n ${line.n}`
          : "one dot a month"
        : view === "next"
          ? `${next.name}: average and range of ${nNext} year${nNext === 1 ? "" : "s"}; the line: ${years.at(-1)!.key}`
          : view === "small"
            ? `one scale; thin: the average of ${n}`
            : `range and average of ${n} year${n === 1 ? "" : "s"}`;
  return <span className="text-[12.5px] text-slate">{words}</span>;
}

function linesOf(
  { data, style }: OwnSeason,
  { month, year }: { readonly month: number; readonly year: number },
): ReadingLine[] {
  const written = (value: number | undefined) => (value === undefined ? "none" : writeWithUnit(value, style));
  const figureOf = (at: number) => {
    const figure = data.years[at]!.values[month]!;
    return "value" in figure ? figure.value : undefined;
  };
  const usual = data.statistics[month];
  const next = data.next.months[month];
  return [
    { name: data.years[year]!.key, text: written(figureOf(year)), isStrong: true },
    ...(data.view === "overlay"
      ? data.years.flatMap(({ key, isStudied }, i) => (isStudied ? [] : [{ name: key, text: written(figureOf(i)) }]))
      : []),
    ...(usual
      ? [
          { name: `Average of ${usual.n}`, text: written(usual.mean) },
          { name: "Least", text: written(usual.least) },
          { name: "Most", text: written(usual.most) },
        ]
      : []),
    ...(data.view === "next" && next
      ? [{ name: `${data.next.name}, if like prior years`, text: written(next.mean) }]
      : []),
  ];
}
