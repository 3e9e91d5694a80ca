import type { Knex } from "knex";
import * as foundations from "./migrations/001-foundations.ts";
import * as intakes from "./migrations/002-intakes.ts";
import * as kpiChanges from "./migrations/003-kpi-changes.ts";
import * as apiTokens from "./migrations/004-api-tokens.ts";
import * as alerts from "./migrations/005-alerts.ts";
import * as history from "./migrations/006-history.ts";
import * as factVersions from "./migrations/007-fact-versions.ts";
import * as cancelAsked from "./migrations/008-cancel-asked.ts";
import * as datasetSlots from "./migrations/009-dataset-slots.ts";
import * as composedPages from "./migrations/010-composed-pages.ts";
import * as versions from "./migrations/011-versions.ts";
import * as knownEvents from "./migrations/012-known-events.ts";
import * as adjustments from "./migrations/013-adjustments.ts";
import * as ownCompanies from "./migrations/014-own-companies.ts";
import * as lookupTables from "./migrations/015-lookup-tables.ts";
import * as numberWriting from "./migrations/016-number-writing.ts";
import * as currencyRates from "./migrations/017-currency-rates.ts";
import * as broughtByLoads from "./migrations/018-brought-by-loads.ts";
import * as dateWriting from "./migrations/019-date-writing.ts";
import * as underWeight from "./migrations/020-under-weight.ts";
import * as daysWithoutLines from "./migrations/021-days-without-lines.ts";
import * as oneClickSignIn from "./migrations/022-one-click-sign-in.ts";

interface Migration {
  readonly name: string;
  up(knex: Knex): Promise<void>;
  down(knex: Knex): Promise<void>;
}

/** All migrations, in order. */
export const MIGRATIONS: readonly Migration[] = [
  { name: "001-foundations", ...foundations },
  { name: "002-intakes", ...intakes },
  { name: "003-kpi-changes", ...kpiChanges },
  { name: "004-api-tokens", ...apiTokens },
  { name: "005-alerts", ...alerts },
  { name: "006-history", ...history },
  { name: "007-fact-versions", ...factVersions },
  { name: "008-cancel-asked", ...cancelAsked },
  { name: "009-dataset-slots", ...datasetSlots },
  { name: "010-composed-pages", ...composedPages },
  { name: "011-versions", ...versions },
  { name: "012-known-events", ...knownEvents },
  { name: "013-adjustments", ...adjustments },
  { name: "014-own-companies", ...ownCompanies },
  { name: "015-lookup-tables", ...lookupTables },
  { name: "016-number-writing", ...numberWriting },
  { name: "017-currency-rates", ...currencyRates },
  { name: "018-brought-by-loads", ...broughtByLoads },
  { name: "019-date-writing", ...dateWriting },
  { name: "020-under-weight", ...underWeight },
  { name: "021-days-without-lines", ...daysWithoutLines },
  { name: "022-one-click-sign-in", ...oneClickSignIn },
];

/** Migrations are imported rather than read from a folder, so that types and bundles hold them. */
const source: Knex.MigrationSource<Migration> = {
  getMigrations: () => Promise.resolve([...MIGRATIONS]),
  getMigrationName: (migration) => migration.name,
  getMigration: (migration) => Promise.resolve(migration),
};

/** Brings the schema up to date. Returns the names of the migrations that were applied. */
export async function migrate(knex: Knex): Promise<string[]> {
  const [, applied] = (await knex.migrate.latest({ migrationSource: source })) as [number, string[]];
  return applied;
}
