import type { Account } from "../accounts/account.ts";
import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Grain, Scenario } from "../cube/coverage.ts";
import type { CurrencyRates } from "../currency/rate.ts";
import {
  currencyDimension,
  RATE_ACCOUNTS,
  RATES_DATASET,
  RATES_DIMENSION,
  RATES_SCENARIO,
} from "../currency/rates-dataset.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import { pluralName } from "../formats/plural-name.ts";
import type { Mapping } from "./mapping.ts";

/** A dataset as a mapping sees it. */
export interface DatasetShape {
  readonly key: string;
  readonly name: string;
  readonly grain: Grain;
  readonly dimensions: readonly string[];
  /** Accounts it has facts of, in any scenario. */
  readonly accounts: ReadonlySet<string>;
  /** The same by scenario. */
  readonly keeps: ReadonlyMap<string, ReadonlySet<string>>;
}

/** The structure a file is mapped to. */
export interface MappingView {
  readonly calendar: FiscalCalendar;
  /** The company's currency, by its ISO 4217 code: amounts in another one are not added to it. */
  readonly currency: string;
  readonly accounts: readonly Account[];
  readonly dimensions: readonly Dimension[];
  readonly scenarios: readonly Scenario[];
  readonly datasets: readonly DatasetShape[];
  /** What other currencies were worth in the company's. */
  readonly rates: CurrencyRates;
}

/** The structure as it will be once what the mapping creates is there. Members of new dimensions come with the rows. */
export function plannedView(view: MappingView, mapping: Mapping): MappingView {
  const { creates } = mapping;
  if (bringsRates(mapping)) return ratesView(view);
  const known = new Set(view.accounts.map((a) => a.key));
  const dimensions = [
    ...view.dimensions,
    ...creates.dimensions
      .filter((d) => !view.dimensions.some((own) => own.key === d.key))
      .map((d): Dimension => ({
        key: d.key,
        name: d.name,
        plural: pluralName(d.name),
        levels: [d.name],
        members: [],
      })),
  ];
  const used = Object.values(mapping.columns).flatMap((m) => (m.as === "dimension" ? [m.dimension] : []));
  const dataset = creates.dataset;
  return {
    ...view,
    accounts: [
      ...view.accounts,
      ...creates.accounts.filter((a) => !known.has(a.key)).map((a): Account => ({ ...a, parent: a.parent ?? null })),
    ],
    dimensions,
    datasets:
      dataset && !view.datasets.some((d) => d.key === mapping.dataset)
        ? [
            ...view.datasets,
            {
              key: mapping.dataset,
              name: dataset.name,
              grain: dataset.grain,
              dimensions: [...new Set(used)],
              accounts: new Set(),
              keeps: new Map(),
            },
          ]
        : view.datasets,
  };
}

/** Whether a mapping brings rates rather than facts. */
export function bringsRates({ dataset }: Pick<Mapping, "dataset">): boolean {
  return dataset === RATES_DATASET.key;
}

/** What rates are mapped to, in place of the structure of facts. */
function ratesView(view: MappingView): MappingView {
  return {
    ...view,
    accounts: RATE_ACCOUNTS,
    dimensions: [currencyDimension(view.currency)],
    scenarios: [RATES_SCENARIO],
    datasets: [
      { ...RATES_DATASET, grain: "month", dimensions: [RATES_DIMENSION], accounts: new Set(), keeps: new Map() },
    ],
  };
}

/** Keys of the dimensions whose members come with the rows: those the mapping brought, also when they are there by now. */
export function openDimensions(mapping: Mapping): ReadonlySet<string> {
  return new Set(mapping.creates.dimensions.map((d) => d.key));
}
