import type { ReactNode, RefObject } from "react";
import type { MarkWalk } from "./use-mark-walk.ts";

/** A chart that is pointed at and walked with the keyboard: its drawing, the reading card, and the card's words for those who hear it. */
export function WalkedChart({
  holder,
  width,
  height,
  label,
  walk: { leave, keys },
  words,
  card,
  className = "text-[11.5px]",
  children,
}: {
  /** Tells the width, where nothing around it does. */
  holder?: RefObject<HTMLDivElement | null>;
  /** 0 while it is not known: nothing is drawn. */
  width: number;
  height: number;
  /** What is drawn, and what keys do. */
  label: string;
  walk: MarkWalk;
  /** What the mark that is looked at says; empty while there is none. */
  words: string;
  card: ReactNode;
  className?: string;
  children: ReactNode;
}) {
  return (
    <div {...(holder ? { ref: holder } : {})} className="relative" onMouseLeave={leave}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          tabIndex={0}
          aria-roledescription="chart"
          aria-label={label}
          {...keys}
          className={`block overflow-visible ${className}`}
        >
          {children}
        </svg>
      )}
      {card}
      <p className="sr-only" aria-live="polite">
        {words}
      </p>
    </div>
  );
}
