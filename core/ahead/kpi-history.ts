import type { Month } from "../calendar/month.ts";
import type { CompiledFormula } from "../formula/node.ts";
import type { Grain } from "../series/grain.ts";

/** A KPI's actual, period by period from the first with a figure to the last, as plain data. */
export interface KpiHistory {
  readonly grain: Grain;
  /** In the KPI's own unit; `null` where a period has no figure. */
  readonly values: readonly (number | null)[];
  /** The first period's month, and its day for days and weeks, counted from 1 January 1970. */
  readonly first: { readonly month: Month; readonly day: number | null };
  /** The periods by their keys. */
  readonly keys: readonly string[];
  /** Places of periods of which an analyst said that they are no part of the pattern, or that they are. */
  readonly known: { readonly confirmed: readonly number[]; readonly dismissed: readonly number[] };
  /** Whether it is a share, which does not go beyond 100 % by itself. */
  readonly isShare: boolean;
  /** Whether its periods add up; what stands at the end of each does not. */
  readonly isFlow: boolean;
  /** How it is made of amounts; `null` where it is one, or where its formula says a time of its own. */
  readonly made: MadeOf | null;
}

/** A formula and the histories of what it reads. */
export interface MadeOf {
  readonly formula: CompiledFormula;
  readonly inputs: readonly InputHistory[];
}

/** What a formula reads: amounts of an account in whole minor units, or days and months, which are known ahead. */
export interface InputHistory {
  readonly name: string;
  readonly values: readonly (number | null)[];
  /** What is known of the periods to come; `null` of an amount, which has to be forecast. */
  readonly known: readonly number[] | null;
}
