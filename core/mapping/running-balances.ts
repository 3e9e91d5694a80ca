import type { Month } from "../calendar/month.ts";
import type { Fact } from "../cube/fact.ts";
import { getOrCreate } from "../collections/keyed.ts";

/** A balance at the end of a period, and the last line that moved it. */
export interface RunningBalance {
  readonly fact: Fact;
  readonly line: number;
}

/** Adds up what moved balances, period by period: each ends with what it began with and what moved it. */
export class RunningBalances {
  private readonly kept = new Map<string, { first: Fact; line: number; moved: Map<Month, number> }>();
  /** By scenario, the last period that any line of the file speaks of. */
  private readonly last = new Map<string, Month>();

  /** Takes a line of any account, so that balances reach to the end of the file. */
  see(scenario: string, month: Month): void {
    const before = this.last.get(scenario);
    if (before === undefined || month > before) this.last.set(scenario, month);
  }

  /** Takes what moved a balance, in its account's own units and sign. */
  add(fact: Fact, line: number): void {
    const key = JSON.stringify([fact.scenario, fact.account, fact.members]);
    const own = getOrCreate(this.kept, key, () => ({ first: fact, line, moved: new Map<Month, number>() }));
    own.line = line;
    own.moved.set(fact.month, (own.moved.get(fact.month) ?? 0) + fact.amount);
  }

  /** The balance at the end of each period, from the first that moved it to the file's last; `step` months are one. */
  *balances(step: number): Generator<RunningBalance> {
    for (const { first, line, moved } of this.kept.values()) {
      const last = this.last.get(first.scenario)!;
      let amount = 0;
      for (let month = Math.min(...moved.keys()); month <= last; month += step) {
        amount += moved.get(month) ?? 0;
        yield { fact: { ...first, month, day: null, amount, reference: null }, line };
      }
    }
  }
}
