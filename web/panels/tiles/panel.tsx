import { ChevronRight } from "lucide-react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { TileAnswer, TilesAnswer } from "#core/panels/tiles/compute.ts";
import { tilesTable } from "#core/panels/tiles/table.ts";
import type { Choices } from "../../app/questions.ts";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { TextButton } from "../../ui/form.tsx";
import { formatFigureAddress } from "../figure-address.ts";
import { LinkButton } from "../panel-foot.tsx";
import { PanelSheet } from "../panel-sheet.tsx";
import { pickHandlers } from "../pick-handlers.ts";
import type { PanelProps } from "../panel-view.ts";
import { ORDER_CHOICES, orderKey, orderWords, parseOrder, TOP_CHOICES, topWords } from "./tile-order.ts";
import { Tile } from "./tile.tsx";

/** KPIs as tiles, or one of them by the members of a dimension. */
export default function TilesPanel(view: PanelProps<"tiles">) {
  const { choose } = view.actions;
  return (
    <PanelSheet
      view={view}
      label="Tiles"
      table={tilesTable}
      skeleton={<Skeleton />}
      action={() => (
        <TextButton
          onClick={() =>
            choose({ kpi: undefined, order: undefined, reversed: undefined, top: undefined, below: undefined })
          }
        >
          Show them as they are arranged
        </TextButton>
      )}
    >
      {(data, part) => (
        <>
          {data.repeatedBy && <Head data={data} repeatedBy={data.repeatedBy} onChoose={choose} />}
          <Grid data={data} part={part} view={view} />
        </>
      )}
    </PanelSheet>
  );
}

/** What is shown of whom, in which order: each word a way to change it. */
function Head({
  data: { layers, order, isReversed, top, tiles },
  repeatedBy: { level, path },
  onChoose,
}: {
  data: TilesAnswer;
  repeatedBy: NonNullable<TilesAnswer["repeatedBy"]>;
  onChoose: (change: Choices<"tiles">) => void;
}) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2 border-b border-thread/80 px-4 pt-2.5 pb-1.5">
      <div role="group" aria-label="Layer" className="flex flex-wrap gap-x-3 gap-y-1">
        {layers.map(({ key, name }) => {
          const isShown = key === tiles[0]?.row.kpi.key;
          return (
            <button
              key={key}
              type="button"
              aria-pressed={isShown}
              onClick={() => onChoose({ kpi: key })}
              className={`min-h-6 ${isShown ? "font-semibold text-ink shadow-[inset_0_-2px_0_var(--indigo)]" : "text-slate hover:text-ink print:hidden"}`}
            >
              {name}
            </button>
          );
        })}
      </div>
      <p>
        by {level}
        {path.length > 0 && (
          <>
            {" in "}
            {path.map(({ name }) => name).join(", ")}
            {" · "}
            <TextButton onClick={() => onChoose({ below: path.at(-2)?.key })}>back up</TextButton>
          </>
        )}
      </p>
      <p className="ml-auto text-[13px] text-slate">
        <ChoiceWord
          label="Order"
          words={orderWords(order, isReversed)}
          choices={ORDER_CHOICES}
          chosen={orderKey(order, isReversed)}
          onChoose={(key) => {
            const next = parseOrder(key);
            onChoose({ order: next.order, reversed: next.isReversed ? "yes" : "no" });
          }}
          className="meaning-word"
        />
        {", "}
        <ChoiceWord
          label="How many"
          words={topWords(top)}
          choices={TOP_CHOICES}
          chosen={top === null ? "all" : String(top)}
          onChoose={(key) => onChoose({ top: key === "all" ? "all" : Number(key) })}
          className="meaning-word"
        />
      </p>
    </div>
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
    <ul className="grid grid-cols-[repeat(auto-fill,minmax(min(100%,248px),1fr))] overflow-hidden">
      {data.tiles.map((tile, i) => {
        const { member, row } = tile;
        const address = formatFigureAddress(row.kpi.key, "actual");
        const link = panel.links?.[row.kpi.key];
        const own = member && dimension !== undefined ? { dimension, member: member.key, name: member.name } : undefined;
        return (
          <Tile
            key={member?.key ?? row.kpi.key}
            tile={tile}
            part={part?.tiles[i]}
            data={data}
            limit={limit}
            isFaded={chosen !== undefined && !chosen.includes(member?.key ?? "")}
            heading={
              own ? (
                <MemberHeading
                  name={own.name}
                  isPicked={chosen?.includes(own.member) ?? false}
                  handlers={pickHandlers(pick, own, member!.hasBelow ? () => choose({ below: own.member }) : undefined)}
                  onOpen={member!.hasBelow ? () => choose({ below: own.member }) : undefined}
                />
              ) : (
                row.kpi.name
              )
            }
            link={link && <LinkButton link={link} isShort onFollow={() => follow(link, own)} />}
            onAsk={() => ask(address, member ? formatScope(member.scope) : undefined)}
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
        />
      )}
    </ul>
  );
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
          className={`min-h-6 text-left hover:underline ${isPicked ? "shadow-[inset_0_-2px_0_var(--indigo)]" : ""}`}
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
          className="grid size-6 place-items-center text-slate hover:text-ink print:hidden"
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
