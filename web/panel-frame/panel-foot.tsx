import { PACKS } from "#contract/operations/packs.ts";
import { ArrowRight } from "lucide-react";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import { answeredChoice, type PanelKind } from "#core/panels/schemas.ts";
import { PanelNumbers } from "./panel-numbers.tsx";
import type { PageLink, PanelProps } from "./panel-view.ts";
import { useAnswer } from "../client/answer.ts";

/** What stands below a panel: its numbers to take along, and the page with the detail. */
export function PanelFoot({
  view: { panel, asked, actions },
  table,
}: {
  view: PanelProps<PanelKind>;
  table: (() => PanelTable) | undefined;
}) {
  if (!table && !panel.link) return null;
  return (
    <p className="mt-auto flex flex-wrap justify-between gap-x-4 border-t border-thread/70 px-4 py-1 print:hidden">
      {table && (
        <PanelNumbers
          table={table}
          place={asked.place}
          frame={asked.frame}
          choice={answeredChoice(panel.kind, asked.choice)}
        />
      )}
      {panel.link && <LinkButton link={panel.link} onFollow={() => actions.follow(panel.link!)} />}
    </p>
  );
}

/** The way to a page with the detail; one that is gone says so. */
export function LinkButton({
  link,
  onFollow,
  isShort = false,
}: {
  link: PageLink;
  onFollow: () => void;
  isShort?: boolean;
}) {
  const name = usePageName(link);
  if (name === null)
    return isShort ? null : <span className="text-[12.5px] text-slate">The linked page no longer exists</span>;
  return (
    <button
      type="button"
      onClick={onFollow}
      title={`Open ${name} with the same frame`}
      aria-label={`Open ${name}`}
      className="-my-1 inline-flex min-h-[24px] min-w-[24px] items-center justify-center gap-1 align-middle text-[12.5px] text-accent hover:underline print:hidden"
    >
      {!isShort && name}
      <ArrowRight size={13} aria-hidden="true" />
    </button>
  );
}

/** What a page is called; `null` where it is gone. */
function usePageName({ pack, page }: PageLink): string | null {
  const packs = useAnswer(PACKS.packs);
  const found = packs.data?.find((p) => p.key === pack)?.pages.find((p) => p.key === page);
  return packs.data && !found ? null : (found?.name ?? page);
}
