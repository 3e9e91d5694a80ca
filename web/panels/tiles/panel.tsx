import { ChevronRight } from "lucide-react";
import type { CSSProperties } from "react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { tilesTable } from "#core/panels/tiles/table.ts";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { MemberHead, MemberOrder } from "../../chart-kit/member-head.tsx";
import { LinkButton } from "../../panel-frame/panel-foot.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import { pickHandlers } from "../../chart-kit/mark.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { Tile } from "./tile.tsx";
import type { TileAnswer, TilesAnswer } from "#core/panels/tiles/schema.ts";

/** KPIs as tiles, or one of them by the members of a dimension. */
export default function TilesPanel(view: PanelProps<"tiles">) {
  return (
    <PanelSheet view={view} label="Tiles" table={tilesTable} skeleton={<Skeleton />}>
      {(data, part) => (
        <>
          {data.repeatedBy && (
            <div className="flex flex-wrap items-baseline gap-x-4 gap-y-0.5 px-4 pt-1 pb-1">
              <MemberHead
                layers={data.layers}
                shown={data.tiles[0]?.row.kpi.key}
                level={data.repeatedBy.level}
                path={data.repeatedBy.path}
                onChoose={view.actions.choose}
              />
              <span className="ml-auto">
                <MemberOrder
                  order={data.order}
                  isReversed={data.isReversed}
                  top={data.top}
                  onChoose={view.actions.choose}
                />
              </span>
            </div>
          )}
          <Grid data={data} part={part} view={view} />
        </>
      )}
    </PanelSheet>
  );
}

function Grid({
  data,
  part,
  view: { picked, panel, actions },
}: {
  data: TilesAnswer;
  part: TilesAnswer | undefined;
  view: PanelProps<"tiles">;
}) {
  const { choose, ask, pick, follow } = actions;
  const limit = barLimit([...data.tiles, ...(data.others ? [data.others.tile] : [])]);
  if (data.tiles.length === 0)
    return (
      <p className="px-4 pt-3 pb-5 text-slate">
        {data.repeatedBy ? `No ${data.repeatedBy.level} is inside ${data.frame.words.scope}.` : "There are no KPIs."}
      </p>
    );
  const dimension = data.repeatedBy?.dimension;
  const chosen = dimension === undefined ? undefined : picked[dimension];
  return (
    <ul
      className="grid grid-cols-[repeat(auto-fill,minmax(min(100%,var(--tile,248px)),1fr))] overflow-hidden"
      {...(panel.perRow === undefined ? {} : { style: inRows(panel.perRow) })}
    >
      {data.tiles.map((tile, i) => {
        const { member, row } = tile;
        const address = formatFigureAddress(row.kpi.key, "actual");
        const link = panel.links?.[row.kpi.key];
        const own =
          member && dimension !== undefined ? { dimension, member: member.key, name: member.name } : undefined;
        const onOpen = member?.hasBelow ? () => choose({ below: member.key }) : undefined;
        const handlers = own && pickHandlers(pick, own, onOpen);
        const onAsk = () => ask(address, member ? formatScope(member.scope) : undefined);
        return (
          <Tile
            key={member?.key ?? row.kpi.key}
            tile={tile}
            part={part?.tiles[i]}
            data={data}
            limit={limit}
            isFaded={chosen !== undefined && !chosen.includes(member?.key ?? "")}
            heading={
              own && handlers ? (
                <MemberHeading
                  name={own.name}
                  isPicked={chosen?.includes(own.member) ?? false}
                  handlers={handlers}
                  onOpen={onOpen}
                />
              ) : (
                row.kpi.name
              )
            }
            link={link && <LinkButton link={link} isShort onFollow={() => follow(link, own)} />}
            onAsk={onAsk}
            onPress={handlers?.onClick ?? onAsk}
          />
        );
      })}
      {data.others && (
        <Tile
          tile={data.others.tile}
          part={undefined}
          data={data}
          limit={limit}
          isFaded={chosen !== undefined}
          heading={`The other ${data.others.count}`}
          link={undefined}
          onAsk={undefined}
          onPress={undefined}
        />
      )}
    </ul>
  );
}

/** So many tiles in a row; fewer where they would be too narrow to read. */
function inRows(count: number): CSSProperties {
  return { "--tile": `max(150px, ${100 / count}% - 1px)` } as CSSProperties;
}

/** A member's name: a click picks it, and beside it the way down where there is one. */
function MemberHeading({
  name,
  isPicked,
  handlers,
  onOpen,
}: {
  name: string;
  isPicked: boolean;
  handlers: ReturnType<typeof pickHandlers>;
  onOpen: (() => void) | undefined;
}) {
  return (
    <span className="inline-flex items-center">
      {handlers.onClick ? (
        <button
          type="button"
          aria-pressed={isPicked}
          title={`Narrow the page to ${name}${onOpen ? "; double click opens it" : ""}`}
          className={`min-h-[24px] text-left hover:underline ${isPicked ? "shadow-[inset_0_-2px_0_var(--accent)]" : ""}`}
          {...handlers}
        >
          {name}
        </button>
      ) : (
        name
      )}
      {onOpen && (
        <button
          type="button"
          aria-label={`Open ${name}`}
          title={`Open ${name}`}
          className="grid size-[24px] place-items-center text-slate hover:text-ink print:hidden"
          onClick={onOpen}
        >
          <ChevronRight size={13} aria-hidden="true" />
        </button>
      )}
    </span>
  );
}

/** Bars share a scale that shows all but a few outliers whole. */
function barLimit(tiles: readonly TileAnswer[]): number {
  const shares = tiles.flatMap(({ row: { attainment } }) => ("value" in attainment ? attainment.value : []));
  return Math.min(2, Math.max(1.12, ...shares));
}

function Skeleton() {
  return (
    <div className="p-5" role="status" aria-label="The tiles are being calculated">
      <div className="waiting h-5 w-1/3" />
      <div className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(248px,1fr))] gap-4">
        {Array.from({ length: 4 }, (_, i) => (
          <div key={i} className="waiting h-24" />
        ))}
      </div>
    </div>
  );
}
