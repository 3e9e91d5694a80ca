import type { Month } from "../calendar/month.ts";
import { getOrCreate } from "../keyed.ts";
import type { Cell } from "./cell-source.ts";

/** Cells arranged for look-up by scenario, leaf account and month. */
export interface CellTable {
  /** Whole minor units; 0 where nothing was posted. Whether 0 is meant, coverage says. */
  amount(scenario: string, account: string, month: Month): number;
}

/** Arranges cells; cells of the same place add up. */
export function tabulateCells(cells: readonly Cell[]): CellTable {
  const byScenario = new Map<string, Map<string, Map<Month, number>>>();
  for (const cell of cells) {
    const byAccount = getOrCreate(byScenario, cell.scenario, () => new Map<string, Map<Month, number>>());
    const byMonth = getOrCreate(byAccount, cell.account, () => new Map<Month, number>());
    byMonth.set(cell.month, (byMonth.get(cell.month) ?? 0) + cell.amount);
  }
  return {
    amount: (scenario, account, month) => byScenario.get(scenario)?.get(account)?.get(month) ?? 0,
  };
}
