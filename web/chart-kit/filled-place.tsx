import type { ReactNode, RefObject } from "react";

/** The place of a chart that takes all the height there is, and no less than it needs. `holder` measures it. */
export function FilledPlace({
  holder,
  least,
  children,
}: {
  holder: RefObject<HTMLDivElement | null>;
  /** The height it needs, in pixels. */
  least: number;
  children: ReactNode;
}) {
  return (
    <div ref={holder} data-fill={least} className="relative flex-1" style={{ minHeight: least }}>
      <div className="absolute inset-0">{children}</div>
    </div>
  );
}
