import { ChevronDown, ChevronRight } from "lucide-react";
import { Fragment, useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import { valueStyle } from "#core/words/number-words.ts";
import { formatScope } from "#contract/frame.ts";
import type { MemberRows, ScorecardAnswer, ScorecardRowAnswer } from "#contract/panels.ts";
import { useMemberRows, type FrameParams } from "../../app/questions.ts";
import { JudgementMark } from "../../ui/judgement.tsx";
import { CoverageGlyph, NoteMark } from "../note-mark.tsx";
import { columnsOf, shortUnit, type CellContext, type Column } from "./columns.tsx";
import type { PanelPlace } from "../panel-place.ts";

const YIELDS = "hidden @min-[640px]:table-cell";

interface Sorting {
  readonly column: string;
  readonly isDescending: boolean;
}

/** KPIs by row in groups: sorted by a column, groups collapsed, rows opened by the members of a dimension. */
export function ScorecardTable({
  data,
  place,
  frame,
  chosen,
  onChoose,
  onAsk,
}: {
  data: ScorecardAnswer;
  place: PanelPlace;
  frame: FrameParams;
  chosen: string | undefined;
  onChoose: (kpi: string) => void;
  onAsk: CellContext["onAsk"];
}) {
  const [sorting, setSorting] = useState<Sorting | null>(null);
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const table = useRef<HTMLTableElement>(null);
  const { words } = data.frame;
  const columns = columnsOf(data);
  const allRows = data.groups.flatMap((g) => g.rows);
  const context: CellContext = { data, limit: beadLimit(allRows), onAsk };
  const sorted = columns.find((column) => column.key === sorting?.column);
  const groups = data.groups.map((group) => ({
    ...group,
    rows: sorted && sorting ? sortRows(group.rows, sorted, sorting.isDescending) : group.rows,
  }));
  const shown = groups.flatMap((group) => (closed.has(group.title) ? [] : group.rows));
  const moveRow = (event: KeyboardEvent) => {
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
  const sortBy = (column: string) =>
    setSorting((now) =>
      now?.column !== column
        ? { column, isDescending: true }
        : now.isDescending
          ? { column, isDescending: false }
          : null,
    );
  return (
    <div className="@container max-h-[calc(100vh-6rem)] overflow-auto px-3 pb-3 print:max-h-none print:overflow-visible">
      <table ref={table} className="w-full border-collapse text-[13px]" onKeyDown={moveRow}>
        <caption className="sr-only">
          Scorecard, {words.span} to {words.asOf}, against {words.basis}, for {words.scope}
        </caption>
        <thead className="sticky top-0 z-10 bg-panel">
          <tr className="align-bottom text-slate">
            <th scope="col" className="sticky left-0 bg-panel pt-3 pl-2 text-left font-normal">
              KPI
            </th>
            {columns.map((column) => (
              <Head key={column.key} column={column} data={data} sorting={sorting} onSort={() => sortBy(column.key)} />
            ))}
          </tr>
        </thead>
        {groups.map((group) => {
          const isClosed = closed.has(group.title);
          return (
            <tbody key={group.title}>
              <tr>
                <th scope="rowgroup" colSpan={columns.length + 1} className="pt-2 pb-0.5 text-left font-normal">
                  <button
                    type="button"
                    aria-expanded={!isClosed}
                    className="flex items-center gap-1 font-serif text-[14px] text-slate hover:text-ink"
                    onClick={() => setClosed(toggled(closed, group.title))}
                  >
                    {group.title}
                    {isClosed && <ChevronRight size={13} aria-hidden="true" />}
                    {isClosed && <span className="font-sans text-[12px]">{group.rows.length} KPIs</span>}
                  </button>
                </th>
              </tr>
              {!isClosed &&
                group.rows.map((row) => {
                  const isOpen = opened.has(row.kpi.key);
                  return (
                    <Fragment key={row.kpi.key}>
                      <KpiRow
                        row={row}
                        columns={columns}
                        context={context}
                        isChosen={row.kpi.key === chosen}
                        onChoose={onChoose}
                        opener={
                          data.expandBy && (
                            <Opener
                              label={`${row.kpi.name} by ${data.expandBy.name.toLowerCase()}`}
                              isOpen={isOpen}
                              onClick={() => setOpened(toggled(opened, row.kpi.key))}
                            />
                          )
                        }
                      />
                      {isOpen && (
                        <Members kpi={row.kpi.key} parent={null} depth={1} {...{ place, frame, columns, context }} />
                      )}
                    </Fragment>
                  );
                })}
            </tbody>
          );
        })}
      </table>
      <Key hasNotes={allRows.some((r) => r.notes.length > 0)} />
    </div>
  );
}

function Head({
  column,
  data,
  sorting,
  onSort,
}: {
  column: Column;
  data: ScorecardAnswer;
  sorting: Sorting | null;
  onSort: () => void;
}) {
  const isSorted = sorting?.column === column.key;
  const isSortable = column.key !== "trend" && column.key !== "words";
  return (
    <th
      scope="col"
      className={`pt-3 pl-1.5 font-normal ${column.isText ? "text-left" : "text-right"} ${column.yields ? YIELDS : ""}`}
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
          {column.head(data)}
        </button>
      ) : (
        column.head(data)
      )}
    </th>
  );
}

