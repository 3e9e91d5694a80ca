import { PACKS } from "#contract/operations/packs.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Pack, PackChanged, Page } from "#contract/pack.ts";
import { call } from "../../client/api.ts";
import { ChangeList } from "../../ui/change-list.tsx";
import { answerKey, useAnswer } from "../../client/answer.ts";

/** What everybody did to a page, with the way back: of one change alone, or to the page as it was after it. */
export function PageHistory({ pack, page }: { pack: Pack; page: Page }) {
  const history = useAnswer(PACKS.pageHistory, { params: { pack: pack.key, page: page.key } });
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const run = async (work: () => Promise<PackChanged>) => {
    setProblem(null);
    try {
      const changed = await work();
      client.setQueryData(answerKey(PACKS.pack, { params: { pack: pack.key } }), changed.pack);
      await client.invalidateQueries({ queryKey: answerKey(PACKS.pageHistory) });
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const place = { pack: pack.key, page: page.key };
  return (
    <section aria-label="History of the page" className="mt-5 border-t border-thread pt-3">
      <h3 className="font-serif text-[16px]">History of the page</h3>
      {(problem ?? history.error?.message) && (
        <p role="alert" className="text-madder">
          {problem ?? history.error?.message}
        </p>
      )}
      {history.data && (
        <ChangeList
          changes={history.data}
          onTakeBack={(change) => void run(() => call(PACKS.undoPackChange, { params: { pack: pack.key, change } }))}
          onRestore={(change) => void run(() => call(PACKS.restorePage, { params: place, body: { change } }))}
        />
      )}
    </section>
  );
}
