import type { CoverageMap } from "../cube/coverage.ts";
import type { Basis } from "./frame.ts";
import { WITH_OUTLOOK } from "./side.ts";

/** The scenarios' one code: how they are drawn and marked, whatever they are called. */
export const SCENARIO_CODES = ["actual", "forecast", "budget", "target", "prior-year"] as const;
export type ScenarioCode = (typeof SCENARIO_CODES)[number];

/** The code of a scenario, which is that of its kind. An outlook is a forecast; what is not known is a plan. */
export function codeOfScenario(key: string, { scenarios }: CoverageMap): ScenarioCode {
  return key === WITH_OUTLOOK ? "forecast" : (scenarios.get(key)?.kind ?? "budget");
}

/** The code of what a frame compares with. */
export function codeOfBasis(basis: Basis, coverage: CoverageMap): ScenarioCode {
  switch (basis.kind) {
    case "prior-year":
    case "prior-period":
      return "prior-year";
    case "latest-forecast":
      return "forecast";
    case "scenario":
      return codeOfScenario(basis.scenario, coverage);
  }
}
