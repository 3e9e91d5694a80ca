/** What stands in the place of a chart while it is calculated. */
export function ChartSkeleton({ label, height }: { label: string; height: number }) {
  return (
    <div className="p-5" role="status" aria-label={label}>
      <div className="waiting h-6 w-3/4" />
      <div className="waiting mt-4" style={{ height }} />
    </div>
  );
}

/** The same of bars that lie below each other: how wide each is, in percent. */
export function LineSkeleton({ label, widths }: { label: string; widths: readonly number[] }) {
  return (
    <div className="p-5" role="status" aria-label={label}>
      <div className="waiting h-6 w-3/4" />
      {widths.map((width, i) => (
        <div key={i} className="waiting mt-3 h-4" style={{ width: `${width}%` }} />
      ))}
    </div>
  );
}
