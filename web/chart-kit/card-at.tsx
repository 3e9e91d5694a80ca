import type { ReactNode } from "react";
import type { ChartMark } from "./mark.ts";

const WIDTH = 240;
/** How far a card stands from its mark. */
const GAP = 22;
const UNDER_GAP = 4;
/** A line so far down has its card above it. */
const LOW = 150;

/** A reading card beside the mark it speaks of, or under its line, on the side that has room. It is for the eye; listeners hear its words. */
export function CardAt({
  hit,
  width,
  title,
  isUnder = false,
  children,
}: {
  /** Where the mark stands, and how wide the chart is. */
  hit: ChartMark["hit"];
  width: number;
  title: ReactNode;
  isUnder?: boolean;
  children: ReactNode;
}) {
  return (
    <div
      aria-hidden="true"
      className={`popover pointer-events-none absolute z-10 w-60 p-3 text-[13px] ${isUnder ? "" : "top-4"}`}
      style={isUnder && !("r" in hit) ? under(hit, width) : beside("r" in hit ? hit.cx : hit.x + hit.width / 2, width)}
    >
      <p className="font-serif text-[15px]">{title}</p>
      {children}
    </div>
  );
}

function beside(x: number, width: number) {
  return x > width / 2 ? { right: width - x + GAP } : { left: x + GAP };
}

function under({ y, height }: { readonly y: number; readonly height: number }, width: number) {
  const left = Math.max(0, Math.min(width - WIDTH, width * 0.36));
  return y + height / 2 > LOW
    ? { left, bottom: `calc(100% - ${y - UNDER_GAP}px)` }
    : { left, top: y + height + UNDER_GAP };
}