function KpiRow({
  row,
  columns,
  context,
  isChosen,
  onChoose,
  opener,
}: {
  row: ScorecardRowAnswer;
  columns: readonly Column[];
  context: CellContext;
  isChosen: boolean;
  onChoose: (kpi: string) => void;
  opener: ReactNode;
}) {
  const { kpi } = row;
  const unit = valueStyle(kpi.unit, kpi.decimals, context.data.frame.unit).unitName;
  const fallback =
    row.isFallback && !(kpi.unit.kind === "percent" && context.data.columns.includes("delta-percent"))
      ? `against ${row.basisName}`
      : undefined;
  return (
    <tr
      data-kpi={kpi.key}
      className={`border-t border-thread/70 ${isChosen ? "bg-chosen" : "bg-panel hover:bg-chosen"}`}
    >
      <th
        scope="row"
        className={`sticky left-0 bg-inherit py-[3.5px] pr-1 text-left font-normal whitespace-nowrap ${isChosen ? "shadow-[inset_3px_0_0_var(--indigo)]" : ""}`}
      >
        {opener}
        <button
          type="button"
          aria-pressed={isChosen}
          title={kpi.description}
          className="pl-1 text-left whitespace-nowrap"
          onClick={() => onChoose(kpi.key)}
        >
          <span className={isChosen ? "font-semibold" : ""}>{kpi.name}</span>{" "}
          <span className="text-[11.5px] whitespace-nowrap text-slate">{shortUnit(unit, kpi.name)}</span>
        </button>
        <NoteMark notes={row.notes} label={fallback} />
      </th>
      <Cells row={row} columns={columns} context={context} />
    </tr>
  );
}

function Cells({
  row,
  columns,
  context,
}: {
  row: ScorecardRowAnswer;
  columns: readonly Column[];
  context: CellContext;
}) {
  return columns.map((column) => (
    <td
      key={column.key}
      className={`pl-1.5 whitespace-nowrap ${column.isText ? "text-left" : "text-right"} ${column.yields ? YIELDS : ""}`}
    >
      {column.cell(row, context)}
    </td>
  ));
}

interface MembersProps {
  readonly kpi: string;
  readonly parent: string | null;
  readonly depth: number;
  readonly place: PanelPlace;
  readonly frame: FrameParams;
  readonly columns: readonly Column[];
  readonly context: CellContext;
}

