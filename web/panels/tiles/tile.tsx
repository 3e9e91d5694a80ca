import type { MouseEvent, ReactNode } from "react";
import {
  deltaStyle,
  valueStyle,
  writePercent,
  writeSigned,
  writeSignedPercent,
  writeWithUnit,
} from "#core/formats/number-words.ts";
import type { Variance } from "#core/figures/schema.ts";
import { AttainmentBar } from "../../chart-kit/attainment-bar.tsx";
import { Spark } from "../../chart-kit/spark.tsx";
import { VarianceComb } from "../../chart-kit/variance-comb.tsx";
import { GradeMark } from "../../figures/grade.tsx";
import { judgementColour, JudgementMark } from "../../figures/judgement.tsx";
import { Absent } from "../../figures/number.tsx";

import { weighedIn, WeighedMark } from "../../chart-kit/reading.tsx";
import { OutsideNote } from "../../panel-frame/outside-note.tsx";
import { NoteMark } from "../../panel-frame/note-mark.tsx";
import type { TileAnswer, TilesAnswer } from "#core/panels/tiles/schema.ts";

/** One figure large, with its span, its variance, status and trend, and what else is said of it small below. */
export function Tile({
  tile,
  part,
  data,
  heading,
  link,
  limit,
  isFaded,
  onAsk,
  onPress,
}: {
  tile: TileAnswer;
  /** The same tile of the part that is weighed. */
  part: TileAnswer | undefined;
  data: TilesAnswer;
  /** What the tile is of: a KPI, or a member with its way down. */
  heading: ReactNode;
  /** The way to the page with the detail. */
  link: ReactNode;
  /** Whether others than this one are picked. */
  isFaded: boolean;
  /** The share of the basis at which bars end. */
  limit: number;
  onAsk: (() => void) | undefined;
  /** What a press anywhere on the tile does, besides its buttons. */
  onPress: ((event: MouseEvent<HTMLElement>) => void) | undefined;
}) {
  const { row } = tile;
  const { kpi, actual, variance, attainment } = row;
  const style = valueStyle(kpi.unit, kpi.decimals, data.frame.unit);
  const large =
    "value" in actual ? (
      <span className="text-[29px] leading-tight font-semibold tracking-tight">
        {writeWithUnit(actual.value, style)}
      </span>
    ) : (
      <span className="text-[17px] leading-[2.1]">
        <Absent figure={actual} />
      </span>
    );
  // A press anywhere does what one of the tile's buttons does, which the keyboard reaches.
  /* oxlint-disable jsx-a11y/click-events-have-key-events, jsx-a11y/no-noninteractive-element-interactions */
  return (
    <li
      onClick={(event) => {
        if (!(event.target as Element).closest("button, a")) onPress?.(event);
      }}
      className={`${onPress ? "cursor-pointer" : ""} -mr-px -mb-px flex min-w-0 flex-col border-r border-b border-thread/80 px-4 pt-2.5 pb-3 break-inside-avoid ${isFaded ? "opacity-45" : ""}`}
    >
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="min-w-0 font-semibold">
          {heading}
          <NoteMark notes={row.notes} label={row.isFallback ? `against ${row.basisName}` : undefined} />
          <OutsideNote row={row} money={data.frame.unit} />
        </h3>
        <span className="shrink-0 text-[12.5px]" title={row.words}>
          <Standing row={row} /> {link}
        </span>
      </div>
      <p className="flex items-end justify-between gap-3">
        {onAsk ? (
          <button
            type="button"
            className="figure-button !text-left whitespace-nowrap"
            onClick={onAsk}
            aria-label={`${tile.member?.name ?? kpi.name}, ${data.frame.words.span}: ${"value" in actual ? writeWithUnit(actual.value, style) : actual.detail} Where does it come from?`}
          >
            {large}
          </button>
        ) : (
          large
        )}
        {/* In a tile that is too narrow for both the line gives way, its oldest months first, and not the figure. */}
        <span
          className="mb-1.5 flex min-w-0 shrink justify-end overflow-hidden"
          title={`${kpi.name} by month, ${row.trend[0]?.month} to ${row.trend.at(-1)?.month}`}
        >
          <Spark figures={row.trend.map((t) => t.actual)} width={84} height={28} />
        </span>
      </p>
      <p className="text-[12px] text-slate">
        {data.frame.words.span}, {data.frame.words.spanMonths}
      </p>
      <div className="mt-1.5">
        <AttainmentBar attainment={attainment} limit={limit} code={row.basisCode} />
      </div>
      <p className="mt-0.5 flex flex-wrap justify-between gap-x-3 text-[12.5px]">
        <span className="inline-flex items-center gap-1.5" style={{ color: judgementColour(variance.judgement) }}>
          {varianceText(tile, data)}
          <VarianceComb variance={variance} />
        </span>
        <span className="text-slate">
          {"value" in attainment ? `${writePercent(attainment.value)} of ${row.basisName}` : `against ${row.basisName}`}
        </span>
      </p>
      {tile.second && <Second second={tile.second} data={data} />}
      <WeighedMark part={weighedIn(kpi, actual, part?.row.actual, data.frame.unit)} />
      {tile.figures.length > 0 && <SmallFigures tile={tile} data={data} />}
    </li>
  );
  /* oxlint-enable jsx-a11y/click-events-have-key-events, jsx-a11y/no-noninteractive-element-interactions */
}

