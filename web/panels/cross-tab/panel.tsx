import { useMemo, type ReactNode } from "react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { crossTable, headOf, placeName } from "#core/panels/cross-tab/table.ts";
import { valueStyle, writeNumber, writeWithUnit } from "#core/formats/number-words.ts";
import { sideSchema, type ProvenanceSide } from "#contract/provenance.ts";
import { shadeOf } from "../../chart-kit/shade.ts";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { TextButton } from "../../ui/form.tsx";
import { Notice } from "../../ui/notice.tsx";
import { useSize } from "../../ui/use-size.ts";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { MemberPath } from "../../chart-kit/member-path.tsx";
import { PanelNotes } from "../../panel-frame/panel-notes.tsx";
import { ChartSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import { weighedIn, WeighedMark } from "../../chart-kit/reading.tsx";
import { pickHandlers } from "../../chart-kit/mark.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { columnKey, CrossGrid } from "./grid.tsx";
import {
  isByScenario,
  judgementAt,
  kpiAt,
  shapeCrossTab,
  writeMeasure,
  type CrossShape,
  type ShapedColumn,
} from "./shape.ts";
import { SHADE_CHOICES } from "./shades.ts";
import { writeSort, type CrossMeasure, type CrossShade, type CrossTabAnswer } from "#core/panels/cross-tab/schema.ts";

/** The figures, exactly: any of dimensions, KPIs, scenarios and periods by any others. */
export default function CrossTabPanel(view: PanelProps<"cross-tab">) {
  return (
    <PanelSheet
      view={view}
      label="Cross-tab"
      table={crossTable}
      skeleton={<ChartSkeleton label="The cross-tab is being calculated" height={160} />}
    >
      {(data, part) => <CrossTab view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

/** As high as its rows, of many only some. */
const MOST_LEAST = 240;

function CrossTab({
  view: { panel, picked, actions },
  data,
  part,
}: {
  view: PanelProps<"cross-tab">;
  data: CrossTabAnswer;
  part: CrossTabAnswer | undefined;
}) {
  const [{ width, height }, holder] = useSize<HTMLDivElement>();
  const shape = useMemo(() => shapeCrossTab(data, Math.max(1, width)), [data, width]);
  const memberOf = (row: number, depth: number) => {
    const axis = data.rows.axes[depth]!;
    const at = data.rows.lines[row]![depth];
    const member = at === null || at === undefined ? null : axis.entries[at]!.member;
    return member && axis.dimension !== null
      ? { dimension: axis.dimension, member: member.key, name: member.name, hasBelow: member.hasBelow }
      : undefined;
  };
  const ask = (row: number, column: ShapedColumn) => {
    const { side, months, scope } = addressOf(data, row, column);
    if (side)
      actions.ask(
        formatFigureAddress(kpiAt(data, row, column.column).key, side, months ?? undefined),
        scope && formatScope(scope),
      );
  };
  const first = data.rows.axes.findIndex(({ kind }) => kind === "member");
  const grid = {
    onSort: (column: number, measure: CrossMeasure) => {
      const key = columnKey(data.columns, column);
      const { sort } = data;
      const isOn = sort?.column === key && sort.measure === measure;
      const next = isOn && sort.isRising ? "set" : writeSort({ column: key, measure, isRising: isOn });
      actions.choose({ sort: next === "set" && !panel.sort ? undefined : next });
    },
    onAsk: ask,
    onEnter: (
      row: number,
      column: ShapedColumn,
      event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean; altKey: boolean },
    ) => {
      const member = data.rows.axes.map((_, depth) => memberOf(row, depth)).findLast((own) => own !== undefined);
      if (event.shiftKey || !member) ask(row, column);
      else actions.pick?.(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
    },
    rowHandlers: (row: number, depth: number) => {
      const member = memberOf(row, depth);
      if (!member) return {};
      const open = depth === first && member.hasBelow ? () => actions.choose({ below: member.member }) : undefined;
      return pickHandlers(actions.pick, member, open);
    },
  };
  const isFaded = (row: number) =>
    data.rows.axes.some((axis, depth) => {
      const chosen = axis.dimension === null ? undefined : picked[axis.dimension];
      const at = data.rows.lines[row]![depth];
      return chosen !== undefined && at !== null && at !== undefined && !chosen.includes(axis.entries[at]!.key);
    });
  const parts = useMemo(() => part && partsOf(data, part), [data, part]);
  const shownLayer = data.kpis[0]!;
  const leastHeight = Math.min(MOST_LEAST, (data.rows.lines.length + data.columns.axes.length + 1) * 26 + 30);
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col pb-1">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-4 pt-1 pb-1">
        {data.layers.length > 1 && (
          <ChoiceWord
            label="KPI"
            words={shownLayer.name}
            choices={data.layers}
            chosen={shownLayer.key}
            onChoose={(kpi) => actions.choose({ kpi })}
            className="meaning-word"
          />
        )}
        <MemberPath path={data.path} onOpen={(below) => actions.choose({ below })} />
        <ChoiceWord
          label="Cells"
          words={SHADE_CHOICES.find(({ key }) => key === data.shade)!.name}
          choices={SHADE_CHOICES}
          chosen={data.shade}
          onChoose={(shade) => actions.choose({ shade: shade as CrossShade })}
          className="meaning-word"
        />
        <ShadeScale data={data} shape={shape} />
        {data.sort && (
          <TextButton onClick={() => actions.choose({ sort: panel.sort ? "set" : undefined })}>
            Rows as they are set
          </TextButton>
        )}
      </div>
      {data.refusal !== null && (
        <div className="px-4 py-6">
          <Notice title="Nothing to show here" detail={data.refusal} />
        </div>
      )}
      <div
        ref={holder}
        data-fill={leastHeight}
        hidden={data.refusal !== null}
        className="relative mx-4 min-h-0 flex-1"
        style={{ minHeight: leastHeight }}
      >
        {/* Rows scroll in what the panel has; else ten thousand of them would make it as high as they are. */}
        <div className="absolute inset-0 flex flex-col print:static">
          <CrossGrid
            data={data}
            shape={shape}
            room={{ width, height }}
            label={`${data.headline} ${data.descriptor}. Arrows walk from cell to cell, Enter narrows the page, Shift and Enter shows where a figure comes from.`}
            isFaded={isFaded}
            actions={grid}
            partOf={parts ?? null}
            wordsOf={(row, column) => wordsOf(data, row, column)}
          />
        </div>
      </div>
      <PanelNotes notes={data.notes} />
    </div>
  );
}

/** What is said of the part of a cell that is weighed: found by the keys of its row and column. */
function partsOf(data: CrossTabAnswer, part: CrossTabAnswer): (row: number, column: ShapedColumn) => ReactNode {
  const keyOf = (side: CrossTabAnswer["rows"], line: number) => columnKey(side, line);
  const [rows, columns] = [part.rows, part.columns].map(
    (side) => new Map(side.lines.map((_, line) => [keyOf(side, line), line])),
  );
  return (r, { column }) => {
    const [row, own] = [rows!.get(keyOf(data.rows, r)), columns!.get(keyOf(data.columns, column))];
    const value = row === undefined || own === undefined ? null : (part.cells[own]!.figures.value?.values[row] ?? null);
    const whole = data.cells[column]!.figures.value!.values[r] ?? null;
    if (value === null || whole === null) return null;
    return <WeighedMark part={weighedIn(kpiAt(data, r, column), { value: whole }, { value }, data.frame.unit)} />;
  };
}

/** Where the figure of a cell is explained: on which side, over which months, in which scope. */
function addressOf(
  data: CrossTabAnswer,
  row: number,
  { column, measure }: ShapedColumn,
): { side: ProvenanceSide | null; months: string | null; scope: Scope | undefined } {
  const places = (
    [
      [data.rows, row],
      [data.columns, column],
    ] as const
  ).flatMap(([side, line]) =>
    side.lines[line]!.flatMap((at, depth) =>
      at === null ? [] : [{ dimension: side.axes[depth]!.dimension, entry: side.axes[depth]!.entries[at]! }],
    ),
  );
  const scenario = places.find(({ entry }) => entry.scenario !== null)?.entry.scenario;
  const side = sideSchema.safeParse(scenario ?? (measure === "basis" ? "basis" : "actual"));
  const members = places.flatMap(({ dimension, entry }) =>
    entry.member && dimension !== null ? [{ dimension, scope: entry.member.scope }] : [],
  );
  const [first] = members;
  const scope = first
    ? { ...first.scope, ...Object.fromEntries(members.map((own) => [own.dimension, own.scope[own.dimension]!])) }
    : (data.scope ?? undefined);
  return {
    side: side.success ? side.data : null,
    months: places.find(({ entry }) => entry.months !== null)?.entry.months ?? data.months,
    scope,
  };
}

/** A cell in words: whose figure it is, in full, and how it is judged. */
function wordsOf(data: CrossTabAnswer, row: number, column: ShapedColumn): string {
  const kpi = kpiAt(data, row, column.column);
  const names = data.rows.axes.map((_, depth) => placeName(data.rows, row, depth)).filter((name) => name !== "");
  const heads = data.columns.axes
    .map((_, depth) => placeName(data.columns, column.column, depth))
    .filter((name) => name !== "");
  const figures = data.cells[column.column]!.figures[column.measure]!;
  const value = figures.values[row] ?? null;
  const why = figures.why?.[row] ?? 0;
  const judgement = column.measure.startsWith("delta") ? judgementAt(data, row, column.column) : null;
  const said =
    value === null
      ? (data.reasons[why - 1] ?? "absent")
      : column.measure === "value" || column.measure === "basis"
        ? writeWithUnit(value, valueStyle(kpi.unit, kpi.decimals, "units"))
        : writeMeasure(column.measure, value, kpi, data);
  const of = column.measure === "value" ? "" : `, ${headOf(column.measure, data).toLowerCase()}`;
  return `${[kpi.name, ...names, ...heads].filter((name, i, all) => all.indexOf(name) === i).join(", ")}${of}: ${said}${judgement ? `, ${judgement}` : ""}`;
}

/** Between what cells are shaded. */
function ShadeScale({ data, shape }: { data: CrossTabAnswer; shape: CrossShape }) {
  if (data.shade === "none" || data.refusal !== null) return null;
  const swatch = (colour: string) => (
    <span aria-hidden="true" className="inline-block h-3 w-5" style={{ background: colour }} />
  );
  if (data.shade === "judgement")
    return (
      <span className="flex flex-wrap items-center gap-x-1.5 text-[12.5px] text-slate">
        {swatch(shadeOf("var(--madder)", 1))}unfavourable {swatch(shadeOf("var(--verdigris)", 1))}favourable, strongest
        at six tolerances{isByScenario(data) ? " of the actual against it" : ` against ${data.basisName}`}
      </span>
    );
  const [only] = [...shape.scales];
  const kpi = only && shape.scales.size === 1 ? data.kpis.find(({ key }) => key === only[0]) : undefined;
  const style = kpi && valueStyle(kpi.unit, kpi.decimals, data.frame.unit);
  const strengths = [0, 0.25, 0.5, 0.75, 1];
  return (
    <span className="flex items-center gap-1.5 text-[12.5px] text-slate">
      {style && only ? writeNumber(only[1].low, style) : "each KPI from its least"}
      <span aria-hidden="true" className="inline-flex">
        {strengths.map((strength) => (
          <span
            key={strength}
            className="inline-block h-3 w-3.5"
            style={{ background: shadeOf("var(--indigo)", strength) }}
          />
        ))}
      </span>
      {style && only ? writeNumber(only[1].high, style) : "to its most"}
    </span>
  );
}
