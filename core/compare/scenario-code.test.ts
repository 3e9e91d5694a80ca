import { expect, it } from "vitest";
import { contextOf, run } from "../testing/small-company.ts";
import { codeOfBasis, codeOfScenario, SCENARIO_CODES } from "./scenario-code.ts";
import { WITH_OUTLOOK } from "./side.ts";

it("draws a scenario in the code of its kind, whatever its key is", () => {
  const { coverage } = contextOf(run("budget", "bread", 24315, [1]));
  const own = new Map(coverage.scenarios);
  own.set("our-best-guess", { key: "our-best-guess", name: "Our best guess", kind: "forecast", madeAfter: null });
  own.set("forecasting-award", {
    key: "forecasting-award",
    name: "Forecasting award",
    kind: "target",
    madeAfter: null,
  });
  const named = { ...coverage, scenarios: own };
  expect(
    ["actual", "budget", "forecast-6-6", "target", "our-best-guess", "forecasting-award", WITH_OUTLOOK].map((key) =>
      codeOfScenario(key, named),
    ),
  ).toEqual(["actual", "budget", "forecast", "target", "forecast", "target", "forecast"]);
  expect(codeOfBasis({ kind: "scenario", scenario: "our-best-guess" }, named)).toBe("forecast");
  expect(
    (["latest-forecast", "prior-year", "prior-period"] as const).map((kind) => codeOfBasis({ kind }, named)),
  ).toEqual(["forecast", "prior-year", "prior-year"]);
  expect(new Set(SCENARIO_CODES).size).toBe(5);
});
