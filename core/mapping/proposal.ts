import type { ColumnProfile } from "../reading/column-profile.ts";
import type { ColumnEvidence } from "./column-evidence.ts";
import type { LedgerSide, Meaning } from "./mapping.ts";
import type { MappingView } from "./mapping-view.ts";
import type { Sample } from "./sample.ts";
import type { ColumnHint, Understanding } from "./understand-table.ts";

/** Meanings being proposed, column by column. */
export interface Proposal {
  readonly profiles: readonly ColumnProfile[];
  readonly sample: Sample;
  readonly view: MappingView;
  readonly understood: Understanding | undefined;
  /** What the structure of the table says of columns; none where it was not understood. */
  readonly hints: Readonly<Record<string, ColumnHint>>;
  /** The distinct texts of a column, by its place. */
  readonly valuesOf: (place: number) => readonly string[];
  /** What was found so far, by column. */
  readonly columns: Record<string, Meaning>;
  readonly has: (as: Meaning["as"]) => boolean;
}

/** What is known of the columns of figures before they get a meaning. */
export interface FigureEvidence {
  readonly numbers: readonly ColumnProfile[];
  /** Columns that do not add up, with the reason: more come to them as meanings are found. */
  readonly apart: Map<string, ColumnEvidence>;
  readonly balances: ReadonlySet<string>;
  readonly ledger: ReadonlyMap<string, LedgerSide>;
  /** What the file is called, and what stands above its table. */
  readonly title: string;
  readonly heading: string;
  /** The key of an account of this name, made where there is none. */
  readonly accountFor: (name: string, of: AccountTraits) => string;
}

/** What the figures of a new account are. */
export interface AccountTraits {
  readonly isQuantity?: boolean;
  readonly isBalance?: boolean;
  readonly decimals?: number;
}

/** Starts proposing: nothing has a meaning yet. */
export function startProposal(
  profiles: readonly ColumnProfile[],
  sample: Sample,
  { view, understood }: { readonly view: MappingView; readonly understood: Understanding | undefined },
): Proposal {
  const told = [...sample.rows, ...(sample.further ?? [])];
  const columns: Record<string, Meaning> = {};
  const hints = understood?.hints ?? {};
  const isUnderstood = profiles.some(({ name }) => hints[name]?.as === "amount");
  return {
    profiles,
    sample,
    view,
    understood: isUnderstood ? understood : undefined,
    hints: isUnderstood ? hints : {},
    valuesOf: (place) => [...new Set(told.map((row) => (row[place] ?? "").trim()))].filter((text) => text !== ""),
    columns,
    has: (as) => Object.values(columns).some((meaning) => meaning.as === as),
  };
}
