import type { CurrencyRates } from "#core/currency/rate.ts";
import type { MappingView } from "#core/mapping/mapping-view.ts";
import type { Structure } from "#server/db/structure.ts";

const NO_RATES: CurrencyRates = new Map();

/** The structure as files are mapped to it; with rates where amounts are to be converted. */
export function mappingView(structure: Structure, rates = NO_RATES): MappingView {
  const { coverage } = structure;
  const keeps = new Map<string, Map<string, Set<string>>>();
  for (const [scenario, homes] of coverage.homes) {
    for (const { dataset, account } of homes.values()) {
      const own = keeps.get(dataset) ?? new Map<string, Set<string>>();
      keeps.set(dataset, own.set(scenario, (own.get(scenario) ?? new Set()).add(account)));
    }
  }
  return {
    calendar: structure.calendar,
    currency: structure.currency,
    rates,
    accounts: [...structure.accounts.accounts.values()],
    dimensions: structure.dimensions,
    scenarios: [...coverage.scenarios.values()],
    datasets: [...coverage.datasets.values()].map(({ key, name, grain }) => ({
      key,
      name,
      grain,
      dimensions: structure.datasetDimensions.get(key) ?? [],
      accounts: new Set([...(keeps.get(key)?.values() ?? [])].flatMap((own) => [...own])),
      keeps: keeps.get(key) ?? new Map(),
    })),
  };
}
