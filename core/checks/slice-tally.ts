import type { Month } from "../calendar/month.ts";
import type { Fact } from "../cube/fact.ts";
import { getOrCreate } from "../collections/keyed.ts";

/** The months and days a scenario gets. */
export interface LoadedMonth {
  readonly scenario: string;
  readonly month: Month;
  /** Bit d − 1 stands for day d; `null` where facts are not daily. */
  readonly days: number | null;
}

/** One account's part of a load, in the account's own units and sign. */
export interface LoadedAccount {
  readonly scenario: string;
  readonly account: string;
  readonly month: Month;
  readonly rows: number;
  readonly amount: bigint;
}

interface Sum {
  rows: number;
  /** What is safe in float64, and what went beyond. */
  amount: number;
  large: bigint;
}
interface Slice {
  readonly scenario: string;
  readonly month: Month;
  days: number | null;
  readonly accounts: Map<string, Sum>;
}

/** Adds facts up by scenario, month and account as they go by. */
export class SliceTally {
  private readonly slices = new Map<Month, Map<string, Slice>>();
  /** Files come month by month: most facts fall into the slice of the one before. */
  private last: Slice | undefined;

  add(fact: Fact): void {
    let slice = this.last;
    if (!slice || slice.month !== fact.month || slice.scenario !== fact.scenario) this.last = slice = this.open(fact);
    if (fact.day !== null) slice.days = (slice.days ?? 0) | (1 << (fact.day - 1));
    let sum = slice.accounts.get(fact.account);
    if (!sum) slice.accounts.set(fact.account, (sum = { rows: 0, amount: 0, large: 0n }));
    sum.rows += 1;
    const amount = sum.amount + fact.amount;
    if (Number.isSafeInteger(amount)) sum.amount = amount;
    else {
      sum.large += BigInt(sum.amount) + BigInt(fact.amount);
      sum.amount = 0;
    }
  }

  months(): LoadedMonth[] {
    return this.all().map(({ scenario, month, days }) => ({ scenario, month, days }));
  }

  accounts(): LoadedAccount[] {
    return this.all().flatMap(({ scenario, month, accounts }) =>
      [...accounts].map(([account, sum]) => ({
        scenario,
        account,
        month,
        rows: sum.rows,
        amount: sum.large + BigInt(sum.amount),
      })),
    );
  }

  private open({ scenario, month }: Fact): Slice {
    const byScenario = getOrCreate(this.slices, month, () => new Map<string, Slice>());
    return getOrCreate(byScenario, scenario, () => ({ scenario, month, days: null, accounts: new Map<string, Sum>() }));
  }

  private all(): Slice[] {
    return [...this.slices.values()].flatMap((byScenario) => [...byScenario.values()]);
  }
}