/** The KPI beside the tile's own. */
function Second({ second, data }: { second: NonNullable<TileAnswer["second"]>; data: TilesAnswer }) {
  const { kpi, actual, variance, words } = second;
  const delta = "value" in variance.delta && varianceText({ row: second }, data);
  return (
    <p
      className="mt-1.5 flex flex-wrap items-baseline justify-between gap-x-3 border-t border-thread/60 pt-1"
      title={words}
    >
      <span className="text-[12.5px] text-slate">{kpi.name}</span>
      <span>
        <span className="text-[16px] font-semibold">
          {"value" in actual ? (
            writeWithUnit(actual.value, valueStyle(kpi.unit, kpi.decimals, data.frame.unit))
          ) : (
            <Absent figure={actual} />
          )}
        </span>{" "}
        {delta !== false && (
          <span className="text-[12.5px]" style={{ color: judgementColour(variance.judgement) }}>
            {delta}
          </span>
        )}
      </span>
    </p>
  );
}

function Standing({ row: { status, variance } }: Pick<TileAnswer, "row">) {
  if (status === null) return <JudgementMark judgement={variance.judgement} />;
  return "absent" in status ? <Absent figure={status} /> : <GradeMark {...status} />;
}

function varianceText(
  { row: { kpi, variance } }: { row: Pick<TileAnswer["row"], "kpi" | "variance"> },
  { frame }: TilesAnswer,
): ReactNode {
  const { delta, deltaPercent } = variance;
  if (!("value" in delta)) return <Absent figure={delta} />;
  const amount = writeSigned(delta.value, deltaStyle(kpi.unit, kpi.decimals, frame.unit));
  const share =
    kpi.unit.kind !== "percent" && "value" in deltaPercent ? ` (${writeSignedPercent(deltaPercent.value)})` : "";
  return amount + share;
}

function SmallFigures({ tile: { row, figures }, data }: { tile: TileAnswer; data: TilesAnswer }) {
  const style = valueStyle(row.kpi.unit, row.kpi.decimals, data.frame.unit);
  return (
    <table className="mt-2 w-full text-[12.5px]">
      <caption className="sr-only">Other figures</caption>
      <tbody>
        {figures.map(({ figure, variance, note }, i) => {
          const { name, isPast, kind } = data.figures[i]!;
          return (
            <tr key={kind} className="border-t border-thread/60" title={note}>
              <th scope="row" className="py-0.5 text-left font-normal text-slate">
                {name}
              </th>
              <td colSpan={"value" in figure ? 1 : 2} className="py-0.5 pl-2 text-right whitespace-nowrap">
                {"value" in figure ? writeWithUnit(figure.value, style) : <Absent figure={figure} />}
              </td>
              {"value" in figure && (
                <td
                  className="w-[6.2em] py-0.5 text-right whitespace-nowrap"
                  style={{ color: judgementColour(variance.judgement) }}
                  title={isPast ? `${row.kpi.name} beside it` : `Against ${row.basisName}`}
                >
                  {isPast && "value" in variance.delta && <span className="text-slate">now </span>}
                  {change(row.kpi.unit.kind === "percent", variance)}
                </td>
              )}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Percentages differ in points, everything else in percent. */
function change(isPercent: boolean, { delta, deltaPercent }: Variance): string {
  const shown = isPercent ? delta : deltaPercent;
  if (!("value" in shown)) return "";
  return isPercent ? `${writeSignedPercent(shown.value).replace("%", "")} pts` : writeSignedPercent(shown.value);
}
