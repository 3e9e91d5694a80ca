import { createColumnHelper, tableFeatures, useTable, type ColumnDef, type HeaderGroup } from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp } from "lucide-react";
import {
  memo,
  useId,
  useMemo,
  useRef,
  type KeyboardEvent,
  type MouseEvent,
  type ReactNode,
  type RefObject,
} from "react";
import { shadeOf } from "../../chart-kit/shade.ts";
import { VarianceComb } from "../../chart-kit/variance-comb.tsx";
import { judgementColour, JudgementMark } from "../../figures/judgement.tsx";
import { judgementAt, kpiAt, writeMeasure, type CrossShape, type ShapedColumn, type ShapedRow } from "./shape.ts";
import { useGridWalk, type GridPlace } from "./use-grid-walk.ts";
import type { CrossMeasure, CrossTabAnswer } from "#core/panels/cross-tab/schema.ts";

const ROW = 26;
/** Few rows stand wider apart where there is room, up to this. */
const MOST_ROW = 56;
/** And few columns, by this factor. */
const MOST_STRETCH = 1.6;
const HEAD_ROW = 24;
/** What stands below the rows: the cell that is looked at, in words. */
const BELOW = 30;
/** From so many rows on, only those in sight are drawn. */
const MANY = 80;
const OVERSCAN = 6;
/** Rows that went out of sight are used again for those that come in, as long as no more than so many are. */
const POOL = 48;

/** What a grid answers to. */
export interface GridActions {
  /** The rows are ordered by a column of the answer, or another way, or no more. */
  readonly onSort: (column: number, measure: CrossMeasure) => void;
  readonly onAsk: (row: number, column: ShapedColumn) => void;
  readonly onEnter: (row: number, column: ShapedColumn, event: KeyboardEvent) => void;
  /** What a row's name answers to on one of its axes. */
  readonly rowHandlers: (
    row: number,
    depth: number,
  ) => { onClick?: (event: MouseEvent) => void; onDoubleClick?: (event: MouseEvent) => void };
}

const features = tableFeatures({});
const helper = createColumnHelper<typeof features, ShapedRow>();

interface HeadNode {
  readonly head: string;
  readonly columns: readonly ShapedColumn[];
}

/** Heads over heads: what stands beside each other under one name is gathered. */
function headsOf(columns: readonly ShapedColumn[], depth: number): ColumnDef<typeof features, ShapedRow>[] {
  const nodes: HeadNode[] = [];
  for (const column of columns) {
    const head = column.heads[depth] ?? "";
    const last = nodes.at(-1);
    if (last?.head === head && column.heads.length > depth + 1)
      nodes[nodes.length - 1] = { head, columns: [...last.columns, column] };
    else nodes.push({ head, columns: [column] });
  }
  return nodes.flatMap(({ head, columns: own }): ColumnDef<typeof features, ShapedRow>[] => {
    const [first] = own;
    if (own.length === 1 && first!.heads.length <= depth + 1) return [helper.display({ id: first!.key, header: head })];
    return [helper.group({ id: `${first!.key}|${depth}`, header: head, columns: headsOf(own, depth + 1) })];
  });
}

