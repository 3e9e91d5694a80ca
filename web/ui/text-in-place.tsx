import { useState, type ElementType } from "react";
import { unbroken } from "./unbroken.ts";

/** A text that is edited where it stands: a click or Enter begins, Enter or leaving it keeps, Escape gives up. */
export function TextInPlace({
  as: As = "span",
  label,
  value,
  drafted,
  isInvitation = false,
  onCommit,
  className = "",
}: {
  as?: ElementType;
  /** What the text is, for those who hear it. */
  label: string;
  /** The text of one's own; empty where none was given. */
  value: string;
  /** What stands there while there is none. */
  drafted: string;
  /** Whether that is only an invitation to write. */
  isInvitation?: boolean;
  onCommit: (text: string) => void;
  className?: string;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft.trim() !== value) onCommit(draft.trim());
    setDraft(null);
  };
  if (draft !== null)
    return (
      <textarea
        aria-label={label}
        autoFocus
        rows={Math.max(1, Math.ceil(draft.length / 60))}
        value={draft}
        placeholder={drafted}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setDraft(event.target.value.replaceAll("\n", " "))}
        onBlur={commit}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Enter") {
            event.preventDefault();
            commit();
          } else if (event.key === "Escape") setDraft(null);
        }}
        className={`w-full resize-none rounded border border-accent bg-panel px-1 ${className}`}
      />
    );
  return (
    <As className={`${className} ${value === "" && isInvitation ? "invitation" : ""}`}>
      <button
        type="button"
        title={`${label}: click to write your own`}
        aria-label={`${label}: ${value || drafted}`}
        onClick={() => setDraft(value)}
        className="-mx-1 min-h-[24px] rounded border border-dashed border-transparent px-1 text-left hover:border-slate focus-visible:border-slate"
      >
        {unbroken(value || drafted)}
      </button>
    </As>
  );
}
