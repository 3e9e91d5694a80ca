import { formulaName } from "#core/formula/functions/bind.ts";
import { FUNCTIONS, usageOf } from "#core/formula/functions/index.ts";
import { printScenario } from "#core/formula/print.ts";
import type { Dimension } from "#core/dimensions/dimension.ts";
import type { Language } from "#contract/kpis.ts";
import type { Structure } from "#server/db/structure.ts";

/** The formula language as this company speaks it: its functions with what they say of themselves, and its names. */
export function describeLanguage(structure: Structure, dimensions: readonly Dimension[]): Language {
  return {
    accounts: [...structure.accounts.accounts.values()].map(({ key, name, kind, behaviour }) => ({
      key,
      name,
      about: `${kind}, ${behaviour}`,
    })),
    kpis: [...structure.kpis.values()].map(({ definition: { key, name, description } }) => ({
      key,
      name,
      about: description,
    })),
    scenarios: [
      ...[...structure.coverage.scenarios.values()].map(({ key, name }) => ({
        key,
        name,
        written: printScenario(key),
      })),
      { key: "forecast", name: "Latest forecast", written: "forecast" },
    ],
    dimensions: dimensions.map(({ key, name, levels, members }) => ({
      name: formulaName(key),
      label: name,
      levels: [...levels],
      members: members.map((m) => m.name),
    })),
    functions: [...FUNCTIONS.values()].map((f) => ({
      name: f.name,
      group: f.group,
      usage: usageOf(f),
      gives: f.gives,
      absence: f.absence,
      example: f.example,
      parameters: f.parameters.map((p) => ({
        name: p.name,
        about: p.about,
        isOption: p.isOption ?? false,
        choices: p.takes === "choice" ? [...p.of] : [],
      })),
    })),
  };
}
