import { seasonTable } from "#core/panels/season/table.ts";
import { deltaStyle, valueStyle, writeWithUnit, type NumberStyle } from "#core/formats/number-words.ts";
import { CardAt } from "../../chart-kit/card-at.tsx";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { WalkedChart } from "../../chart-kit/walked-chart.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { useSize } from "../../ui/use-size.ts";
import { BetterKind } from "../../chart-kit/better-kind.tsx";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { ChartSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { PartMark } from "../../chart-kit/part-mark.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { Against, Plots } from "./marks.tsx";
import { layoutSeason } from "./layout.ts";
import { VIEW_CHOICES } from "./views.ts";
import type { SeasonView, SeasonAnswer } from "#core/panels/season/schema.ts";

const LEAST_HEIGHT = 200;

/** A year against others by month, as a chart or as a table of numbers. */
export default function SeasonPanel(view: PanelProps<"season">) {
  return (
    <PanelSheet
      view={view}
      label="Season"
      table={seasonTable}
      skeleton={<ChartSkeleton label="The season is being calculated" height={160} />}
    >
      {(data, part) => <Season view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

function Season({
  view: { panel, choice, actions },
  data,
  part,
}: {
  view: PanelProps<"season">;
  data: SeasonAnswer;
  part: SeasonAnswer | undefined;
}) {
  const partAt = ({ month, year }: { month: number; year: number }) =>
    part?.years.find(({ key }) => key === data.years[year]!.key)?.values[month];
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const money = data.frame.unit;
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, money);
  const [{ width, height }, holder] = useSize<HTMLDivElement>();
  const drawnHeight = Math.max(LEAST_HEIGHT, height);
  const layout = layoutSeason({ data, width: Math.max(1, width), height: drawnHeight, style });
  const ask = (mark: number) => {
    const { month, year } = layout.marks[mark]!;
    actions.ask(formatFigureAddress(data.kpi.key, "actual", data.years[year]!.months[month]));
  };
  const own = data.years.at(-1)!;
  const lastMonth = own.values.findLastIndex((figure) => "value" in figure);
  const start = layout.marks.findIndex(({ month, year }) => month === lastMonth && year === data.years.length - 1);
  const walk = useMarkWalk(layout.marks.length, Math.max(0, start), {
    onTable: toggleTable,
    onEnter: ask,
    ...(data.view === "small" ? { perRow: 12 } : {}),
  });
  const looked = walk.active === null ? undefined : layout.marks[walk.active];
  const lines = looked ? linesOf(data, looked, style) : [];
  const title = looked ? `${data.monthNames[looked.month]!} ${data.years[looked.year]!.key}` : "";
  return (
    <ChartBody
      words={panel}
      head={
        <span className="flex flex-wrap items-baseline gap-x-1">
          <ChoiceWord
            label="Year"
            words={`${own.key},`}
            choices={data.choices.map((key) => ({ key, name: key }))}
            chosen={own.key}
            onChoose={(year) => actions.choose({ year })}
            className="meaning-word"
          />
          <ChoiceWord
            label="Seen"
            words={VIEW_CHOICES.find(({ key }) => key === data.view)!.name}
            choices={VIEW_CHOICES}
            chosen={data.view}
            onChoose={(view) => actions.choose({ view: view as SeasonView })}
            className="meaning-word"
          />
        </span>
      }
      legend={<Key data={data} />}
      isTable={isTable}
      onTable={toggleTable}
      table={() => seasonTable(data)}
      caption={`${data.kpi.name} in ${style.unitName}`}
      style={style}
      deltaStyle={deltaStyle(data.kpi.unit, data.kpi.decimals, money)}
      money={money}
      refusal={
        data.refusal === null
          ? null
          : {
              title: "No season yet",
              detail: data.refusal,
              better: <BetterKind kind="time-chart" name="a chart over time" kpi={data.kpi.key} />,
            }
      }
      notes={data.notes}
    >
      <div ref={holder} data-fill={LEAST_HEIGHT} className="relative mt-1 flex-1" style={{ minHeight: LEAST_HEIGHT }}>
        <div className="absolute inset-0 overflow-hidden">
          <WalkedChart
            width={width}
            height={Math.max(drawnHeight, ...layout.plots.map(({ plot }) => plot.y + plot.height + 20))}
            label={`${data.headline} ${data.descriptor}. Left and right walk along the months, Enter shows where a figure comes from.`}
            walk={walk}
            words={looked ? `${title}: ${lines.map(({ name, text }) => `${name} ${text}`).join(", ")}` : ""}
            card={
              looked && (
                <CardAt x={looked.band.x + looked.band.width / 2} width={width} title={title}>
                  <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-3">
                    {lines.map(({ name, text, isStrong }) => (
                      <div key={name} className={`contents ${isStrong ? "font-semibold" : ""}`}>
                        <dt>{name}</dt>
                        <dd className="text-right">{text}</dd>
                      </div>
                    ))}
                  </dl>
                  <PartMark
                    kpi={data.kpi}
                    whole={data.years[looked.year]!.values[looked.month]!}
                    part={partAt(looked)}
                    money={money}
                  />
                </CardAt>
              )
            }
          >
            {layout.against ? (
              <Against data={data} against={layout.against} />
            ) : (
              <Plots plots={layout.plots} looked={looked} />
            )}
            {layout.marks.map(({ band }, i) => (
              <rect
                key={i}
                {...band}
                fill="transparent"
                className="cursor-pointer"
                onMouseEnter={() => walk.look(i)}
                onClick={() => ask(i)}
              />
            ))}
          </WalkedChart>
        </div>
      </div>
    </ChartBody>
  );
}

/** What the lines and areas are. */
function Key({ data: { view, years, statistics, next, line } }: { data: SeasonAnswer }) {
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
  data: SeasonAnswer,
  { month, year }: { month: number; year: number },
  style: NumberStyle,
): { name: string; text: string; isStrong: boolean }[] {
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
      ? data.years.flatMap(({ key, isStudied }, i) =>
          isStudied ? [] : [{ name: key, text: written(figureOf(i)), isStrong: false }],
        )
      : []),
    ...(usual
      ? [
          { name: `Average of ${usual.n}`, text: written(usual.mean), isStrong: false },
          { name: "Least", text: written(usual.least), isStrong: false },
          { name: "Most", text: written(usual.most), isStrong: false },
        ]
      : []),
    ...(data.view === "next" && next
      ? [{ name: `${data.next.name}, if like prior years`, text: written(next.mean), isStrong: false }]
      : []),
  ];
}
