import type { MouseEvent } from "react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { breakdownTable } from "#core/panels/breakdown/table.ts";
import {
  deltaStyle,
  valueStyle,
  writeSigned,
  writeSignedPercent,
  writeWithUnit,
  type NumberStyle,
} from "#core/formats/number-words.ts";
import { DyeMark } from "../../chart-kit/page-dyes.tsx";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { WalkedChart } from "../../chart-kit/walked-chart.tsx";
import { JudgementMark } from "../../figures/judgement.tsx";
import { LegendMark } from "../../figures/scenario-mark.tsx";
import { FilledPlace } from "../../chart-kit/filled-place.tsx";
import { useSize } from "../../ui/use-size.ts";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { MemberHead, MemberOrder } from "../../chart-kit/member-head.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import { PartMark } from "../../chart-kit/part-mark.tsx";
import { pickHandlers } from "../../chart-kit/pick-handlers.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { Bars } from "./bars.tsx";
import { useSharedExtent } from "../../chart-kit/page-scale.tsx";
import { seriesDye } from "./series-dye.ts";
import { barValues, layoutBreakdown, type BarLine } from "./layout.ts";
import type { BreakdownAnswer } from "#core/panels/breakdown/schema.ts";

/** A KPI by the members of a level, as bars or as a table of numbers. */
export default function BreakdownPanel(view: PanelProps<"breakdown">) {
  return (
    <PanelSheet
      view={view}
      label="Breakdown"
      table={breakdownTable}
      skeleton={
        <div className="p-5" role="status" aria-label="The breakdown is being calculated">
          <div className="waiting h-6 w-3/4" />
          {Array.from({ length: 5 }, (_, i) => (
            <div key={i} className="waiting mt-3 h-4" style={{ width: `${90 - i * 14}%` }} />
          ))}
        </div>
      }
    >
      {(data, part) => <Breakdown view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

function Breakdown({
  view: { panel, choice, picked, actions },
  data,
  part,
}: {
  view: PanelProps<"breakdown">;
  data: BreakdownAnswer;
  part: BreakdownAnswer | undefined;
}) {
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  const dStyle = deltaStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  return (
    <ChartBody
      words={panel}
      head={
        <MemberHead
          layers={data.layers}
          shown={data.kpi.key}
          level={data.by.level}
          path={data.by.path}
          onChoose={actions.choose}
        />
      }
      legend={<Legend data={data} />}
      aside={<MemberOrder order={data.order} isReversed={data.isReversed} top={data.top} onChoose={actions.choose} />}
      isTable={isTable}
      onTable={toggleTable}
      table={() => breakdownTable(data)}
      caption={`${data.kpi.name} in ${style.unitName}; Δ ${data.total.row.basisName} in ${dStyle.unitName}`}
      style={style}
      deltaStyle={dStyle}
      money={data.frame.unit}
      refusal={
        data.rows.length > 0
          ? null
          : {
              title: `No ${data.by.level} has a figure here`,
              detail: `${data.kpi.name} has no figures by ${data.by.level} for ${data.frame.words.scope}. Choose another scope or breakdown.`,
            }
      }
      absent={data.absent}
      notes={data.notes}
    >
      <BarChart
        {...{ data, part, style, actions }}
        deltaStyle={dStyle}
        picked={picked[data.by.dimension]}
        onTable={toggleTable}
      />
    </ChartBody>
  );
}

function BarChart({
  data,
  part,
  style,
  deltaStyle: dStyle,
  picked,
  actions,
  onTable,
}: {
  data: BreakdownAnswer;
  part: BreakdownAnswer | undefined;
  style: NumberStyle;
  deltaStyle: NumberStyle;
  picked: readonly string[] | undefined;
  actions: PanelProps<"breakdown">["actions"];
  onTable: () => void;
}) {
  const [{ width, height }, holder] = useSize();
  const parts =
    part && new Map(part.rows.flatMap(({ member, row }) => (member ? [[member.key, row.actual] as const] : [])));
  const isShare = data.stacking === "share" && data.series.length > 0;
  const unit = `bars, ${isShare ? "shares" : `${JSON.stringify({ ...data.kpi.unit, decimals: undefined })} in ${style.unitName}`}`;
  const extent = useSharedExtent(unit, barValues(data));
  const layout = layoutBreakdown({
    data,
    width,
    room: height,
    style,
    deltaStyle: dStyle,
    extent,
    ...(parts ? { parts } : {}),
  });
  const own = (line: BarLine | undefined) =>
    line?.row.member
      ? { dimension: data.by.dimension, member: line.row.member.key, name: line.row.member.name }
      : undefined;
  const open = (line: BarLine | undefined) => {
    const member = line?.row.member;
    return member?.hasBelow ? () => actions.choose({ below: member.key }) : undefined;
  };
  const handlersOf = (
    line: BarLine,
  ): { onClick?: (event: MouseEvent) => void; onDoubleClick?: (event: MouseEvent) => void } => {
    const member = own(line);
    return member ? pickHandlers(actions.pick, member, open(line)) : {};
  };
  const walk = useMarkWalk(layout.lines.length, 0, {
    onTable,
    onEnter: (mark, event) => {
      const line = layout.lines[mark];
      const member = own(line);
      if (event.shiftKey || !member)
        actions.ask(
          formatFigureAddress(data.kpi.key, "actual"),
          line?.row.member ? formatScope(line.row.member.scope) : undefined,
        );
      else actions.pick?.(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
    },
    onDown: (mark) => open(layout.lines[mark])?.(),
  });
  const { active } = walk;
  const line = active === null ? undefined : layout.lines[active];
  return (
    <FilledPlace holder={holder} least={layout.least}>
      <WalkedChart
        width={width}
        height={layout.height}
        label={`${data.headline} ${data.descriptor}. Left and right walk along the members, Enter narrows the page, down opens, Shift and Enter shows where a figure comes from.`}
        walk={walk}
        words={line ? cardWords(data, line, style, dStyle) : ""}
        card={
          line && (
            <MemberCard
              data={data}
              line={line}
              part={line.row.member ? parts?.get(line.row.member.key) : undefined}
              style={style}
              deltaStyle={dStyle}
              width={width}
            />
          )
        }
      >
        <Bars {...{ data, layout, width, active, picked, handlersOf }} onLook={walk.look} />
      </WalkedChart>
    </FilledPlace>
  );
}

/** A member's reading card: its figures, and what can be done with it. */
function MemberCard({
  data,
  line,
  part,
  style,
  deltaStyle: dStyle,
  width,
}: {
  data: BreakdownAnswer;
  line: BarLine;
  part: Parameters<typeof PartMark>[0]["part"];
  style: NumberStyle;
  deltaStyle: NumberStyle;
  width: number;
}) {
  const { row } = line.row;
  const { delta, deltaPercent, judgement } = row.variance;
  const isLow = line.centre > 150;
  return (
    <div
      aria-hidden="true"
      className="popover pointer-events-none absolute w-60 p-3 text-[13px]"
      style={{
        left: Math.max(0, Math.min(width - 240, width * 0.36)),
        ...(isLow ? { bottom: `calc(100% - ${line.band.y - 4}px)` } : { top: line.band.y + line.band.height + 4 }),
      }}
    >
      <p className="font-serif text-[15px]">{line.row.name}</p>
      <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-3">
        <dt>{data.frame.words.shown}</dt>
        <dd className="text-right font-semibold">
          {"value" in row.actual ? writeWithUnit(row.actual.value, style) : row.actual.absent}
        </dd>
        <dt>{row.basisName}</dt>
        <dd className="text-right">
          {"value" in row.basis ? writeWithUnit(row.basis.value, style) : row.basis.absent}
        </dd>
        {data.series.map(({ key, name }, i) => {
          const figure = line.row.parts[i];
          return figure && "value" in figure ? (
            <div key={key} className="contents">
              <dt>{name}</dt>
              <dd className="text-right">{writeWithUnit(figure.value, style)}</dd>
            </div>
          ) : null;
        })}
      </dl>
      <p className="mt-1 flex justify-between gap-2 border-t border-thread pt-1">
        <JudgementMark judgement={judgement} />
        <span>
          {"value" in delta ? writeSigned(delta.value, dStyle) : delta.detail}
          {"value" in deltaPercent && row.kpi.unit.kind !== "percent"
            ? ` (${writeSignedPercent(deltaPercent.value)})`
            : ""}
        </span>
      </p>
      <PartMark kpi={row.kpi} whole={row.actual} part={part} money={data.frame.unit} />
      {row.notes.length > 0 && <p className="text-[12px] text-slate">{row.notes.join(" ")}</p>}
      {line.kind === "member" && (
        <p className="mt-1 text-[11.5px] text-slate">
          Click narrows, Ctrl adds{line.row.member?.hasBelow ? ", double click opens" : ""}
        </p>
      )}
    </div>
  );
}

function cardWords(
  data: BreakdownAnswer,
  { row: { name, row } }: BarLine,
  style: NumberStyle,
  dStyle: NumberStyle,
): string {
  const actual = "value" in row.actual ? writeWithUnit(row.actual.value, style) : row.actual.detail;
  const { delta, judgement } = row.variance;
  const variance =
    "value" in delta
      ? `${writeSigned(delta.value, dStyle)} against ${row.basisName}${judgement ? `, ${judgement}` : ""}`
      : delta.detail;
  return `${name}: ${data.kpi.name} ${actual}; ${variance}`;
}

function Legend({ data: { series, total, shows, frame } }: { data: BreakdownAnswer }) {
  const { basisCode, basisName } = total.row;
  return (
    <ul className="flex flex-wrap gap-x-3.5 gap-y-1 text-[12.5px]">
      {series.length === 0 ? (
        <>
          <li className="flex items-center gap-1.5">
            <LegendMark code="actual" asLine={false} /> {frame.words.shown}
          </li>
          {shows.includes("basis") && (
            <li className="flex items-center gap-1.5">
              <LegendMark code={basisCode} asLine={false} /> {basisName}
            </li>
          )}
        </>
      ) : (
        series.map((one) => (
          <li key={one.key} className="flex items-center gap-1.5">
            {one.scenario === undefined ? (
              <DyeMark of={seriesDye(one)} at={one.at} name={one.name} />
            ) : (
              <LegendMark code={one.scenario} asLine={false} />
            )}
            {one.name}
          </li>
        ))
      )}
    </ul>
  );
}
