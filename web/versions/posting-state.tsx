import { formatNumber } from "#core/formats/number-words.ts";
import type { ReactNode } from "react";
import type { Posting } from "./use-version-lines.ts";

/** How far the making of a version is, or why there is none. */
export function PostingState({ posting, after }: { posting: Posting; after?: ReactNode }) {
  return (
    <>
      <div role="status" className="mt-2">
        {posting.is === "under way" && (
          <>
            <progress
              className="w-full"
              max={Math.max(1, posting.of)}
              value={posting.done}
              aria-label="Series forecast"
            />
            <p className="text-slate">
              {posting.of === 0 ? "Reading the history…" : `${posting.done} of ${posting.of} series forecast`}
            </p>
          </>
        )}
        {posting.is === "posted" && (
          <p>
            {posting.name} is there, {formatNumber(posting.rows, 0)} amounts. {after}
          </p>
        )}
      </div>
      {posting.is === "refused" && (
        <p role="alert" className="mt-2 text-madder">
          {posting.why}
        </p>
      )}
    </>
  );
}
