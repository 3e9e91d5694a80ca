/** The sign of a value outside of what was expected, wherever it stands: an empty diamond. */
export function OutsideMark({ x, y }: { x: number; y: number }) {
  return (
    <path
      d={`M${x} ${y - 4.5}l4.5 4.5l-4.5 4.5l-4.5 -4.5z`}
      fill="var(--panel)"
      stroke="var(--ink)"
      strokeWidth="1.5"
    />
  );
}

/** The same in a legend or beside a figure. */
export function OutsideSign() {
  return (
    <svg aria-hidden="true" width="11" height="11" className="inline-block shrink-0">
      <OutsideMark x={5.5} y={5.5} />
    </svg>
  );
}

/** The expected range in a legend. */
export function RangeSign() {
  return (
    <svg aria-hidden="true" width="16" height="11">
      <rect width="16" height="11" fill="var(--indigo)" fillOpacity=".14" />
      <path d="M0 5.5h16" stroke="var(--indigo)" strokeOpacity=".6" strokeDasharray="1 4" />
    </svg>
  );
}
