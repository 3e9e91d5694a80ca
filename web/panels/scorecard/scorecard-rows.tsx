import { ChevronDown, ChevronRight } from "lucide-react";
import { memo, useState } from "react";
import { valueStyle } from "#core/words/number-words.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { KpiRow as KpiRowAnswer } from "#core/panels/parts/kpi-row.ts";
import type { DetailOf } from "#contract/panels/index.ts";
import { usePanelDetail, type FrameAddress } from "../../app/questions.ts";
import { NoteMark } from "../note-mark.tsx";
import type { PanelPlace } from "../panel-place.ts";
import { shortUnit, type CellContext, type Column } from "./columns.tsx";

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
}: {
  row: KpiRowAnswer;
  columns: readonly Column[];
  context: CellContext;
  isChosen: boolean;
  onChoose: (kpi: string) => void;
  isOpen: boolean;
  onToggle: (kpi: string) => void;
}) {
  const { kpi } = row;
  const { expandBy } = context.data;
  const unit = valueStyle(kpi.unit, kpi.decimals, context.data.frame.unit).unitName;
  return (
    <tr
      data-kpi={kpi.key}
      className={`border-t border-thread/70 ${isChosen ? "bg-chosen" : "bg-panel hover:bg-chosen"}`}
    >
      <th
        scope="row"
        className={`sticky left-0 bg-inherit py-[3.5px] pr-1 text-left font-normal whitespace-nowrap ${isChosen ? "shadow-[inset_3px_0_0_var(--indigo)]" : ""}`}
      >
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
          className="pl-1 text-left whitespace-nowrap"
          onClick={() => onChoose(kpi.key)}
        >
          <span className={isChosen ? "font-semibold" : ""}>{kpi.name}</span>{" "}
          <span className="text-[11.5px] whitespace-nowrap text-slate">{shortUnit(unit, kpi.name)}</span>
        </button>
        <NoteMark notes={row.notes} />
      </th>
      <Cells row={row} columns={columns} context={context} />
    </tr>
  );
});

function Cells({ row, columns, context }: { row: KpiRowAnswer; columns: readonly Column[]; context: CellContext }) {
  return columns.map((column) => (
    <td key={column.key} className={`pl-3 whitespace-nowrap ${column.isText ? "text-left" : "text-right"}`}>
      {column.cell(row, context)}
    </td>
  ));
}

interface MembersProps {
  readonly kpi: string;
  readonly parent: string | null;
  readonly depth: number;
  readonly place: PanelPlace;
  readonly frame: FrameAddress;
  readonly columns: readonly Column[];
  readonly context: CellContext;
}

/** A KPI's rows by the members below one of them; each opens further where it has members below. */
export function Members(props: MembersProps) {
  const { kpi, parent, depth, place, frame, columns, context } = props;
  const answer = usePanelDetail<"scorecard">(place, frame, { kpi, parent: parent ?? undefined });
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
