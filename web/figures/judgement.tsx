import type { Variance } from "#core/figures/schema.ts";

type Judgement = Variance["judgement"];

/** The colour a judgement is drawn in; never without its shape and word. */
export function judgementColour(judgement: Judgement): string {
  if (judgement === "favourable") return "var(--verdigris)";
  if (judgement === "unfavourable") return "var(--madder)";
  return judgement === "on plan" ? "var(--ink)" : "var(--slate)";
}

/** How a judgement is said beside its shape: in full, by the trade's letters where there is little room, or for listeners only. */
type Saying = "word" | "letter" | "mark";

/** The trade's letters, where words have no room. */
const SHORT: Partial<Record<NonNullable<Judgement>, string>> = { favourable: "F", unfavourable: "U" };

/** A judgement as shape and word: a full square, an open lozenge, a level thread. */
export function JudgementMark({ judgement, as = "word" }: { judgement: Judgement; as?: Saying }) {
  if (judgement === null) return null;
  const letter = as === "letter" ? SHORT[judgement] : undefined;
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap" style={{ color: judgementColour(judgement) }}>
      <svg aria-hidden="true" width="9" height="9" viewBox="0 0 9 9">
        {judgement === "favourable" && <rect x="1" y="1" width="7" height="7" fill="currentColor" />}
        {judgement === "unfavourable" && (
          <path d="M4.5 .6 8.4 4.5 4.5 8.4 .6 4.5Z" fill="none" stroke="currentColor" strokeWidth="1.4" />
        )}
        {judgement === "on plan" && <path d="M0 4.5h9" stroke="currentColor" strokeWidth="1.6" />}
        {judgement === "neutral" && <circle cx="4.5" cy="4.5" r="1.5" fill="currentColor" />}
      </svg>
      {letter ? (
        <abbr title={judgement} className="no-underline">
          <span aria-hidden="true">{letter}</span>
          <span className="sr-only">{judgement}</span>
        </abbr>
      ) : as === "mark" ? (
        <span className="sr-only">{judgement}</span>
      ) : (
        judgement
      )}
    </span>
  );
}
