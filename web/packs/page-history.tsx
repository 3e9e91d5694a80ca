import { usePageHistory } from "../app/questions.ts";
import { ChangeList } from "../ui/change-list.tsx";
import type { PackChanges } from "./use-pack-changes.ts";

/** What everybody did to a page's panels, with the way back. */
export function PageHistory({ pack, page, changes }: { pack: string; page: string; changes: PackChanges }) {
  const history = usePageHistory(pack, page);
  return (
    <section aria-label="History of the page" className="mt-5 border-t border-thread pt-3">
      <h3 className="font-serif text-[16px]">History of the page</h3>
      {history.error && <p className="text-madder">{history.error.message}</p>}
      {history.data && <ChangeList changes={history.data} onTakeBack={changes.takeBack} />}
    </section>
  );
}
