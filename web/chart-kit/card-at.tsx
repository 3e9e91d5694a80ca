import type { ReactNode } from "react";

/** How far a card stands from its mark. */
const GAP = 22;

/** A reading card beside the mark it speaks of, on the side that has room. It is for the eye; listeners hear its words. */
export function CardAt({
  x,
  width,
  title,
  children,
}: {
  /** Where the mark stands, and how wide the chart is. */
  x: number;
  width: number;
  title: string;
  children: ReactNode;
}) {
  return (
    <div
      aria-hidden="true"
      className="popover pointer-events-none absolute top-4 w-60 p-3 text-[13px]"
      style={x > width / 2 ? { right: width - x + GAP } : { left: x + GAP }}
    >
      <p className="font-serif text-[15px]">{title}</p>
      {children}
    </div>
  );
}
