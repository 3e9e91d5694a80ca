import { Table2 } from "lucide-react";
import type { ReactNode } from "react";
import type { ChartBase } from "#core/panels/panel-schema.ts";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import type { MoneyUnit, NumberStyle } from "#core/formats/number-words.ts";
import { IconButton } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { NumbersTable } from "./numbers-table.tsx";
import { PanelNotes } from "../panel-frame/panel-notes.tsx";

/** What a kind says around its figures. */
export interface Around {
  /** What is shown, each word a way to change it. */
  readonly head?: ReactNode;
  readonly legend?: ReactNode;
  /** Further words, before the signs. */
  readonly aside?: ReactNode;
  /** What else switches something, as small signs. */
  readonly signs?: ReactNode;
  /** A line of its own below them. */
  readonly below?: ReactNode;
  readonly foot?: ReactNode;
  /** Why there is nothing to draw, and which kind tells it better; `null` where there is. */
  readonly refusal: { readonly title: string; readonly detail: string; readonly better?: ReactNode } | null;
  /** Notes of the drawing, before those of the figures. */
  readonly notes?: readonly string[];
  /** Whether its own drawing has the words at its axes. */
  readonly drawsAxisWords?: boolean;
}

/** What most charts have around their drawing: a line of words and signs, the table of numbers in its place, notes below. */
export function ChartBody({
  words,
  around: { head, legend, aside, signs, below, foot, refusal, notes: own = [], drawsAxisWords = false },
  isTable,
  onTable,
  table,
  caption,
  style,
  deltaStyle,
  money,
  absent,
  notes,
  children,
}: {
  /** The panel's own words at its axes, and whether it goes without a legend. */
  words: Partial<Pick<ChartBase, "axisTitle" | "acrossTitle" | "hidesLegend">>;
  around: Around;
  isTable: boolean;
  onTable: () => void;
  table: () => PanelTable;
  caption: string;
  style: NumberStyle;
  deltaStyle: NumberStyle;
  money: MoneyUnit;
  absent?: readonly { readonly name: string; readonly reason: string }[];
  notes: readonly string[];
  children: ReactNode;
}) {
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col pb-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 pt-1 pb-1">
        {head}
        {!words.hidesLegend && legend}
        <span className="ml-auto flex flex-wrap items-center justify-end gap-x-0.5">
          {aside && <span className="mr-2 flex flex-wrap items-baseline gap-x-3">{aside}</span>}
          {!isTable && signs}
          <IconButton label="Table of numbers" isOn={isTable} onClick={onTable}>
            <Table2 size={15} />
          </IconButton>
        </span>
      </div>
      {below}
      <div
        className={`flex flex-1 flex-col px-4 ${isTable ? "min-h-0" : ""}`}
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
          <>
            {!drawsAxisWords && <AxisWords text={words.axisTitle} />}
            {children}
            {!drawsAxisWords && <AxisWords text={words.acrossTitle} isAcross />}
          </>
        )}
      </div>
      {!isTable && !refusal && foot}
      <PanelNotes {...(absent ? { absent } : {})} notes={[...own, ...notes]} />
    </div>
  );
}

/** What an axis is called where the panel says so: above at the left, or below at the right. */
function AxisWords({ text, isAcross = false }: { text: string | undefined; isAcross?: boolean }) {
  if (text === undefined) return null;
  return <p className={`text-[11.5px] leading-4 text-slate ${isAcross ? "text-right" : ""}`}>{text}</p>;
}
