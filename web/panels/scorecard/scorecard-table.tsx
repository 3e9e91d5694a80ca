import { ChevronRight } from "lucide-react";
import { Fragment, useMemo, useRef, useState, type HTMLAttributes, type KeyboardEvent, type RefObject } from "react";
import { LegendMark } from "../../figures/scenario-mark.tsx";
import { OutsideSign } from "../../chart-kit/outside-mark.tsx";
import { JudgementMark } from "../../figures/judgement.tsx";
import { useSize } from "../../ui/use-size.ts";
import type { DragOrderProps } from "../../ui/drag-order.ts";
import { useLatest } from "../../ui/use-latest.ts";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { CoverageGlyph } from "../../panel-frame/note-mark.tsx";
import { LinkButton } from "../../panel-frame/panel-foot.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { directArrange } from "./direct-arrange.ts";
import { columnsOf, type CellContext, type Column } from "./columns.tsx";
import { COMPACT_BELOW, COMPACT_COLUMNS, columnsAfter, useStepsToFit } from "./giving-way.ts";
import { sortRows } from "./row-order.ts";
import { KpiRow, Members } from "./scorecard-rows.tsx";
import type { ScorecardAnswer } from "#core/panels/scorecard/schema.ts";
import type { KpiRow as KpiRowAnswer } from "#core/panels/parts/schema.ts";

interface Sorting {
  readonly column: string;
  readonly isDescending: boolean;
}

/** KPIs by row in groups: sorted by a column, groups collapsed, rows opened by the members of a dimension. */
export function ScorecardTable({
  data,
  part,
  view,
}: {
  data: ScorecardAnswer;
  /** The same rows of the part that is weighed. */
  part: ScorecardAnswer | undefined;
  view: PanelProps<"scorecard">;
}) {
  const { asked, leads, actions } = view;
  const chosen = leads?.kpi;
  const onChoose = (kpi: string) => {
    setTapped((now) => (now === kpi ? null : kpi));
    leads?.choose(kpi);
  };
  const onAsk: CellContext["onAsk"] = (kpi, side, scope) => actions.ask(formatFigureAddress(kpi, side), scope);
  const [sorting, setSorting] = useState<Sorting | null>(null);
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const table = useRef<HTMLTableElement>(null);
  const { words } = data.frame;
  const box = useRef<HTMLDivElement>(null);
  const { all, columns, leftOut, isCompact, isStatusShort, holder } = useFittingColumns(data, box);
  /** The row whose other columns are shown below it. */
  const [tapped, setTapped] = useState<string | null>(null);
  const rest = useMemo(() => all.filter((column) => !columns.includes(column)), [all, columns]);
  const allRows = useMemo(() => data.groups.flatMap((g) => g.rows), [data]);
  const ask = useLatest(onAsk);
  const choose = useLatest(onChoose);
  const toggle = useLatest((kpi: string) => setOpened(toggled(opened, kpi)));
  const context = useMemo<CellContext>(
    () => ({
      data,
      isStatusShort: isStatusShort || isCompact,
      isCompact,
      onAsk: ask,
      parts: new Map(part?.groups.flatMap((group) => group.rows.map((row) => [row.kpi.key, row.actual]))),
    }),
    [data, isStatusShort, isCompact, ask, part],
  );
  const sorted = columns.find((column) => column.key === sorting?.column);
  const groups = data.groups.map((group) => ({
    ...group,
    rows: sorted && sorting ? sortRows(group.rows, sorted, sorting.isDescending) : group.rows,
  }));
  const shown = groups.flatMap((group) => (closed.has(group.title) ? [] : group.rows));
  // Sorted rows have no order to arrange.
  const direct = actions.arrange && !sorting ? directArrange(view.panel, actions.arrange) : null;
  const moveRow = (event: KeyboardEvent) => {
    if (direct?.onKey(event)) {
      event.preventDefault();
      return;
    }
    if (event.altKey) return;
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0) return;
    event.preventDefault();
    const cell = (event.target as HTMLElement).closest<HTMLTableCellElement>("td, th");
    const index = shown.findIndex((r) => r.kpi.key === (event.target as HTMLElement).closest("tr")?.dataset["kpi"]);
    const next = shown[index + step];
    if (!cell || !next) return;
    onChoose(next.kpi.key);
    const row = table.current?.querySelector<HTMLTableRowElement>(`tr[data-kpi="${next.kpi.key}"]`);
    const name = row?.querySelector<HTMLButtonElement>("button[aria-pressed]");
    const inCell = cell.cellIndex === 0 ? null : row?.cells[cell.cellIndex]?.querySelector("button");
    (inCell ?? name)?.focus();
  };
  const linkOf = (kpi: string) => {
    const link = view.panel.links?.[kpi];
    return link && <LinkButton link={link} isShort onFollow={() => actions.follow(link)} />;
  };
  const sortBy = (column: string) => setSorting((now) => nextSorting(now, column));
  return (
    <div ref={holder}>
      <div ref={box} className="relative overflow-x-auto px-3 pb-2 max-sm:px-1.5 print:overflow-visible">
        <table ref={table} className="w-full border-collapse text-[13px]" onKeyDown={moveRow}>
          <caption className="sr-only">
            Scorecard, {words.span} to {words.asOf}, against {words.basis}, for {words.scope}
          </caption>
          <thead>
            <tr className="align-bottom text-slate">
              <th scope="col" className="sticky left-0 bg-panel pt-2 pl-2 text-left font-normal">
                KPI
              </th>
              {columns.map((column) => (
                <Head
                  key={column.key}
                  column={column}
                  isCompact={isCompact}
                  data={data}
                  sorting={sorting}
                  onSort={() => sortBy(column.key)}
                  drag={direct?.column(column.key)}
                />
              ))}
            </tr>
          </thead>
          {groups.map((group) => {
            const isClosed = closed.has(group.title);
            return (
              <tbody key={group.title}>
                <GroupHead
                  {...group}
                  isClosed={isClosed}
                  width={columns.length + 1}
                  drag={direct?.group(group.title)}
                  onToggle={() => setClosed(toggled(closed, group.title))}
                />
                {!isClosed &&
                  group.rows.map((row) => {
                    const isOpen = opened.has(row.kpi.key);
                    return (
                      <Fragment key={row.kpi.key}>
                        <KpiRow
                          {...{ row, columns, context, isOpen }}
                          isChosen={row.kpi.key === chosen}
                          onChoose={choose}
                          onToggle={toggle}
                          link={linkOf(row.kpi.key)}
                          drag={direct?.row(row.kpi.key)}
                        />
                        {isCompact && tapped === row.kpi.key && (
                          <Rest row={row} columns={rest} context={context} width={columns.length + 1} />
                        )}
                        {isOpen && (
                          <Members kpi={row.kpi.key} parent={null} depth={1} {...{ asked, view, columns, context }} />
                        )}
                      </Fragment>
                    );
                  })}
              </tbody>
            );
          })}
        </table>
        <Key
          hasNotes={allRows.some((r) => r.notes.length > 0)}
          hasOutside={allRows.some((r) => r.outside !== null)}
          leftOut={leftOut}
          hasComb={columns.some(({ key }) => key === (isCompact ? "delta" : "delta-percent"))}
          isCompact={isCompact}
          others={otherBases(allRows)}
        />
      </div>
    </div>
  );
}

