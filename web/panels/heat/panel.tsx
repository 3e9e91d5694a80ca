import { formatScope } from "#core/dimensions/scope-text.ts";
import { heatTable } from "#core/panels/heat/table.ts";
import {
  deltaStyle,
  valueStyle,
  writeSigned,
  writeSignedPercent,
  writeWithUnit,
  type NumberStyle,
} from "#core/formats/number-words.ts";
import { CardAt } from "../../chart-kit/card-at.tsx";
import { shadeOf } from "../../chart-kit/shade.ts";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { WalkedChart } from "../../chart-kit/walked-chart.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { JudgementMark } from "../../figures/judgement.tsx";
import { FilledPlace } from "../../chart-kit/filled-place.tsx";
import { useSize } from "../../ui/use-size.ts";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { ChartSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { partOf } from "#core/panels/parts/part-of.ts";
import { PartMark } from "../../chart-kit/part-mark.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import { pickHandlers } from "../../chart-kit/pick-handlers.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { layoutHeat, type HeatLayout, type PlacedCell } from "./layout.ts";
import { SHADE_CHOICES } from "./shades.ts";
import type { HeatShade, HeatAnswer } from "#core/panels/heat/schema.ts";

/** A KPI as shaded cells, or as a table of numbers. */
export default function HeatPanel(view: PanelProps<"heat">) {
  return (
    <PanelSheet
      view={view}
      label="Heat grid"
      table={heatTable}
      skeleton={<ChartSkeleton label="The heat grid is being calculated" height={160} />}
    >
      {(data, part) => <Heat view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

const TONES: Readonly<Record<PlacedCell["tone"], string>> = {
  value: "var(--indigo)",
  favourable: "var(--verdigris)",
  unfavourable: "var(--madder)",
  even: "var(--slate)",
};

function Heat({
  view: { panel, choice, picked, actions },
  data,
  part,
}: {
  view: PanelProps<"heat">;
  data: HeatAnswer;
  part: HeatAnswer | undefined;
}) {
  const weighed = part && cellsByPlace(part);
  const partAt = ({ row, column }: PlacedCell) =>
    weighed?.get(placeKey(data.rows.entries[row]!.key, data.columns.entries[column]!.key))?.actual;
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  const dStyle = deltaStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  const [{ width, height }, holder] = useSize<HTMLDivElement>();
  const layout = layoutHeat({
    data,
    width: Math.max(1, width),
    room: height,
    style,
    deltaStyle: dStyle,
    hasLabels: panel.hasLabels !== false,
  });
  const isFaded = ({ row, column }: PlacedCell) =>
    [[data.rows, row] as const, [data.columns, column] as const].some(([side, at]) => {
      const chosen = side.dimension === null ? undefined : picked[side.dimension];
      return chosen !== undefined && !chosen.includes(side.entries[at]!.key);
    });
  const memberOf = ({ row, column }: PlacedCell) => {
    const [side, at] = data.rows.dimension === null ? [data.columns, column] : [data.rows, row];
    const member = side.entries[at]?.member;
    return member && side.dimension !== null
      ? { dimension: side.dimension, member: member.key, name: member.name }
      : undefined;
  };
  const ask = ({ row, column, cell }: PlacedCell) => {
    const [a, b] = [data.rows.entries[row]!.member, data.columns.entries[column]!.member];
    const scope =
      a && b && data.columns.dimension !== null
        ? { ...a.scope, [data.columns.dimension]: b.scope[data.columns.dimension]! }
        : (a ?? b)?.scope;
    if (cell.months !== null)
      actions.ask(formatFigureAddress(data.kpi.key, "actual", cell.months), scope && formatScope(scope));
  };
  const walk = useMarkWalk(layout.cells.length, 0, {
    onTable: toggleTable,
    perRow: data.columns.entries.length,
    onEnter: (mark, event) => {
      const cell = layout.cells[mark]!;
      const member = memberOf(cell);
      if (event.shiftKey || !member) ask(cell);
      else actions.pick?.(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
    },
  });
  const looked = walk.active === null ? undefined : layout.cells[walk.active];
  return (
    <ChartBody
      words={panel}
      head={
        <ChoiceWord
          label="Shaded by"
          words={SHADE_CHOICES.find(({ key }) => key === data.shade)!.name}
          choices={SHADE_CHOICES}
          chosen={data.shade}
          onChoose={(shade) => actions.choose({ shade: shade as HeatShade })}
          className="meaning-word"
        />
      }
      legend={<Scale layout={layout} shade={data.shade} />}
      isTable={isTable}
      onTable={toggleTable}
      table={() => heatTable(data)}
      caption={`${data.kpi.name} in ${style.unitName}`}
      style={style}
      deltaStyle={dStyle}
      money={data.frame.unit}
      refusal={
        data.refusal !== null || data.rows.entries.length === 0 || data.columns.entries.length === 0
          ? {
              title: "Nothing to show here",
              detail: data.refusal ?? `${data.kpi.name} has no figures for ${data.frame.words.scope}.`,
            }
          : null
      }
      notes={data.notes}
    >
      <FilledPlace holder={holder} least={layout.least}>
        {" "}
        <WalkedChart
          width={width}
          height={layout.height}
          label={`${data.headline} ${data.descriptor}. Arrows walk from cell to cell, Enter narrows the page, Shift and Enter shows where a figure comes from.`}
          walk={walk}
          words={looked ? cellWords(data, looked, style, dStyle) : ""}
          card={
            looked && (
              <CardAt
                x={looked.box.x + looked.box.width / 2}
                width={width}
                title={`${data.rows.entries[looked.row]!.name}, ${data.columns.entries[looked.column]!.name}`}
              >
                <CellFigures data={data} cell={looked} style={style} deltaStyle={dStyle} />
                <PartMark kpi={data.kpi} whole={looked.cell.actual} part={partAt(looked)} money={data.frame.unit} />
              </CardAt>
            )
          }
        >
          <Cells layout={layout} active={walk.active} isFaded={isFaded} />
          {weighed &&
            layout.cells.map((cell, i) => {
              const of = partOf(data.kpi.unit, cell.cell.actual, partAt(cell));
              return of?.is === "share" ? (
                <rect
                  key={i}
                  x={cell.box.x}
                  y={cell.box.y + cell.box.height - 4}
                  width={cell.box.width * of.share}
                  height={3}
                  fill="var(--indigo)"
                />
              ) : null;
            })}
          {layout.cells.map((cell, i) => {
            const member = memberOf(cell);
            const handlers = member ? pickHandlers(actions.pick, member) : { onClick: () => ask(cell) };
            return (
              <rect
                key={i}
                {...cell.box}
                fill="transparent"
                className="cursor-pointer"
                onMouseEnter={() => walk.look(i)}
                {...handlers}
              />
            );
          })}
        </WalkedChart>
      </FilledPlace>
    </ChartBody>
  );
}

/** A grid's cells by the keys of their row and column. */
function cellsByPlace({ rows, columns, cells }: HeatAnswer): ReadonlyMap<string, HeatAnswer["cells"][number][number]> {
  return new Map(
    cells.flatMap((line, r) =>
      line.map((cell, c) => [placeKey(rows.entries[r]!.key, columns.entries[c]!.key), cell] as const),
    ),
  );
}

function placeKey(row: string, column: string): string {
  return JSON.stringify([row, column]);
}

function Cells({
  layout,
  active,
  isFaded,
}: {
  layout: HeatLayout;
  active: number | null;
  isFaded: (cell: PlacedCell) => boolean;
}) {
  return (
    <g>
      {layout.columns.map(({ name, x }) => (
        <text key={x} x={x} y={13} textAnchor="middle" fill="var(--slate)">
          {name}
        </text>
      ))}
      {layout.rows.map(({ name, fullName, y }) => (
        <text key={y} x={0} y={y} fill="var(--ink)" className="text-[12.5px]">
          {name}
          <title>{fullName}</title>
        </text>
      ))}
      {layout.cells.map(({ box, strength, tone, label }, i) => (
        <g key={i} opacity={isFaded(layout.cells[i]!) ? 0.4 : 1}>
          <rect
            {...box}
            fill={strength === null ? "var(--panel)" : shadeOf(TONES[tone], strength)}
            stroke="var(--panel)"
            strokeWidth="1"
          />
          {strength === null && (
            <path
              d={`M${box.x + 3} ${box.y + box.height / 2}h${Math.max(0, box.width - 6)}`}
              stroke="var(--thread)"
              strokeWidth="1"
            />
          )}
          {label !== null && (
            <text x={box.x + box.width / 2} y={box.y + box.height / 2 + 4} textAnchor="middle" fill="var(--ink)">
              {label}
            </text>
          )}
        </g>
      ))}
      {active !== null && layout.cells[active] && (
        <rect {...layout.cells[active].box} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      )}
    </g>
  );
}

/** What the shades run between; signs stand with them for those who do not tell the colours apart. */
function Scale({ layout: { scale }, shade }: { layout: HeatLayout; shade: HeatShade }) {
  if (!scale) return null;
  if (shade === "judgement")
    return (
      <span className="flex items-center gap-3 text-[12.5px] text-slate">
        {(["favourable", "unfavourable"] as const).map((judgement) => (
          <span key={judgement} className="flex items-center gap-1">
            <span className="inline-block size-3" style={{ background: shadeOf(TONES[judgement], 0.8) }} />
            {judgement}
          </span>
        ))}
      </span>
    );
  const steps = [0, 0.25, 0.5, 0.75, 1];
  return (
    <span className="flex items-center gap-1.5 text-[12.5px] text-slate">
      {shade === "value" ? (
        <>
          {scale.low}
          <Swatches colours={steps.map((step) => shadeOf(TONES.value, step))} />
          {scale.high}
        </>
      ) : (
        <>
          unfavourable
          <Swatches
            colours={[
              ...steps.toReversed().map((step) => shadeOf(TONES.unfavourable, step)),
              ...steps.map((step) => shadeOf(TONES.favourable, step)),
            ]}
          />
          favourable, up to {scale.high.replace("+", "")}
        </>
      )}
    </span>
  );
}

function Swatches({ colours }: { colours: readonly string[] }) {
  return (
    <span aria-hidden="true" className="inline-flex">
      {colours.map((colour, i) => (
        <span key={i} className="inline-block h-3 w-3.5" style={{ background: colour }} />
      ))}
    </span>
  );
}

function CellFigures({
  data,
  cell: { cell },
  style,
  deltaStyle: dStyle,
}: {
  data: HeatAnswer;
  cell: PlacedCell;
  style: NumberStyle;
  deltaStyle: NumberStyle;
}) {
  const { actual, variance } = cell;
  const { delta, deltaPercent, judgement } = variance;
  return (
    <>
      <p className="mt-1 font-semibold">{"value" in actual ? writeWithUnit(actual.value, style) : actual.detail}</p>
      {"value" in delta && (
        <p className="mt-1 flex justify-between gap-2 border-t border-thread pt-1">
          <JudgementMark judgement={judgement} />
          <span>
            {writeSigned(delta.value, dStyle)}
            {"value" in deltaPercent && data.kpi.unit.kind !== "percent"
              ? ` (${writeSignedPercent(deltaPercent.value)})`
              : ""}{" "}
            {data.basisName}
          </span>
        </p>
      )}
    </>
  );
}

function cellWords(data: HeatAnswer, placed: PlacedCell, style: NumberStyle, dStyle: NumberStyle): string {
  const { actual, variance } = placed.cell;
  const place = `${data.rows.entries[placed.row]!.name}, ${data.columns.entries[placed.column]!.name}`;
  const value = "value" in actual ? writeWithUnit(actual.value, style) : actual.detail;
  const against =
    "value" in variance.delta
      ? `; ${writeSigned(variance.delta.value, dStyle)} against ${data.basisName}${variance.judgement ? `, ${variance.judgement}` : ""}`
      : "";
  return `${place}: ${value}${against}`;
}