/** A KPI's rows by the members below one of them; each opens further where it has members below. */
function Members(props: MembersProps) {
  const { kpi, parent, depth, place, frame, columns, context } = props;
  const answer = useMemberRows(place, frame, kpi, parent);
  if (!answer.data)
    return (
      <tr>
        <td colSpan={columns.length + 1} className="py-1 pl-8 text-slate">
          {answer.error ? answer.error.message : <div className="waiting h-4 w-1/2" />}
        </td>
      </tr>
    );
  if (answer.data.rows.length === 0)
    return (
      <tr>
        <td colSpan={columns.length + 1} className="py-1 pl-8 text-slate">
          There are no members inside the scope.
        </td>
      </tr>
    );
  return answer.data.rows.map((entry) => (
    <MemberRow key={entry.member.key} {...props} entry={entry} depth={depth} context={within(context, entry.member)} />
  ));
}

/** Figures of a member lead to where they come from in its own scope. */
function within(context: CellContext, { scope }: MemberRows["rows"][number]["member"]): CellContext {
  return { ...context, onAsk: (kpi, side) => context.onAsk(kpi, side, formatScope(scope)) };
}

function MemberRow({ entry, ...props }: MembersProps & { entry: MemberRows["rows"][number] }) {
  const [isOpen, setOpen] = useState(false);
  const { depth, columns, context } = props;
  return (
    <>
      <tr className="border-t border-thread/40 bg-panel text-[12.5px]">
        <th
          scope="row"
          className="sticky left-0 bg-inherit py-[2.5px] pr-1 text-left font-normal whitespace-nowrap"
          style={{ paddingLeft: depth * 18 }}
        >
          {entry.member.hasBelow ? (
            <Opener label={entry.member.name} isOpen={isOpen} onClick={() => setOpen(!isOpen)} />
          ) : (
            <span className="inline-block w-[24px]" />
          )}
          <span className="pl-1">{entry.member.name}</span>
          <NoteMark notes={entry.row.notes} />
        </th>
        <Cells row={entry.row} columns={columns} context={context} />
      </tr>
      {isOpen && <Members {...props} parent={entry.member.key} depth={depth + 1} />}
    </>
  );
}

function Opener({ label, isOpen, onClick }: { label: string; isOpen: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-label={`Open ${label}`}
      title={label}
      aria-expanded={isOpen}
      onClick={onClick}
      className="-my-1 inline-grid h-[24px] w-[24px] place-items-center align-middle text-slate/70 hover:text-ink print:hidden"
    >
      {isOpen ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
    </button>
  );
}

/** What the shapes and letters of the table stand for. */
function Key({ hasNotes }: { hasNotes: boolean }) {
  return (
    <ul className="mt-2 flex flex-wrap gap-x-4 gap-y-0.5 border-t border-thread/70 pt-2 text-[11.5px] text-slate">
      {(["favourable", "unfavourable", "on plan"] as const).map((judgement) => (
        <li key={judgement} className="flex items-center gap-1.5">
          <span aria-hidden="true">
            <JudgementMark judgement={judgement} short />
          </span>
          {judgement === "on plan" ? "inside the KPI's tolerance" : judgement}
        </li>
      ))}
      {hasNotes && (
        <li className="flex items-center gap-1.5">
          <CoverageGlyph />
          something is left out or compared otherwise
        </li>
      )}
    </ul>
  );
}

/** All rows share one zero line and one scale; a single outlier must not flatten the rest. */
function beadLimit(rows: readonly ScorecardRowAnswer[]): number {
  const sizes = rows
    .flatMap((r) =>
      "value" in r.variance.deltaPercent && r.kpi.unit.kind !== "percent"
        ? Math.abs(r.variance.deltaPercent.value)
        : [],
    )
    .sort((a, b) => a - b);
  const typical = sizes[Math.floor(sizes.length * 0.9)] ?? 0;
  return Math.max(0.02, Math.min(sizes.at(-1) ?? 0, typical * 2));
}

/** Rows with a value first, in its order; those without keep theirs behind. */
export function sortRows(
  rows: readonly ScorecardRowAnswer[],
  { sortValue }: Pick<Column, "sortValue">,
  isDescending: boolean,
): ScorecardRowAnswer[] {
  return [...rows].sort((a, b) => {
    const [x, y] = [sortValue(a), sortValue(b)];
    if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
    return isDescending ? y - x : x - y;
  });
}

function toggled(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}
