import type { CellBook } from "../cube/cell-book.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import type { Scope } from "../dimensions/scope.ts";
import type { Company } from "../frame/company.ts";
import type { AskedFrame } from "../frame/resolve-frame.ts";

/** What a panel's figures are computed from: the company, who asks, the frame, and the cells. */
export interface PanelQuestion {
  readonly company: Company;
  /** The rows the reader may see. */
  readonly access: Scope;
  readonly asked: AskedFrame;
  readonly cells: CellBook;
}

/** The ground a question is measured on: nothing after its as-of month is known. */
export function measureContext({ company, access, asked, cells }: PanelQuestion): MeasureContext {
  const { accounts, calendar, dimensions, coverage, knownEvents } = company;
  return {
    accounts,
    calendar,
    dimensions,
    coverage,
    cells,
    knownEvents,
    scope: asked.scope,
    access,
    knownTo: asked.frame.asOf,
    ...(asked.frame.shown === undefined ? {} : { shown: asked.frame.shown }),
    ...(asked.frame.outlook === undefined ? {} : { outlook: asked.frame.outlook }),
    ...(asked.scopeAbsence === undefined ? {} : { scopeAbsence: asked.scopeAbsence }),
  };
}