/** Columns as there is room for them: on a narrow screen the first few, else without those that matter least. */
function useFittingColumns(data: ScorecardAnswer, box: RefObject<HTMLDivElement | null>) {
  const [{ width }, holder] = useSize();
  const isCompact = width > 0 && width < COMPACT_BELOW;
  const all = useMemo(() => columnsOf(data), [data]);
  const offered = useMemo(
    () => (isCompact ? all.filter(({ key }) => COMPACT_COLUMNS.includes(key)) : all),
    [all, isCompact],
  );
  const steps = useStepsToFit(box, offered, data);
  const fitting = useMemo(() => columnsAfter(offered, steps), [offered, steps]);
  return { all, isCompact, holder, ...fitting };
}

/** Descending first, then ascending, then as it was. */
function nextSorting(now: Sorting | null, column: string): Sorting | null {
  if (now?.column !== column) return { column, isDescending: true };
  return now.isDescending ? { column, isDescending: false } : null;
}

/** The line above a group's KPIs, by which it is opened and closed. */
function GroupHead({
  title,
  rows,
  isClosed,
  width,
  drag,
  onToggle,
}: {
  title: string;
  rows: readonly KpiRowAnswer[];
  isClosed: boolean;
  width: number;
  drag: HTMLAttributes<HTMLTableRowElement> | undefined;
  onToggle: () => void;
}) {
  return (
    <tr data-group={title} {...drag}>
      <th scope="rowgroup" colSpan={width} className="pt-2 pb-0.5 text-left font-normal">
        <button
          type="button"
          aria-expanded={!isClosed}
          className="flex items-center gap-1 font-serif text-[14px] text-slate hover:text-ink"
          onClick={onToggle}
        >
          {title}
          {isClosed && <ChevronRight size={13} aria-hidden="true" />}
          {isClosed && <span className="font-sans text-[12px]">{rows.length} KPIs</span>}
        </button>
      </th>
    </tr>
  );
}

