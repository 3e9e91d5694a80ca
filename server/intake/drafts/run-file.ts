import { startLoad, type LoadResult } from "#core/checks/load-run.ts";
import type { Month } from "#core/calendar/month.ts";
import type { LineFault, MappedFact } from "#core/mapping/map-rows.ts";
import type { MappingView } from "#core/mapping/mapping-view.ts";
import { columnNames } from "#core/reading/header.ts";
import type { LookupTable } from "#core/tidy/lookup-table.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { Definition } from "#contract/intake.ts";
import type { Limits } from "../limits.ts";
import { readFile } from "../reading/read-file.ts";

/** How far a pass has come. */
export interface Progress {
  readonly rows: number;
  /** Of the file, 0 to 1. */
  readonly share: number;
}

/** A file and all it takes to pass over it. */
export interface FilePass {
  readonly path: string;
  readonly size: number;
  readonly definition: Definition;
  readonly view: MappingView;
  readonly limits: Limits;
  /** The tables that its steps look up in. */
  readonly tables: ReadonlyMap<string, LookupTable>;
  readonly posted?: ReadonlyMap<number, Month>;
  /** What the caller takes of the pass: a check wants no facts, posting no step totals. */
  readonly purpose: "check" | "post";
  readonly onProgress?: (progress: Progress) => void;
}

/**
 * Passes over a file once, from its bytes to facts: the one path by which previews,
 * checks and postings are made. Facts and faults come batch by batch; the caller's pace
 * is the reader's. Returns what the pass found.
 */
export async function* passFile(
  pass: FilePass,
): AsyncGenerator<{ facts: MappedFact[]; faults: LineFault[] }, LoadResult> {
  const { definition, view } = pass;
  const { headerLine, headerRows } = definition.reading;
  const facts: MappedFact[] = [];
  const faults: LineFault[] = [];
  const start = (columns: readonly string[]) =>
    startLoad(definition.rules, columns, {
      view,
      mark: definition.reading.decimalMark,
      tables: pass.tables,
      ...(pass.posted ? { posted: pass.posted } : {}),
      ...(pass.purpose === "post" ? { isPosting: true, onFact: (made) => void facts.push(made) } : {}),
      onFault: (fault) => void faults.push(fault),
    });
  const header: (readonly string[])[] = [];
  const waiting: TidyRow[] = [];
  let run: ReturnType<typeof start> | undefined;
  let rows = 0;
  const open = () => {
    const width = Math.max(0, ...header.map((c) => c.length), ...waiting.slice(0, 50).map((row) => row.cells.length));
    run = start(columnNames(header, width));
    for (const row of waiting) run.take(row);
    rows += waiting.length;
    waiting.length = 0;
    return run;
  };
  for await (const batch of readFile(pass.path, definition.reading, { limits: pass.limits, size: pass.size })) {
    for (const row of batch.rows) {
      if (row.line < headerLine) continue;
      if (header.length < headerRows) header.push(row.cells);
      else if (run) {
        run.take(row);
        rows += 1;
        // As many rows as the head shows decide how wide the table is, as in the preview.
      } else if (waiting.push(row) >= 50) open();
    }
    pass.onProgress?.({ rows, share: pass.size > 0 ? Math.min(1, batch.bytes / pass.size) : 1 });
    yield { facts: facts.splice(0), faults: faults.splice(0) };
  }
  const result = (run ?? open()).end();
  yield { facts: facts.splice(0), faults: faults.splice(0) };
  return result;
}
