import type { AccountTree } from "../accounts/account-tree.ts";
import type { Month } from "../calendar/month.ts";
import type { CellQuery, ScenarioWindow } from "../cube/cell-source.ts";
import type { Scope } from "../dimensions/scope.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Side } from "./side.ts";

/** A side and the frame's months (not shifted) that will be measured on it. */
export interface SideMonths {
  readonly side: Side;
  readonly months: readonly Month[];
}

/** One query for all the cells that measuring these KPIs on these sides will look up. */
export function planCells({
  kpis,
  sides,
  accounts,
  scope,
  throughDay,
}: {
  kpis: readonly CompiledKpi[];
  sides: readonly SideMonths[];
  accounts: AccountTree;
  scope: Scope;
  throughDay?: number;
}): CellQuery {
  const leaves = kpis.flatMap((kpi) => kpi.formula.inputs.flatMap((input) => accounts.leaves.get(input.account)!));
  const windows = new Map<string, ScenarioWindow>();
  for (const { side, months } of sides) {
    if (months.length === 0) continue;
    // Two months more at either end: what is kept by quarter is read by whole quarters.
    const from = Math.min(...months) - side.shift - 2;
    const to = Math.max(...months) - side.shift + 2;
    const known = windows.get(side.scenario);
    windows.set(side.scenario, {
      scenario: side.scenario,
      from: Math.min(from, known?.from ?? from),
      to: Math.max(to, known?.to ?? to),
    });
  }
  return {
    accounts: [...new Set(leaves)],
    windows: [...windows.values()],
    scope,
    ...(throughDay === undefined ? {} : { throughDay }),
  };
}
