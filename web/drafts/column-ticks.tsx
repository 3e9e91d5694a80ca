/** Columns to tick, those of a step that are no longer there included. */
export function ColumnTicks({
  label,
  columns,
  chosen,
  onChange,
}: {
  label: string;
  columns: readonly string[];
  chosen: readonly string[];
  onChange: (next: string[]) => void;
}) {
  const known = [...columns, ...chosen.filter((c) => !columns.includes(c))];
  return (
    <fieldset>
      <legend className="text-[12.5px] text-slate">
        {label}{" "}
        <button
          type="button"
          className="ml-2 text-accent hover:underline"
          onClick={() => onChange(chosen.length === columns.length ? [] : [...columns])}
        >
          {chosen.length === columns.length ? "none" : "all"}
        </button>
      </legend>
      <div className="max-h-40 overflow-y-auto">
        {known.map((column) => (
          <label key={column} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              checked={chosen.includes(column)}
              onChange={(e) =>
                onChange(
                  e.target.checked
                    ? known.filter((c) => c === column || chosen.includes(c))
                    : chosen.filter((c) => c !== column),
                )
              }
            />
            {column}
            {!columns.includes(column) && <span className="text-madder">not there</span>}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
