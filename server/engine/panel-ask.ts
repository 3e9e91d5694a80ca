import type { Scope } from "#core/dimensions/scope.ts";
import type { FrameQuery } from "#core/frame/schema.ts";
import type { PageLine } from "#contract/page-answers.ts";
import type { PanelDefinition } from "#core/panels/schemas.ts";

/** What is asked of a panel, in plain data: any thread that has the facts at hand can answer it. */
export interface PanelAsk {
  readonly key: string;
  readonly panel: PanelDefinition;
  /** Read by its kind's contract. */
  readonly choice: object;
  readonly query: FrameQuery;
  /** Of the page it stands on, until the reader chooses another. */
  readonly pageScope: Scope;
}

/** A panel's line of a page's answer, as it is sent. */
export interface PanelLine {
  readonly key: string;
  readonly text: string;
  /** Whether it holds figures, rather than why there are none. */
  readonly hasFigures: boolean;
  /** Whether a part of it is still being worked out; the whole of it follows. */
  readonly isPartial?: boolean;
  /** What nobody foresaw, for the log. */
  readonly fault?: unknown;
}

/** Writes a line down. */
export function writeLine(line: PageLine): string {
  return `${JSON.stringify(line)}\n`;
}
