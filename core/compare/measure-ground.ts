import type { AccountTree } from "../accounts/account-tree.ts";
import type { KnownEvent } from "../ahead/known-events.ts";
import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import type { CellBook } from "../cube/cell-book.ts";
import type { CoverageMap } from "../cube/coverage.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import { hasBounds } from "../dimensions/life.ts";
import type { Scope } from "../dimensions/scope.ts";
import type { OutlookSource } from "../formula/outlook-source.ts";
import type { Absence } from "../figures/schema.ts";

/** All that measuring needs besides the KPI and the cells: structure, coverage and scope. */
export interface MeasureGround {
  readonly accounts: AccountTree;
  readonly calendar: FiscalCalendar;
  readonly dimensions: readonly Dimension[];
  readonly coverage: CoverageMap;
  /** Inside the reader's access. */
  readonly scope: Scope;
  /** What the reader may see at all: formulas that widen the scope stay inside it. */
  readonly access: Scope;
  /** The as-of month, after which no actual is known, even where it is posted already; none where `undefined`. */
  readonly knownTo?: Month;
  /** Where the months come from that are not closed yet; the latest forecast, else the budget, where nothing is said. */
  readonly outlook?: OutlookSource | undefined;
  /** The version that is looked at in the place of the actual; none where nothing is said. */
  readonly shown?: string | undefined;
  /** Events that series of history know of; none where nothing is said. */
  readonly knownEvents?: readonly KnownEvent[] | undefined;
  /**
   * Members that are looked at one by one: outside their life the actual is absent, rather than 0. None where the scope
   * is but narrowed to some.
   */
  readonly living?: Scope | undefined;
  /** Why the scope lets nothing through (empty, or outside what the person may see). */
  readonly scopeAbsence?: Absence;
}

/** A ground inside the scope of a member that is looked at by itself. */
export function inMember<T extends MeasureGround>(ground: T, dimension: string, key: string, scope: Scope): T {
  return inMembers(ground, { [dimension]: [key] }, scope);
}

/** A ground inside the scope of members of some dimensions, each looked at by itself. */
export function inMembers<T extends MeasureGround>(ground: T, members: Scope, scope: Scope): T {
  const bounded = Object.entries(members).filter(([key, own]) => {
    const dimension = ground.dimensions.find((d) => d.key === key);
    return dimension !== undefined && own.every((member) => hasBounds(dimension, member));
  });
  if (bounded.length === 0) return { ...ground, scope };
  return { ...ground, scope, living: { ...ground.living, ...Object.fromEntries(bounded) } };
}

/** The same, with the cells that figures are made of. */
export interface MeasureContext extends MeasureGround {
  readonly cells: CellBook;
}
