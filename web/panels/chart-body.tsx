import { Table2 } from "lucide-react";
import type { ReactNode } from "react";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import type { MoneyUnit, NumberStyle } from "#core/words/number-words.ts";
import { IconButton } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { NumbersTable } from "./numbers-table.tsx";
import { PanelNotes } from "./panel-notes.tsx";

/** What most charts have around their drawing: a line of words and signs, the table of numbers in its place, notes below. */
export function ChartBody({
  head,
  signs,
  isTable,
  onTable,
  table,
  caption,
  style,
  deltaStyle,
  money,
  refusal,
  absent,
  notes,
  foot,
  children,
}: {
  /** What is shown, each word a way to change it. */
  head?: ReactNode;
  /** What else switches something, as small signs. */
  signs?: ReactNode;
  isTable: boolean;
  onTable: () => void;
  table: () => PanelTable;
  caption: string;
  style: NumberStyle;
  deltaStyle: NumberStyle;
  money: MoneyUnit;
  /** Why there is nothing to draw, and which kind tells it better; `null` where there is. */
  refusal: { readonly title: string; readonly detail: string; readonly better?: ReactNode } | null;
  absent?: readonly { readonly name: string; readonly reason: string }[];
  notes: readonly string[];
  foot?: ReactNode;
  children: ReactNode;
}) {
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col pb-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 pt-1 pb-1">
        {head}
        <span className="ml-auto flex gap-0.5">
          {!isTable && signs}
          <IconButton label="Table of numbers" isOn={isTable} onClick={onTable}>
            <Table2 size={15} />
          </IconButton>
        </span>
      </div>
      <div
        className="flex min-h-0 flex-1 flex-col px-4"
        onKeyDown={(event) => {
          if (isTable && event.key === "t") onTable();
        }}
      >
        {refusal ? (
          <div className="py-6">
            <Notice title={refusal.title} detail={refusal.detail}>
              {refusal.better}
            </Notice>
          </div>
        ) : isTable ? (
          <NumbersTable table={table()} caption={caption} style={style} deltaStyle={deltaStyle} money={money} />
        ) : (
          children
        )}
      </div>
      {!isTable && !refusal && foot}
      <PanelNotes {...(absent ? { absent } : {})} notes={notes} />
    </div>
  );
}
