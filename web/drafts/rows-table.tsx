import type { ReactNode } from "react";
import type { WireRow } from "#contract/intake.ts";

/** A row to show; `was` shows what cells held before a step changed them, `mark` says what became of the row. */
export interface ShownRow extends WireRow {
  readonly was?: readonly (string | null)[];
  readonly mark?: "dropped" | "new";
  /** The column a finding speaks of. */
  readonly pointed?: number;
}

/** Rows of a file under their columns' names, with the line each stands on. */
export function RowsTable({
  label,
  columns,
  rows,
  numeric,
  head,
  action,
}: {
  label: string;
  columns: readonly string[];
  rows: readonly ShownRow[];
  /** Columns to be set as numbers. */
  numeric: ReadonlySet<string>;
  head?: (column: string) => ReactNode;
  action?: (row: ShownRow) => ReactNode;
}) {
  return (
    <div className="max-h-full min-h-0 overflow-auto" tabIndex={0} role="region" aria-label={label}>
      <table className="w-full border-separate border-spacing-0 text-[12.5px]">
        <thead>
          <tr>
            <th
              scope="col"
              className="sticky top-0 left-0 z-20 border-b border-thread bg-panel px-2 py-1.5 text-right font-normal text-slate"
            >
              Line
            </th>
            {columns.map((column) => (
              <th
                key={column}
                scope="col"
                className={`sticky top-0 z-10 border-b border-thread bg-panel px-2.5 py-1.5 align-bottom whitespace-nowrap ${numeric.has(column) ? "text-right" : "text-left"}`}
              >
                <span className="block font-semibold">{column}</span>
                {head?.(column)}
              </th>
            ))}
            {action && (
              <th scope="col" className="sticky top-0 z-10 border-b border-thread bg-panel" aria-label="Action" />
            )}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr
              key={`${row.line}/${i}`}
              className={row.mark === "dropped" ? "text-slate line-through" : "hover:bg-chosen"}
            >
              <td className="sticky left-0 border-b border-thread/50 bg-panel px-2 py-0.5 text-right text-slate no-underline">
                {row.line}
              </td>
              {columns.map((column, place) => (
                <td
                  key={column}
                  className={`max-w-64 truncate border-b border-thread/50 px-2.5 py-0.5 ${numeric.has(column) ? "text-right" : ""} ${row.pointed === place ? "bg-madder/10" : ""}`}
                  title={row.cells[place]}
                >
                  <Cell text={row.cells[place] ?? ""} was={row.was?.[place] ?? null} isNew={row.mark === "new"} />
                </td>
              ))}
              {action && <td className="border-b border-thread/50 px-2 text-right whitespace-nowrap">{action(row)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Cell({ text, was, isNew }: { text: string; was: string | null; isNew: boolean }) {
  if (was === null) return isNew ? <span className="text-verdigris">{text}</span> : <>{text}</>;
  return (
    <>
      {was !== "" && <del className="mr-1.5 text-slate">{was}</del>}
      <ins className="font-semibold text-verdigris no-underline">{text === "" ? "(empty)" : text}</ins>
    </>
  );
}
