import { forecastWith } from "../../compare/forecast-with.ts";
import { hasInputs } from "../../compare/has-inputs.ts";
import { SHOWN, PRIOR_YEAR, type Side } from "../../compare/side.ts";
import type { ScenarioCode } from "../../compare/scenario-code.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";

/** A scenario to stand beside others; `key` is as the code of scenarios has it, whichever forecast is the latest. */
export interface ScenarioSide {
  readonly key: ScenarioCode;
  readonly side: Side;
}

/** The scenarios that have the KPI, in the order of the code. */
export function scenarioSides(kpi: CompiledKpi, question: PanelQuestion): ScenarioSide[] {
  const { coverage } = question.company;
  const context = measureContext(question);
  const forecast = forecastWith(kpi, question.asked.frame.asOf, context);
  const known = (key: ScenarioCode, scenario: string): ScenarioSide[] => {
    const found = coverage.scenarios.get(scenario);
    return found && hasInputs(kpi, scenario, context) ? [{ key, side: { scenario, shift: 0, name: found.name } }] : [];
  };
  return [
    { key: "actual", side: SHOWN },
    ...known("budget", "budget"),
    ...(forecast ? known("forecast", forecast.key) : []),
    ...known("target", "target"),
    { key: "prior-year", side: PRIOR_YEAR },
  ];
}
