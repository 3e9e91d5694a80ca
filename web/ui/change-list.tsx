import type { ReactNode } from "react";
import type { Change } from "#contract/changes.ts";
import { dateTimeWords } from "./date-time-words.ts";
import { Button } from "./form.tsx";

/** What was done, by whom and when, newest first; what can be taken back has a button for it. */
export function ChangeList<C extends Change>({
  changes,
  onTakeBack,
  onRestore,
  detail,
}: {
  changes: readonly C[];
  /** Takes a change back; left out for those who may not. */
  onTakeBack?: ((change: number) => void) | undefined;
  /** Puts everything back to as it was after a change; left out where that cannot be done. */
  onRestore?: ((change: number) => void) | undefined;
  detail?: (change: C) => ReactNode;
}) {
  if (changes.length === 0) return <p className="text-slate">No changes yet.</p>;
  return (
    <ol>
      {changes.map((change, i) => (
        <li key={change.id} className="border-t border-thread/60 py-1 text-[13px] first:border-0">
          <span className={change.isUndone ? "text-slate line-through" : ""}>{change.said}</span>
          <span className="text-slate">
            , {change.by}, {dateTimeWords(change.at)}
          </span>
          {onTakeBack && change.mayUndo && (
            <>
              {" "}
              <Button onClick={() => onTakeBack(change.id)}>Take back</Button>
            </>
          )}
          {onRestore && i > 0 && <Button onClick={() => onRestore(change.id)}>Restore this version</Button>}
          {detail?.(change)}
        </li>
      ))}
    </ol>
  );
}