/** What a compact row has no room for, below it. */
function Rest({
  row,
  columns,
  context,
  width,
}: {
  row: KpiRowAnswer;
  columns: readonly Column[];
  context: CellContext;
  width: number;
}) {
  return (
    <tr className="bg-chosen">
      <td colSpan={width} className="px-2 pb-2">
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5">
          {columns.map((column) => (
            <div key={column.key} className="contents">
              <dt className="text-slate">{column.name}</dt>
              <dd className="text-right">{column.cell(row, context)}</dd>
            </div>
          ))}
        </dl>
      </td>
    </tr>
  );
}

function Head({
  column,
  isCompact,
  data,
  sorting,
  onSort,
  drag,
}: {
  column: Column;
  isCompact: boolean;
  data: ScorecardAnswer;
  sorting: Sorting | null;
  onSort: () => void;
  /** What makes it one that is dragged among the others; `undefined` while the page is only read. */
  drag: DragOrderProps | undefined;
}) {
  const isSorted = sorting?.column === column.key;
  const isSortable = column.key !== "trend" && column.key !== "words";
  return (
    <th
      scope="col"
      data-column={column.key}
      {...drag}
      className={`${drag ? "cursor-grab" : ""} pt-2 ${isCompact ? "pl-1.5" : "pl-3"} font-normal ${column.isText ? "text-left" : "text-right"}`}
      {...(isSorted ? { "aria-sort": sorting.isDescending ? ("descending" as const) : ("ascending" as const) } : {})}
    >
      {isSortable ? (
        <button
          type="button"
          onClick={onSort}
          title={`Sort by ${column.name}`}
          className={`w-full hover:text-ink ${column.isText ? "text-left" : "text-right"}`}
        >
          {isSorted && <span aria-hidden="true">{sorting.isDescending ? "↓ " : "↑ "}</span>}
          {column.head(data, isCompact)}
        </button>
      ) : (
        column.head(data, isCompact)
      )}
    </th>
  );
}

/** What the shapes and letters of the table stand for. */
function Key({
  hasNotes,
  hasOutside,
  hasComb,
  leftOut,
  isCompact,
  others,
}: {
  hasNotes: boolean;
  hasOutside: boolean;
  /** Whether a column has combs: beside Δ%, or beside Δ where there is no room for it. */
  hasComb: boolean;
  /** Whether the other columns come on a tap. */
  isCompact: boolean;
  leftOut: readonly Column[];
  others: readonly Pick<KpiRowAnswer, "basisCode" | "basisName">[];
}) {
  return (
    <ul className="mt-2 flex flex-wrap gap-x-4 gap-y-0.5 border-t border-thread/70 pt-2 text-[11.5px] text-slate">
      {(["favourable", "unfavourable", "on plan"] as const).map((judgement) => (
        <li key={judgement} className="flex items-center gap-1.5">
          <span aria-hidden="true">
            <JudgementMark judgement={judgement} as="letter" />
          </span>
          {judgement === "on plan" ? "inside the KPI's tolerance" : judgement}
        </li>
      ))}
      {hasNotes && (
        <li className="flex items-center gap-1.5">
          <CoverageGlyph />
          something is left out, or compared with another basis
        </li>
      )}
      {hasOutside && (
        <li className="flex items-center gap-1.5">
          <OutsideSign />
          the month is unusual
        </li>
      )}
      {hasComb && <li>comb: a tooth for each tolerance above (right) or below (left), a dot inside it</li>}
      {others.map(({ basisCode, basisName }) => (
        <li key={basisName} className="flex items-center gap-1.5">
          <LegendMark code={basisCode} asLine={false} />
          compared with {basisName}
        </li>
      ))}
      {isCompact && <li className="text-ink">Tap a KPI to see the rest.</li>}
      {!isCompact && leftOut.length > 0 && (
        <li className="text-ink">Hidden to fit: {leftOut.map((column) => column.name).join(", ")}.</li>
      )}
    </ul>
  );
}

/** What single KPIs are compared with instead, because the frame's basis does not have them. */
function otherBases(rows: readonly KpiRowAnswer[]): readonly KpiRowAnswer[] {
  return [...new Map(rows.filter((row) => row.isFallback).map((row) => [row.basisName, row])).values()];
}

function toggled(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}
