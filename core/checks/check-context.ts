import type { Month } from "../calendar/month.ts";
import type { MappingView } from "../mapping/mapping-view.ts";
import type { LoadAnswers, LoadRules } from "./load-run.ts";

/** A load in force that may overlap with a new one. */
export interface PostedSlice {
  readonly loadId: number;
  readonly fileName: string;
  readonly scenario: string;
  readonly month: Month;
  /** Bit d − 1 stands for day d; `null` where facts are not daily. */
  readonly days: number | null;
  readonly accounts: ReadonlySet<string>;
}

/** What an account had in a month before, in whole minor units. */
export interface MonthAmount {
  readonly account: string;
  readonly month: Month;
  readonly amount: number;
}

/** What a file is checked against. */
export interface CheckContext {
  readonly view: MappingView;
  readonly rules: LoadRules;
  readonly answers: LoadAnswers;
  /** The figure its amounts must add up to, typed or found in the file; `null` when there is none. */
  readonly control: string | null;
  /** Slices in force of the same dataset. */
  readonly posted: readonly PostedSlice[];
  /** What those slices hold, where the file meets any. */
  readonly before?: PostedBefore | undefined;
  /** Actuals of the same dataset before the file, month by month. */
  readonly history: readonly MonthAmount[];
}

/** What is in force of the periods and accounts that a file meets. */
export interface PostedBefore {
  readonly amounts: readonly {
    readonly scenario: string;
    readonly account: string;
    readonly month: Month;
    /** In whole minor units. */
    readonly amount: bigint;
  }[];
  /** By dimension, the members that those facts have. */
  readonly members: ReadonlyMap<string, ReadonlySet<string>>;
}
