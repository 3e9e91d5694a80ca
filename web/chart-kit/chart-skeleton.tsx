/** What stands in the place of a chart while it is calculated. */
export function ChartSkeleton({ label, height }: { label: string; height: number }) {
  return (
    <div className="p-5" role="status" aria-label={label}>
      <div className="waiting h-6 w-3/4" />
      <div className="waiting mt-4" style={{ height }} />
    </div>
  );
}