/** Figures in rows and columns, with heads that stay in sight; of many rows only those in sight are drawn. */
export function CrossGrid({
  data,
  shape,
  room: { width, height },
  label,
  isFaded,
  actions,
  partOf,
  wordsOf,
}: {
  data: CrossTabAnswer;
  shape: CrossShape;
  /** The place there is. */
  room: { readonly width: number; readonly height: number };
  label: string;
  isFaded: (row: number) => boolean;
  actions: GridActions;
  /** What is said of the weighed part of a cell. */
  partOf: ((row: number, column: ShapedColumn) => ReactNode) | null;
  /** A cell in full words, for the line below. */
  wordsOf: (row: number, column: ShapedColumn) => string;
}) {
  const id = useId();
  const holder = useRef<HTMLDivElement>(null);
  const { columns, rows, nameWidths } = shape;
  const defs = useMemo(() => headsOf(columns, 0), [columns]);
  const table = useTable({ features, columns: defs, data: rows });
  const groups = table.getHeaderGroups();
  const { virtual, isVirtual, from, to, isPooled, firstInSight } = useRowsInSight(rows.length, holder);
  const walk = useGridWalk(
    { rows: rows.length, columns: columns.length, page: 15 },
    {
      onMove: (place) => {
        if (isVirtual) virtual.scrollToIndex(place.row);
        requestAnimationFrame(() =>
          document
            .getElementById(`${id}-${place.row}-${place.column}`)
            ?.scrollIntoView({ block: "nearest", inline: "nearest" }),
        );
      },
      onEnter: ({ row, column }, event) => actions.onEnter(row, columns[column]!, event),
    },
  );
  const { look } = walk;
  const lefts = nameWidths.map((_, depth) => nameWidths.slice(0, depth).reduce((sum, width) => sum + width, 0));
  const { tableWidth, stretch, rowHeight, inSight } = measuresIn({ width, height }, shape, groups.length);
  return (
    <>
      <div ref={holder} className="min-h-0 flex-1 overflow-auto print:overflow-visible" onMouseLeave={() => look(null)}>
        <table
          role="grid"
          tabIndex={0}
          aria-label={label}
          aria-rowcount={rows.length + groups.length}
          aria-colcount={columns.length + nameWidths.length}
          aria-activedescendant={walk.at ? `${id}-${walk.at.row}-${walk.at.column}` : undefined}
          className="border-separate border-spacing-0 text-[13px] tabular-nums -outline-offset-2"
          style={{
            width: tableWidth,
            tableLayout: "fixed",
          }}
          onKeyDown={walk.onKeyDown}
          onBlur={() => look(null)}
        >
          <colgroup>
            {nameWidths.map((own, i) => (
              <col key={i} style={{ width: own }} />
            ))}
            {columns.map((column) => (
              <col key={column.key} style={{ width: column.width * stretch }} />
            ))}
          </colgroup>
          <Heads {...{ groups, data, shape, lefts, actions }} />
          <tbody>
            {from > 0 && <Gap height={from * ROW} />}
            {rows.slice(from, to).map((_, i) => {
              const r = from + i;
              return (
                <Row
                  key={isPooled ? r % POOL : r}
                  id={id}
                  r={r}
                  height={rowHeight}
                  index={r + groups.length + 1}
                  data={data}
                  shape={shape}
                  lefts={lefts}
                  saysAll={r === firstInSight}
                  active={walk.at?.row === r ? walk.at.column : null}
                  isFaded={isFaded(r)}
                  actions={actions}
                  look={look}
                  partOf={partOf}
                />
              );
            })}
            {to < rows.length && <Gap height={(rows.length - to) * ROW} />}
          </tbody>
        </table>
      </div>
      <p role="status" className="min-h-[20px] truncate pt-1 text-[12.5px] text-slate print:hidden">
        {walk.at && columns[walk.at.column]
          ? wordsOf(walk.at.row, columns[walk.at.column]!)
          : inSight < rows.length && height > 0
            ? `${Math.max(0, inSight)} of ${rows.length} rows in view: scroll for the others.`
            : ""}
      </p>
    </>
  );
}

/** Of many rows those in sight, with some around them; of a few all. */
function useRowsInSight(count: number, holder: RefObject<HTMLDivElement | null>) {
  const isVirtual = count > MANY;
  // oxlint-disable-next-line react/incompatible-library -- What is in sight changes with every scroll: nothing of it may be kept.
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => holder.current,
    estimateSize: () => ROW,
    overscan: OVERSCAN,
    enabled: isVirtual,
  });
  const items = virtual.getVirtualItems();
  const [from, to] = isVirtual ? [items[0]?.index ?? 0, (items.at(-1)?.index ?? -1) + 1] : [0, count];
  return {
    virtual,
    isVirtual,
    from,
    to,
    isPooled: isVirtual && to - from <= POOL,
    firstInSight: isVirtual ? (virtual.range?.startIndex ?? 0) : 0,
  };
}

/** How wide and high rows and columns are drawn, so that they fill the place there is; how many rows are in sight. */
function measuresIn(
  { width, height }: { width: number; height: number },
  { columns, rows, nameWidths }: CrossShape,
  heads: number,
) {
  const room = height - heads * HEAD_ROW - BELOW;
  const named = nameWidths.reduce((sum, own) => sum + own, 0);
  const natural = columns.reduce((sum, column) => sum + column.width, 0);
  const stretch = Math.max(1, Math.min(MOST_STRETCH, (width - named) / Math.max(1, natural)));
  const spread = Math.floor(room / Math.max(1, rows.length));
  const rowHeight = rows.length > MANY ? ROW : Math.max(ROW, Math.min(MOST_ROW, spread));
  return { tableWidth: named + natural * stretch, stretch, rowHeight, inSight: Math.floor(room / rowHeight) };
}

