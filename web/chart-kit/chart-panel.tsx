import type { ReactNode } from "react";
import { useSize } from "../ui/use-size.ts";
import type { PanelProps } from "../panel-frame/panel-view.ts";
import { CardAt } from "./card-at.tsx";
import type { Around } from "./chart-body.tsx";
import { FigureBody, FigureSheet, toggleTable, type FigureKind, type FigurePanelWords } from "./figure-panel.tsx";
import { FilledPlace } from "./filled-place.tsx";
import { enterMark, markHandlers, type ChartMark } from "./mark.ts";
import type { Own } from "./own.ts";
import { useSharedExtent, type Extent } from "./page-scale.tsx";
import { ReadingLines, readingWords } from "./reading.tsx";
import { useMarkWalk } from "./use-mark-walk.ts";
import { WalkedChart } from "./walked-chart.tsx";

/** The room a chart is laid out in, in pixels. */
export interface Room {
  readonly width: number;
  readonly height: number;
  /** What its axis must show where the page shares one; `undefined` where it stands alone. */
  readonly extent: Extent | undefined;
}

/** A chart that is laid out: as high as it came to be, and as it must at least be. */
export interface Laid {
  readonly height: number;
  readonly least: number;
}

/** What a kind of chart adds to what all have: its layout, its marks, and its words. */
export interface ChartKind<K extends FigureKind, L extends Laid> extends FigurePanelWords<K> {
  readonly around: (own: Own<K>, layout: L) => Around;
  readonly layout: (own: Own<K>, room: Room) => L;
  readonly marks: (own: Own<K>, layout: L) => readonly ChartMark[];
  readonly Drawing: (drawn: { own: Own<K>; layout: L; active: number | null }) => ReactNode;
  /** What is walked, and what keys do: "Left and right walk along the steps, …". */
  readonly keys: string;
  /** Of marks that stand in rows: how many stand in each. */
  readonly perRow?: (own: Own<K>) => number | undefined;
  /** Where walking begins; at the first mark where nothing is said. */
  readonly start?: (own: Own<K>, layout: L) => number;
  /** What its axis measures, and from where to where, for pages that share scales. */
  readonly extent?: (own: Own<K>) => { readonly unit: string; readonly values: readonly number[] };
  /** Whether marks lie one below the other: their card then stands under them, and not beside. */
  readonly liesInLines?: boolean;
}

/**
 * A panel of a chart: its size, the keyboard's walk, the reading card, the table of numbers, what cannot be shown, what
 * is waited for, narrowing and asking are the same for every kind.
 */
export function chartPanel<K extends FigureKind, L extends Laid>(kind: ChartKind<K, L>) {
  return function ChartPanel(view: PanelProps<K>) {
    return (
      <FigureSheet view={view} words={kind}>
        {(own) => <Chart kind={kind} own={own} />}
      </FigureSheet>
    );
  };
}

const ALONE = { unit: "", values: [] };

function Chart<K extends FigureKind, L extends Laid>({ kind, own }: { kind: ChartKind<K, L>; own: Own<K> }) {
  const [{ width, height }, holder] = useSize<HTMLDivElement>();
  const shared = kind.extent?.(own) ?? ALONE;
  const extent = useSharedExtent(shared.unit, shared.values);
  const layout = kind.layout(own, { width: Math.max(1, width), height, extent });
  return (
    <FigureBody own={own} words={kind} around={kind.around(own, layout)}>
      <FilledPlace holder={holder} least={layout.least}>
        <Marks {...{ kind, own, layout, width }} />
      </FilledPlace>
    </FigureBody>
  );
}

function Marks<K extends FigureKind, L extends Laid>({
  kind,
  own,
  layout,
  width,
}: {
  kind: ChartKind<K, L>;
  own: Own<K>;
  layout: L;
  /** 0 while it is not known. */
  width: number;
}) {
  const { actions, data } = own;
  const marks = kind.marks(own, layout);
  const perRow = kind.perRow?.(own);
  const walk = useMarkWalk(marks.length, kind.start?.(own, layout) ?? 0, {
    onTable: () => toggleTable(own),
    onEnter: (mark, event) => enterMark(actions, marks[mark]!, event),
    ...(perRow === undefined ? { onDown: (mark) => marks[mark]!.open?.() } : { perRow }),
  });
  const mark = walk.active === null ? undefined : marks[walk.active];
  const reading = mark?.reading();
  return (
    <WalkedChart
      width={width}
      height={layout.height}
      label={`${data.headline} ${data.descriptor}. ${kind.keys}`}
      walk={walk}
      words={reading ? readingWords(reading) : ""}
      card={
        mark &&
        reading && (
          <CardAt hit={mark.hit} width={width} title={reading.title} isUnder={kind.liesInLines === true}>
            <ReadingLines reading={reading} />
          </CardAt>
        )
      }
    >
      <kind.Drawing own={own} layout={layout} active={walk.active} />
      {marks.map((one, i) => (
        <Hit key={i} mark={one} actions={actions} onLook={() => walk.look(i)} />
      ))}
    </WalkedChart>
  );
}

/** Where a mark is pointed at. */
function Hit<K extends FigureKind>({
  mark,
  actions,
  onLook,
}: {
  mark: ChartMark;
  actions: Own<K>["actions"];
  onLook: () => void;
}) {
  const handlers = markHandlers(actions, mark);
  const shared = {
    fill: "transparent",
    className: handlers.onClick ? "cursor-pointer" : "",
    onMouseMove: onLook,
    ...handlers,
  };
  return "r" in mark.hit ? <circle {...mark.hit} {...shared} /> : <rect {...mark.hit} {...shared} />;
}
