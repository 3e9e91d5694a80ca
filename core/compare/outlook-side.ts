import { fiscalYearOf, fiscalYearStart } from "../calendar/fiscal-calendar.ts";
import { lastClosedMonth } from "../cube/coverage.ts";
import { absent } from "../figures/figure.ts";
import type { MeasureGround } from "./measure-ground.ts";
import type { Measuring } from "./measuring.ts";
import { closedMonths, openDays, planOfRest } from "./outlook-months.ts";
import { ESTIMATE_NAMES, isEstimate, LATEST } from "../formula/outlook-source.ts";
import { OUTLOOK_NAME, type Side } from "./side.ts";
import type { Window } from "./window.ts";
import type { Measured } from "./measured.ts";
import type { Absence } from "../figures/schema.ts";

/**
 * The actual with its outlook: closed months of the fiscal year from the actual, the others from the scenario that
 * plans them, so that it adds up by month, member and account like any scenario. An estimate is made for one figure
 * as a whole and has no such parts: absent, with the way out.
 */
export function outlookSide(
  kpi: Measured,
  { shift }: Side,
  window: Window,
  ground: MeasureGround,
  measuring: Pick<Measuring, "coverSide">,
): Side | Absence {
  const actual: Side = { scenario: "actual", shift, name: OUTLOOK_NAME };
  const asOf = ground.knownTo ?? lastClosedMonth(ground.coverage);
  if (asOf === undefined) return absent("no data", "No month is closed yet.");
  const start = fiscalYearStart(ground.calendar, fiscalYearOf(ground.calendar, asOf));
  const closed = closedMonths(kpi, asOf, ground, measuring);
  const after = start + closed.length - 1;
  // What lies in closed months needs no plan, and is there where no plan is.
  if (closed.length === 12 || window.to - shift <= after) return actual;
  const wanted = ground.outlook ?? LATEST;
  if (isEstimate(wanted))
    return absent(
      "not covered",
      `An outlook by ${ESTIMATE_NAMES[wanted]} is made for one figure as a whole and has no parts. Take the remaining months from a version, or post one by it.`,
    );
  const plan = planOfRest(wanted, kpi, asOf, ground);
  if ("absent" in plan) return plan;
  const open = openDays(kpi, after + 1, asOf, ground, measuring);
  return {
    ...actual,
    then: {
      scenario: plan.scenario,
      name: plan.name,
      after,
      open: open && { month: open.month, days: open.days, share: open.share },
    },
  };
}