/** The heads of the columns, level by level, and of the names of rows; they stay in sight. */
function Heads({
  groups,
  data,
  shape: { columns, nameWidths },
  lefts,
  actions,
}: {
  groups: readonly HeaderGroup<typeof features, ShapedRow>[];
  data: CrossTabAnswer;
  shape: CrossShape;
  /** Where each column of names begins. */
  lefts: readonly number[];
  actions: GridActions;
}) {
  return (
    <thead>
      {groups.map((group, g) => (
        <tr key={group.id} role="row" aria-rowindex={g + 1}>
          {nameWidths.map((_, depth) => (
            <th
              key={depth}
              scope="col"
              role="columnheader"
              aria-colindex={depth + 1}
              className={`sticky z-30 truncate bg-panel px-1 text-left align-bottom font-normal text-slate ${g === groups.length - 1 ? "border-b border-ink/40" : ""}`}
              style={{ left: lefts[depth], top: g * HEAD_ROW, height: HEAD_ROW }}
            >
              {g === groups.length - 1 ? data.rows.axes[depth]!.noun : <span className="sr-only">of rows</span>}
            </th>
          ))}
          {group.headers.map((header) => {
            const isLeaf = header.subHeaders.length === 0;
            const shaped = isLeaf ? columns.find(({ key }) => key === header.column.id) : undefined;
            const name = header.isPlaceholder ? "" : String(header.column.columnDef.header ?? "");
            return (
              <th
                key={header.id}
                scope={isLeaf ? "col" : "colgroup"}
                role="columnheader"
                colSpan={header.colSpan}
                aria-sort={
                  shaped && isSorted(data, shaped) ? (data.sort!.isRising ? "ascending" : "descending") : undefined
                }
                className={`sticky z-20 bg-panel px-1 align-bottom font-normal text-slate ${isLeaf ? "border-b border-ink/40 text-right" : name === "" ? "" : "border-b border-thread text-center"}`}
                style={{ top: g * HEAD_ROW, height: HEAD_ROW }}
              >
                {shaped ? (
                  <SortButton
                    name={name}
                    shaped={shaped}
                    data={data}
                    onSort={() => actions.onSort(shaped.column, shaped.measure)}
                  />
                ) : (
                  <span className="block truncate font-semibold text-ink" title={name}>
                    {name}
                  </span>
                )}
              </th>
            );
          })}
        </tr>
      ))}
    </thead>
  );
}

function Gap({ height }: { height: number }) {
  return (
    <tr role="presentation" aria-hidden="true">
      <td style={{ height, padding: 0 }} />
    </tr>
  );
}

function isSorted({ sort, columns }: CrossTabAnswer, { column, measure }: ShapedColumn): boolean {
  return sort !== null && sort.measure === measure && sort.column === columnKey(columns, column);
}

/** A column of an answer by the keys of its places, as a sorting names it. */
export function columnKey({ axes, lines }: CrossTabAnswer["columns"], column: number): string {
  return lines[column]!.map((at, depth) => (at === null ? "*" : axes[depth]!.entries[at]!.key)).join("|");
}

function SortButton({
  name,
  shaped,
  data,
  onSort,
}: {
  name: string;
  shaped: ShapedColumn;
  data: CrossTabAnswer;
  onSort: () => void;
}) {
  const isOn = isSorted(data, shaped);
  return (
    <button
      type="button"
      title={`${shaped.heads.join(", ")}: order the rows by it`}
      className={`inline-flex min-h-[24px] max-w-full items-center justify-end gap-0.5 hover:text-ink hover:underline ${isOn ? "font-semibold text-ink" : ""}`}
      onClick={onSort}
    >
      {isOn &&
        (data.sort!.isRising ? <ArrowUp size={11} aria-hidden="true" /> : <ArrowDown size={11} aria-hidden="true" />)}
      <span className="truncate">{name}</span>
    </button>
  );
}

interface RowProps {
  readonly id: string;
  readonly r: number;
  readonly index: number;
  readonly data: CrossTabAnswer;
  readonly shape: CrossShape;
  readonly lefts: readonly number[];
  /** Whether it says the names of its groups again, since theirs may be out of sight. */
  readonly saysAll: boolean;
  readonly height: number;
  readonly active: number | null;
  readonly isFaded: boolean;
  readonly actions: GridActions;
  readonly look: (place: GridPlace | null) => void;
  readonly partOf: ((row: number, column: ShapedColumn) => ReactNode) | null;
}

