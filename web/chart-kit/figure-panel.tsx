import type { ReactNode } from "react";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import type { AnswerOf, PanelKind } from "#core/panels/schemas.ts";
import type { KpiHead } from "#core/panels/parts/schema.ts";
import { PanelSheet } from "../panel-frame/panel-sheet.tsx";
import type { PanelProps } from "../panel-frame/panel-view.ts";
import { ChartBody, type Around } from "./chart-body.tsx";
import { ChartSkeleton } from "./chart-skeleton.tsx";
import { ownOf, type Own } from "./own.ts";

/** Kinds whose figures stand under a line of words and signs, with a table of numbers in their place. */
export type FigureKind = {
  [K in PanelKind]: AnswerOf<K> extends { readonly headline: string; readonly notes: readonly string[] } ? K : never;
}[PanelKind];

/** What every kind says of itself. */
export interface FigurePanelWords<K extends FigureKind> {
  /** What a panel of this kind is called where it has no title. */
  readonly label: string;
  /** The KPI in whose unit its table is written. */
  readonly kpi: (data: AnswerOf<K>) => KpiHead;
  /** What the table of numbers is of. */
  readonly caption: (own: Own<K>) => string;
  readonly table: (data: AnswerOf<K>) => PanelTable;
  /** What is shown while it is calculated. */
  readonly skeleton?: ReactNode;
}

/** A panel of figures: what is around them is the same for every kind. */
export function figurePanel<K extends FigureKind>({
  around,
  Figures,
  ...words
}: FigurePanelWords<K> & {
  readonly around: (own: Own<K>) => Around;
  readonly Figures: (own: Own<K>) => ReactNode;
}) {
  return function FigurePanel(view: PanelProps<K>) {
    return (
      <FigureSheet view={view} words={words}>
        {(own) => (
          <FigureBody own={own} words={words} around={around(own)}>
            <Figures {...own} />
          </FigureBody>
        )}
      </FigureSheet>
    );
  };
}

/** The sheet of a panel, with its figures once they are there. */
export function FigureSheet<K extends FigureKind>({
  view,
  words: { label, kpi, table, skeleton },
  children,
}: {
  view: PanelProps<K>;
  words: FigurePanelWords<K>;
  children: (own: Own<K>) => ReactNode;
}) {
  return (
    <PanelSheet
      view={view}
      label={label}
      table={table}
      skeleton={skeleton ?? <ChartSkeleton label={`${label}: being calculated`} height={160} />}
    >
      {(data, part) => children(ownOf(view, { data, part, kpi: kpi(data) }))}
    </PanelSheet>
  );
}

/** What is around a panel's figures, and its table of numbers. */
export function FigureBody<K extends FigureKind>({
  own,
  words: { table, caption },
  around,
  children,
}: {
  own: Own<K>;
  words: FigurePanelWords<K>;
  around: Around;
  children: ReactNode;
}) {
  const { data } = own;
  const { panel, choice } = asAny(own);
  const isTable = choice.table === "open";
  return (
    <ChartBody
      words={panel}
      around={around}
      isTable={isTable}
      onTable={() => toggleTable(own)}
      table={() => table(data)}
      caption={caption(own)}
      style={own.style}
      deltaStyle={own.deltaStyle}
      money={own.money}
      {...("absent" in data && data.absent ? { absent: data.absent } : {})}
      notes={data.notes}
    >
      {children}
    </ChartBody>
  );
}

/** Shows the table of numbers in the place of the figures, or the figures again. */
export function toggleTable<K extends FigureKind>(own: Own<K>): void {
  const { choice, actions } = asAny(own);
  actions.choose({ table: choice.table === "open" ? undefined : "open" });
}

/** What is the same of every kind, as one of them has it: of a kind known at run time only, types say nothing. */
function asAny<K extends FigureKind>(own: Own<K>): Own<"time-chart"> {
  return own as unknown as Own<"time-chart">;
}
