import type { Grade, StatusRule } from "#core/kpis/schema.ts";

export const GRADES: readonly Grade[] = ["good", "fair", "poor"];

/** The colour of a grade; never without its shape and word. */
export function gradeColour(grade: Grade): string {
  return { good: "var(--verdigris)", fair: "var(--weld-text)", poor: "var(--madder)" }[grade];
}

/** A grade as a shape: a full square, a half one, an open lozenge; with its word where there is room. */
export function GradeMark({
  grade,
  word,
  place,
  shownAs,
}: {
  grade: Grade;
  word?: string;
  place?: number;
  shownAs?: StatusRule["shownAs"];
}) {
  if (shownAs === "gradient" && place !== undefined) return <Gradient place={place} word={word ?? grade} />;
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap" style={{ color: gradeColour(grade) }}>
      <svg aria-hidden="true" width="9" height="9" viewBox="0 0 9 9">
        {grade === "good" && <rect x="1" y="1" width="7" height="7" fill="currentColor" />}
        {grade === "fair" && (
          <path
            d="M1 1h7v7H1Z M1 4.5h7v3.5H1Z"
            fill="currentColor"
            fillRule="evenodd"
            stroke="currentColor"
            strokeWidth="1"
          />
        )}
        {grade === "poor" && (
          <path d="M4.5 .6 8.4 4.5 4.5 8.4 .6 4.5Z" fill="none" stroke="currentColor" strokeWidth="1.4" />
        )}
      </svg>
      {word ?? <span className="sr-only">{grade}</span>}
    </span>
  );
}

/** Where a value stands between the worst band and the best, as a square on a thread, with its word. */
function Gradient({ place, word }: { place: number; word: string }) {
  const colour =
    place < 0.5
      ? `color-mix(in oklab, var(--madder), var(--weld-text) ${Math.round(place * 200)}%)`
      : `color-mix(in oklab, var(--weld-text), var(--verdigris) ${Math.round((place - 0.5) * 200)}%)`;
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap" style={{ color: colour }}>
      <svg aria-hidden="true" width="26" height="9" viewBox="0 0 26 9">
        <path d="M1 4.5h24" stroke="var(--thread)" strokeWidth="1.5" />
        <rect x={1 + place * 19} y="1.5" width="6" height="6" fill="currentColor" />
      </svg>
      {word}
    </span>
  );
}