/** A row; while others scroll by, it is not drawn again. */
const Row = memo(
  function Row({
    id,
    r,
    height,
    index,
    data,
    shape,
    lefts,
    saysAll,
    active,
    isFaded,
    actions,
    look,
    partOf,
  }: RowProps) {
    const { names, fullNames, isTotal, isFirst } = shape.rows[r]!;
    const line = isTotal
      ? "border-t border-ink/40 font-semibold"
      : isFirst
        ? "border-t border-thread"
        : "border-t border-thread/50";
    return (
      <tr role="row" aria-rowindex={index} style={{ height }} className="hover:bg-chosen/60">
        {names.map((name, depth) => {
          const handlers = actions.rowHandlers(r, depth);
          const text = name ?? (saysAll ? fullNames[depth]! : "");
          return (
            <th
              key={depth}
              scope="row"
              role="rowheader"
              aria-colindex={depth + 1}
              title={fullNames[depth]}
              className={`sticky z-10 truncate bg-panel px-1 text-left ${isTotal ? "" : "font-normal"} ${line} ${isFaded ? "text-slate" : ""} ${handlers.onClick ? "cursor-pointer hover:underline" : ""}`}
              style={{ left: lefts[depth], maxWidth: shape.nameWidths[depth] }}
              {...handlers}
            >
              {text === "" ? <span className="sr-only">{fullNames[depth]}</span> : text}
            </th>
          );
        })}
        {shape.columns.map((column, c) => (
          <Cell
            key={column.key}
            id={`${id}-${r}-${c}`}
            r={r}
            column={column}
            data={data}
            shape={shape}
            line={line}
            isActive={active === c}
            isFaded={isFaded}
            onAsk={() => actions.onAsk(r, column)}
            onLook={() => look({ row: r, column: c })}
            part={partOf && column.measure === "value" ? partOf(r, column) : null}
          />
        ))}
      </tr>
    );
  },
  (a, b) =>
    (["id", "r", "height", "index", "data", "shape", "saysAll", "active", "isFaded", "partOf"] as const).every(
      (part) => a[part] === b[part],
    ),
);

function Cell({
  id,
  r,
  column,
  data,
  shape,
  line,
  isActive,
  isFaded,
  onAsk,
  onLook,
  part,
}: {
  id: string;
  r: number;
  column: ShapedColumn;
  data: CrossTabAnswer;
  shape: CrossShape;
  line: string;
  isActive: boolean;
  isFaded: boolean;
  onAsk: () => void;
  onLook: () => void;
  part: ReactNode;
}) {
  const { measure } = column;
  const figures = data.cells[column.column]!.figures[measure]!;
  const value = figures.values[r] ?? null;
  const kpi = kpiAt(data, r, column.column);
  const judgement =
    measure === "delta" || measure === "delta-percent" || data.shade === "judgement"
      ? judgementAt(data, r, column.column)
      : null;
  const background = value === null ? undefined : shadeAt(data, shape, r, column, value, judgement);
  const isDelta = measure === "delta" || measure === "delta-percent";
  return (
    <td
      id={id}
      role="gridcell"
      className={`cursor-pointer px-1.5 text-right whitespace-nowrap ${line} ${column.isTotal ? "font-semibold" : ""} ${isFaded ? "text-slate" : ""}`}
      style={{
        ...(background === undefined ? {} : { background }),
        ...(isDelta && judgement ? { color: judgementColour(judgement) } : {}),
        ...(isActive ? { outline: "1.5px solid var(--ink)", outlineOffset: "-1.5px" } : {}),
      }}
      onClick={onAsk}
      onMouseMove={onLook}
    >
      {value === null ? (
        <span className="text-slate" aria-label="absent">
          –
        </span>
      ) : (
        <>
          {measure === "delta" && judgement && (
            <span className="float-left">
              <JudgementMark judgement={judgement} as="mark" />
            </span>
          )}
          {measure === "delta-percent" && (
            <span className="float-left">
              <VarianceComb
                variance={{
                  tolerances: data.cells[column.column]!.tolerances[r] ?? null,
                  judgement,
                }}
              />
            </span>
          )}
          {writeMeasure(measure, value, kpi, data)}
          {part}
        </>
      )}
    </td>
  );
}

const TONES = { favourable: "var(--verdigris)", unfavourable: "var(--madder)" } as const;

/** The shade of a cell by its value, or by how many tolerances it is off; totals are not shaded by value. */
function shadeAt(
  data: CrossTabAnswer,
  { scales, rows }: CrossShape,
  r: number,
  { measure, isTotal, column }: ShapedColumn,
  value: number,
  judgement: ReturnType<typeof judgementAt>,
): string | undefined {
  if (measure !== "value" || data.shade === "none") return undefined;
  if (data.shade === "judgement") {
    if (judgement !== "favourable" && judgement !== "unfavourable") return undefined;
    const tolerances = Math.abs(data.cells[column]!.tolerances[r] ?? 0);
    return shadeOf(TONES[judgement], Math.min(1, tolerances / 6));
  }
  if (isTotal || rows[r]!.isTotal) return undefined;
  const scale = scales.get(kpiAt(data, r, column).key);
  if (!scale) return undefined;
  return shadeOf("var(--indigo)", scale.high === scale.low ? 0.5 : (value - scale.low) / (scale.high - scale.low));
}
