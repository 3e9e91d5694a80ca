import { useId } from "react";
import { outlookTable } from "#core/panels/outlook/table.ts";
import type { OutlookAnswer, OutlookRow } from "#core/panels/outlook/schema.ts";
import { partOf } from "#core/panels/parts/part-of.ts";
import { LATEST } from "#core/formula/outlook-source.ts";
import {
  isWrittenZero,
  writeNumber,
  writeSignedPercent,
  writeWithUnit,
  type NumberStyle,
} from "#core/formats/number-words.ts";
import { figurePanel } from "../../chart-kit/figure-panel.tsx";
import { Legend } from "../../chart-kit/legend.tsx";
import type { Own } from "../../chart-kit/own.ts";
import { weighedIn, WeighedMark } from "../../chart-kit/reading.tsx";
import { VarianceComb } from "../../chart-kit/variance-comb.tsx";
import { WovenGrain } from "../../chart-kit/woven-grain.tsx";
import { useFrameParams } from "../../frame/frame-params.ts";
import { JudgementMark } from "../../figures/judgement.tsx";
import { LegendMark, ScenarioName } from "../../figures/scenario-mark.tsx";
import { useSize } from "../../ui/use-size.ts";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";

type OwnOutlook = Own<"outlook">;

/** Where a KPI ends the year, by every source side by side. */
export default figurePanel<"outlook">({
  label: "Outlook",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}, full year`,
  table: outlookTable,
  around: ({ data }) => ({
    legend: <Legend entries={legendOf(data)} />,
    refusal: data.rows.some(({ figure }) => "value" in figure)
      ? null
      : { title: "No outlook for the year", detail: data.notes[0] ?? "No source has this KPI." },
  }),
  Figures: Outlook,
});

function Outlook(own: OwnOutlook) {
  const { data, style, actions } = own;
  const { setFrame } = useFrameParams();
  return (
    <>
      {data.gap && data.gap.words !== "" && (
        <p className="mt-1 text-[13.5px]">
          {data.gap.words}
          {"value" in data.gap.soFar && (
            <span className="text-slate"> So far this year: {writeWithUnit(data.gap.soFar.value, style)} a month.</span>
          )}
        </p>
      )}
      <Sources
        own={own}
        onAsk={() => data.closed && actions.ask(formatFigureAddress(data.kpi.key, "actual", data.closed.months))}
        onTake={(key) => setFrame({ outlook: key === LATEST ? undefined : key })}
      />
    </>
  );
}

function Sources({
  own,
  onAsk,
  onTake,
}: {
  own: OwnOutlook;
  /** Opens where the actual to date comes from. */
  onAsk: () => void;
  onTake: (key: string) => void;
}) {
  const { data, part, style, deltaStyle, money } = own;
  const grain = useId();
  const isPercent = data.kpi.unit.kind === "percent";
  return (
    <table className="mt-1 w-full text-[13px]">
      <caption className="sr-only">{data.headline}</caption>
      <thead>
        <tr className="text-right align-bottom text-slate">
          <th scope="col" className="w-[27%] py-1 text-left font-normal">
            The rest from
          </th>
          <th scope="col" className="w-[22%] px-3 text-left font-normal max-sm:hidden">
            <button type="button" className="min-h-[24px] hover:underline" onClick={onAsk}>
              {data.closed ? "Year to date and remaining months" : "Full year"}
            </button>
          </th>
          <th scope="col" className="px-2 font-normal">
            <ScenarioName code="forecast" name="Full year" />
          </th>
          <th scope="col" className="px-2 font-normal whitespace-nowrap">
            Δ {data.basisName}
          </th>
          <th scope="col" className="pl-2 font-normal">
            {isPercent ? "" : "Δ%"}
          </th>
        </tr>
      </thead>
      <tbody>
        {data.rows.map((row) => (
          <tr key={row.key} className={`border-t border-thread/70 text-right ${row.isTaken ? "bg-chosen" : ""}`}>
            <th scope="row" className="py-1 pl-1 text-left font-normal">
              <span className={row.isTaken ? "font-semibold" : ""}>{row.name}</span>
              <span className="block text-[12px] text-slate">
                {row.isTaken ? (
                  "used on this page"
                ) : (
                  <button
                    type="button"
                    className="min-h-[24px] text-accent hover:underline"
                    aria-label={`Use ${row.name} as the outlook`}
                    onClick={() => onTake(row.key)}
                  >
                    Use this
                  </button>
                )}
              </span>
            </th>
            <td className="px-3 max-sm:hidden">
              <Bar row={row} data={data} part={partOfRow(part, row)} grain={`${grain}-${row.key}`} />
            </td>
            <td className="px-2 tabular-nums">
              {"value" in row.figure ? (
                <span title={row.note} className={row.isTaken ? "font-semibold" : ""}>
                  {writeNumber(row.figure.value, style)}
                </span>
              ) : (
                <span className="text-slate" title={row.figure.detail}>
                  {row.figure.absent}
                </span>
              )}
              <WeighedMark part={weighedIn(data.kpi, row.figure, partOfRow(part, row), money)} />
            </td>
            <td className="px-2 tabular-nums">
              {"value" in row.variance.delta ? signed(row.variance.delta.value, deltaStyle) : ""}
            </td>
            <td className="pl-2 whitespace-nowrap">
              <span className="inline-flex items-center gap-1.5">
                <VarianceComb variance={row.variance} />
                {!isPercent && "value" in row.variance.deltaPercent
                  ? writeSignedPercent(row.variance.deltaPercent.value)
                  : ""}
                <JudgementMark judgement={row.variance.judgement} />
              </span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What the selected part comes to by the same source. */
function partOfRow(part: OutlookAnswer | undefined, { key }: OutlookRow): OutlookRow["figure"] | undefined {
  return part?.rows.find((row) => row.key === key)?.figure;
}

/** With its sign, in the unit of the column. */
function signed(value: number, style: NumberStyle): string {
  return `${value > 0 && !isWrittenZero(value, style) ? "+" : ""}${writeNumber(value, style)}`;
}

const BAR = 20;

/** The actual to date, solid, and the rest, woven, with the basis as a seam across. */
function Bar({
  row,
  data,
  part,
  grain,
}: {
  row: OutlookRow;
  data: OutlookAnswer;
  part: OutlookRow["figure"] | undefined;
  grain: string;
}) {
  const [{ width }, holder] = useSize<HTMLDivElement>();
  const valuesOf = (figure: OutlookRow["figure"]) => ("value" in figure ? [figure.value] : []);
  const all = [
    ...data.rows.flatMap(({ figure }) => valuesOf(figure)),
    ...valuesOf(data.basis),
    ...valuesOf(data.toDate),
    0,
  ];
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const x = (value: number) => (most === least ? 0 : ((value - least) / (most - least)) * Math.max(0, width - 2));
  const [end] = valuesOf(row.figure);
  const isSum = "value" in row.rest;
  const [toDate = 0] = isSum ? valuesOf(data.toDate) : [0];
  const [basis] = valuesOf(data.basis);
  const of = partOf(data.kpi.unit, row.figure, part);
  const box = (from: number, to: number) => ({ x: Math.min(x(from), x(to)), width: Math.abs(x(to) - x(from)) });
  return (
    <div ref={holder} className="h-5">
      {width > 0 && (
        <svg width={width} height={BAR} aria-hidden="true" className="block overflow-visible">
          <defs>
            <WovenGrain id={grain} />
          </defs>
          {end !== undefined && (
            <>
              {isSum && <rect {...box(0, toDate)} y={3} height={BAR - 6} fill="var(--indigo)" />}
              <rect
                {...box(isSum ? toDate : 0, end)}
                y={3}
                height={BAR - 6}
                fill={`url(#${grain})`}
                stroke="var(--indigo)"
                strokeOpacity=".5"
                strokeWidth=".75"
              />
            </>
          )}
          {of?.is === "share" && (
            <rect {...box(0, of.value)} y={BAR / 2 - 2} height={4} fill="var(--indigo)" stroke="var(--panel)" />
          )}
          {basis !== undefined && (
            <line
              x1={x(basis)}
              x2={x(basis)}
              y1={0}
              y2={BAR}
              stroke={`var(--${SEAMS[data.frame.basisCode]})`}
              strokeWidth="2.5"
              strokeDasharray={data.frame.basisCode === "budget" ? "4 2" : undefined}
            />
          )}
        </svg>
      )}
    </div>
  );
}

const SEAMS = {
  actual: "indigo",
  forecast: "indigo",
  budget: "weld",
  target: "heather",
  "prior-year": "walnut",
} as const;

function legendOf(data: OutlookAnswer): Parameters<typeof Legend>[0]["entries"] {
  const entries = [
    ...(data.closed ? [{ code: "actual" as const, name: `Actual, ${data.closed.name}` }] : []),
    {
      code: "forecast" as const,
      name: data.monthsLeft === 1 ? "the month left" : `the ${data.monthsLeft} months left`,
    },
    ...("value" in data.basis ? [{ code: data.frame.basisCode, name: `${data.basisName}, full year` }] : []),
  ];
  return entries.map(({ code, name }) => ({ key: code, name, sign: <LegendMark code={code} asLine={false} /> }));
}
