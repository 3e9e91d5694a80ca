import { ChevronDown, ChevronRight } from "lucide-react";
import { memo, useState, type ReactNode } from "react";
import { valueStyle } from "#core/formats/number-words.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { DetailOf } from "#core/panels/schemas.ts";
import { usePanelDetail } from "../../client/panel-answers.ts";
import type { DragOrderProps } from "../../ui/drag-order.ts";
import { OutsideNote } from "../../panel-frame/outside-note.tsx";
import { NoteMark } from "../../panel-frame/note-mark.tsx";
import { pickHandlers } from "../../chart-kit/mark.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { shortUnit, type CellContext, type Column } from "./columns.tsx";
import type { AskedPanel } from "../../client/asked-panel.ts";
import type { KpiRow as KpiRowAnswer } from "#core/panels/parts/schema.ts";

type MemberRows = DetailOf<"scorecard">;

/** A KPI's row. Remembered: with many rows, choosing or sorting draws only those that changed. */
export const KpiRow = memo(function KpiRow({
  row,
  columns,
  context,
  isChosen,
  onChoose,
  isOpen,
  onToggle,
  link,
  drag,
}: {
  row: KpiRowAnswer;
  columns: readonly Column[];
  context: CellContext;
  isChosen: boolean;
  onChoose: (kpi: string) => void;
  isOpen: boolean;
  onToggle: (kpi: string) => void;
  /** The way to the page with the detail. */
  link: ReactNode;
  /** What makes it one that is dragged among the others; `undefined` while the page is only read. */
  drag: DragOrderProps | undefined;
}) {
  const { kpi } = row;
  const { expandBy } = context.data;
  const unit = valueStyle(kpi.unit, kpi.decimals, context.data.frame.unit).unitName;
  return (
    <tr
      data-kpi={kpi.key}
      {...drag}
      className={`${drag ? "cursor-grab" : ""} border-t border-thread/70 ${isChosen ? "bg-chosen" : "bg-panel hover:bg-chosen"}`}
    >
      <th
        scope="row"
        className={`sticky left-0 bg-inherit py-[3.5px] pr-1 text-left font-normal ${context.isCompact ? "w-full" : "whitespace-nowrap"} ${isChosen ? "shadow-[inset_3px_0_0_var(--accent)]" : ""}`}
      >
        <span className="flex items-center">
          {expandBy && (
            <Opener
              label={`${kpi.name} by ${expandBy.name.toLowerCase()}`}
              isOpen={isOpen}
              onClick={() => onToggle(kpi.key)}
            />
          )}
          <button
            type="button"
            aria-pressed={isChosen}
            title={kpi.description}
            className="pl-1 text-left"
            onClick={() => onChoose(kpi.key)}
          >
            <span className={isChosen ? "font-semibold" : ""}>{kpi.name}</span>{" "}
            <span className="text-[11.5px] whitespace-nowrap text-slate">{shortUnit(unit, kpi.name)}</span>
          </button>
          <NoteMark notes={row.notes} />
          <OutsideNote row={row} money={context.data.frame.unit} />
          {link}
        </span>
      </th>
      <Cells row={row} columns={columns} context={context} />
    </tr>
  );
});

function Cells({ row, columns, context }: { row: KpiRowAnswer; columns: readonly Column[]; context: CellContext }) {
  return columns.map((column) => (
    <td
      key={column.key}
      className={`${context.isCompact ? "pl-1.5" : "pl-3"} whitespace-nowrap ${column.isText ? "text-left" : "text-right"}`}
    >
      {column.cell(row, context)}
    </td>
  ));
}

interface MembersProps {
  readonly kpi: string;
  readonly parent: string | null;
  readonly depth: number;
  readonly asked: AskedPanel;
  readonly view: PanelProps<"scorecard">;
  readonly columns: readonly Column[];
  readonly context: CellContext;
}

/** A KPI's rows by the members below one of them; each opens further where it has members below. */
export function Members(props: MembersProps) {
  const { kpi, parent, depth, asked, columns, context } = props;
  const answer = usePanelDetail<"scorecard">(asked, { kpi, parent: parent ?? undefined });
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
  return { ...context, parts: new Map(), onAsk: (kpi, side) => context.onAsk(kpi, side, formatScope(scope)) };
}

function MemberRow({ entry, ...props }: MembersProps & { entry: MemberRows["rows"][number] }) {
  const [isOpen, setOpen] = useState(false);
  const { depth, columns, context, view } = props;
  const dimension = context.data.expandBy!.key;
  const picked = view.picked[dimension];
  const isFaded = picked !== undefined && !picked.includes(entry.member.key);
  return (
    <>
      <tr className={`border-t border-thread/40 bg-panel text-[12.5px] ${isFaded ? "opacity-45" : ""}`}>
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
          <MemberName
            {...{ entry, view, dimension }}
            onOpen={entry.member.hasBelow ? () => setOpen(true) : undefined}
          />
          <NoteMark notes={entry.row.notes} />
          <OutsideNote row={entry.row} money={context.data.frame.unit} />
        </th>
        <Cells row={entry.row} columns={columns} context={context} />
      </tr>
      {isOpen && <Members {...props} parent={entry.member.key} depth={depth + 1} />}
    </>
  );
}

/** A member's name: a click has the page follow it. */
function MemberName({
  entry: { member },
  view: { picked, actions },
  dimension,
  onOpen,
}: {
  entry: MemberRows["rows"][number];
  view: PanelProps<"scorecard">;
  dimension: string;
  onOpen: (() => void) | undefined;
}) {
  const handlers = pickHandlers(actions.pick, { dimension, member: member.key, name: member.name }, onOpen);
  if (!handlers.onClick) return <span className="pl-1">{member.name}</span>;
  return (
    <button
      type="button"
      aria-pressed={picked[dimension]?.includes(member.key) ?? false}
      title={`Narrow the page to ${member.name}`}
      className="min-h-[24px] pl-1 text-left hover:underline aria-pressed:font-semibold"
      {...handlers}
    >
      {member.name}
    </button>
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
      className="-my-1 inline-grid h-[24px] w-[24px] shrink-0 place-items-center align-middle text-slate/70 hover:text-ink print:hidden"
    >
      {isOpen ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
    </button>
  );
}
