import { formatMonth, monthName, type Month } from "../../calendar/month.ts";
import { periodName } from "../../calendar/fiscal-calendar.ts";
import { compareSides, type SidesCompared } from "../../compare/compare-kpi.ts";
import { measureMonth } from "../../compare/measure.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import type { Outlook } from "../../compare/outlook.ts";
import { SHOWN, type Side } from "../../compare/side.ts";
import { monthWindow } from "../../compare/window.ts";
import { absent, isPresent } from "../../figures/figure.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { stepOf } from "./step.ts";
import type { BridgeStep } from "./schema.ts";
import type { Absence } from "../../figures/schema.ts";

/** What each month that went into Δ brings to it; only of what adds up over months. */
export function monthSteps(
  kpi: CompiledKpi,
  basis: Side | Absence,
  { compared }: SidesCompared,
  context: MeasureContext,
): BridgeStep[] {
  return compared.flatMap((month) => {
    const { delta } = compareSides(kpi, SHOWN, basis, monthWindow(month), context).variance;
    return isPresent(delta) ? [monthStep(kpi, month, delta.value, context, false)] : [];
  });
}

/** What each month to come brings to the year's end, by the source of the outlook. */
export function outlookSteps(
  kpi: CompiledKpi,
  { source, monthly }: Pick<Outlook, "source" | "monthly">,
  months: readonly Month[],
  context: MeasureContext,
): BridgeStep[] {
  const side = source?.side;
  return months.flatMap((month, i) => {
    const figure = monthly ? monthly[i]! : side ? measureMonth(kpi, side, month, context).figure : NOTHING;
    return isPresent(figure) ? [monthStep(kpi, month, figure.value, context, true)] : [];
  });
}

const NOTHING = absent("not covered", "There is no forecast for the month.");

function monthStep(
  kpi: CompiledKpi,
  month: Month,
  value: number,
  { calendar }: MeasureContext,
  isForecast: boolean,
): BridgeStep {
  const step = stepOf(
    {
      key: formatMonth(month),
      name: isForecast ? periodName(calendar, month) : monthName(month),
      value,
      months: formatMonth(month),
      isForecast,
    },
    kpi.definition.direction,
  );
  // A month to come is no variance: it is neither good nor bad.
  return isForecast ? { ...step, judgement: null } : step;
}
