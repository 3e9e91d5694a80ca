import type { Knex } from "knex";
import { compileLibrary, type KpiProblem } from "#core/kpis/compile-kpi.ts";
import type { KpiDefinition } from "#core/kpis/kpi.ts";
import { bandProblems } from "#core/kpis/status.ts";
import { kpiDefinitionSchema } from "#contract/kpi.ts";
import type { KpiHistory, LibraryKpi } from "#contract/kpis.ts";
import { kpisOf, packSchema, type PackDefinition } from "#contract/pack.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/http/problem-error.ts";

/** The whole library, in its order. */
export async function listKpis(knex: Knex, structure: Structure): Promise<LibraryKpi[]> {
  const [definitions, packs] = await Promise.all([readDefinitions(knex), readPacks(knex)]);
  const names = new Map(definitions.map((d) => [d.key, d.name]));
  return definitions.map((definition) => ({
    definition,
    reads: (structure.kpis.get(definition.key)?.formula.names ?? []).map((key) => {
      const account = structure.accounts.accounts.get(key);
      return account
        ? { key, name: account.name, kind: "account" as const }
        : { key, name: names.get(key) ?? key, kind: "kpi" as const };
    }),
    usedBy: definitions
      .filter((other) => other.key !== definition.key && refersTo(structure, other, definition.key))
      .map(({ key, name }) => ({ key, name })),
    pages: pagesWith(packs, definition.key),
    problem: structure.kpiProblems.get(definition.key) ?? null,
  }));
}

/**
 * Adds or changes a KPI. Everything that names it must still hold together; what would not
 * is refused, with the reason. Every change is remembered with what was before.
 */
export async function saveKpi(
  trx: Knex.Transaction,
  structure: Structure,
  { key, definition, by, said }: { key: string | null; definition: KpiDefinition; by: string; said?: string },
): Promise<void> {
  await lock(trx);
  const definitions = await readDefinitions(trx);
  const before = definitions.find((d) => d.key === key);
  if (key !== null && !before) throw new ProblemError("not-found", `There is no KPI "${key}" any more.`);
  if (key !== null && definition.key !== key)
    throw new ProblemError("invalid-change", "A KPI's key stays as it is: formulas name it. Change its name instead.");
  if (key === null) refuseTaken(structure, definitions, definition.key);
  const next = before ? definitions.map((d) => (d === before ? definition : d)) : [...definitions, definition];
  refuseUnsound(structure, definitions, next, definition);
  if (JSON.stringify(before) === JSON.stringify(definition)) return;
  if (before)
    await trx("kpi")
      .where({ key: definition.key })
      .update({ definition: JSON.stringify(definition) });
  else
    await trx("kpi").insert({
      key: definition.key,
      definition: JSON.stringify(definition),
      position: trx.raw("(select coalesce(max(position), -1) + 1 from kpi)"),
    });
  await remember(trx, { by, said: said ?? sayChange(before, definition), before, after: definition });
}

/** Removes a KPI that nothing names. */
export async function removeKpi(trx: Knex.Transaction, structure: Structure, key: string, by: string): Promise<void> {
  await lock(trx);
  const definitions = await readDefinitions(trx);
  const before = definitions.find((d) => d.key === key);
  if (!before) throw new ProblemError("not-found", `There is no KPI "${key}".`);
  const user = definitions.find((other) => other.key !== key && refersTo(structure, other, key));
  if (user) throw new ProblemError("in-use", `${user.name} is reckoned with ${before.name}. Change that one first.`);
  const page = pagesWith(await readPacks(trx), key)[0];
  if (page)
    throw new ProblemError(
      "in-use",
      `${before.name} stands on the page ${page.name} of ${page.packName}. Take it off there first.`,
    );
  await trx("kpi").where({ key }).delete();
  await remember(trx, { by, said: `Removed ${before.name}`, before, after: undefined });
}

/** What was done to a KPI, newest first. */
export async function kpiHistory(knex: Knex, key: string): Promise<KpiHistory> {
  const rows = await knex("kpi_change").where({ kpi: key }).orderBy("id", "desc").limit(100).select<ChangeRow[]>("*");
  return rows.map((row, i) => ({
    id: row.id,
    at: row.at.toISOString(),
    by: row.by,
    said: row.said,
    formulaBefore: row.before?.formula ?? null,
    formulaAfter: row.after?.formula ?? null,
    mayUndo: i === 0 && row.before !== null,
  }));
}

/** Takes a KPI's last change back, as a change of its own. */
export async function undoKpiChange(
  trx: Knex.Transaction,
  structure: Structure,
  id: number,
  by: string,
): Promise<void> {
  const row = await trx("kpi_change").where({ id }).first<ChangeRow | undefined>("*");
  if (!row?.before) throw new ProblemError("not-found", `There is no change ${id} that can be taken back.`);
  const last: { id: number } | undefined = await trx("kpi_change")
    .where({ kpi: row.kpi })
    .orderBy("id", "desc")
    .first("id");
  if (last?.id !== id) throw new ProblemError("in-use", "The KPI was changed since. Take back the later change first.");
  const exists: unknown = await trx("kpi").where({ key: row.kpi }).first("key");
  await saveKpi(trx, structure, {
    key: exists ? row.kpi : null,
    definition: kpiDefinitionSchema.parse(row.before),
    by,
    said: `Taken back: ${row.said}`,
  });
}

interface ChangeRow {
  id: number;
  kpi: string;
  at: Date;
  by: string;
  said: string;
  before: KpiDefinition | null;
  after: KpiDefinition | null;
}

async function readDefinitions(knex: Knex): Promise<KpiDefinition[]> {
  const rows: { definition: unknown }[] = await knex("kpi").orderBy("position").select("definition");
  return rows.map((row) => kpiDefinitionSchema.parse(row.definition));
}

async function readPacks(knex: Knex): Promise<PackDefinition[]> {
  const rows: { definition: unknown }[] = await knex("pack").orderBy("position").select("definition");
  return rows.map((row) => packSchema.parse(row.definition));
}

function refersTo({ kpis }: Structure, other: KpiDefinition, key: string): boolean {
  if (other.status?.against.kind === "kpi" && other.status.against.kpi === key) return true;
  return kpis.get(other.key)?.formula.names.includes(key) ?? false;
}

function pagesWith(packs: readonly PackDefinition[], key: string): LibraryKpi["pages"] {
  return packs.flatMap((pack) =>
    pack.pages
      .filter((page) => page.panels.some((panel) => kpisOf(panel).includes(key)))
      .map((page) => ({
        pack: pack.key,
        packName: pack.name.replace("{month} ", "Monthly "),
        page: page.key,
        name: page.name,
      })),
  );
}

function refuseTaken({ accounts }: Structure, definitions: readonly KpiDefinition[], key: string): void {
  if (definitions.some((d) => d.key === key))
    throw new ProblemError("invalid-change", `There is a KPI "${key}" already. Choose another key.`);
  const account = accounts.accounts.get(key);
  if (account)
    throw new ProblemError(
      "invalid-change",
      `"${key}" is the account ${account.name} in formulas. Choose another key for the KPI.`,
    );
}

function refuseUnsound(
  structure: Structure,
  before: readonly KpiDefinition[],
  next: readonly KpiDefinition[],
  changed: KpiDefinition,
): void {
  const names = namesOf(structure);
  const known = new Set(compileLibrary(before, names).problems.map((p) => p.kpi));
  const { problems } = compileLibrary(next, names);
  const own = problems.find((p) => p.kpi === changed.key);
  if (own) throw new ProblemError("invalid-change", own.problem.message);
  const broken: KpiProblem | undefined = problems.find((p) => !known.has(p.kpi));
  if (broken) {
    const name = next.find((d) => d.key === broken.kpi)!.name;
    throw new ProblemError("invalid-change", `${name} would no longer hold: ${broken.problem.message}`);
  }
  const { status } = changed;
  const band = status && bandProblems(status.bands)[0];
  if (band) throw new ProblemError("invalid-change", band.message);
  if (status?.against.kind === "kpi" && !next.some((d) => d.key === (status.against as { kpi: string }).kpi))
    throw new ProblemError("invalid-change", `There is no KPI "${status.against.kpi}" to hold the status against.`);
  if (changed.fallbackBasis !== null && !structure.coverage.scenarios.has(changed.fallbackBasis))
    throw new ProblemError("invalid-change", `There is no scenario "${changed.fallbackBasis}" to compare with.`);
}

/** What a formula may name in this structure. */
export function namesOf({ accounts, dimensions, coverage }: Structure) {
  return { accounts, dimensions, scenarios: [...coverage.scenarios.keys()] };
}

function sayChange(before: KpiDefinition | undefined, after: KpiDefinition): string {
  if (!before) return `Added ${after.name}`;
  if (before.name !== after.name) return `Renamed ${before.name} to ${after.name}`;
  if (before.formula !== after.formula) return `Changed the formula of ${after.name}`;
  const parts = (Object.keys(after) as (keyof KpiDefinition)[]).filter(
    (part) => JSON.stringify(before[part]) !== JSON.stringify(after[part]),
  );
  return `Changed ${parts.map((part) => PART_NAMES[part] ?? part).join(", ")} of ${after.name}`;
}

const PART_NAMES: Partial<Record<keyof KpiDefinition, string>> = { fallbackBasis: "the other basis" };

async function remember(
  trx: Knex.Transaction,
  {
    by,
    said,
    before,
    after,
  }: { by: string; said: string; before: KpiDefinition | undefined; after: KpiDefinition | undefined },
): Promise<void> {
  await trx("kpi_change").insert({
    kpi: (after ?? before)!.key,
    by,
    said,
    before: before ? JSON.stringify(before) : null,
    after: after ? JSON.stringify(after) : null,
  });
  await trx("data_version").increment("version", 1);
}

/** One change of the library at a time. */
async function lock(trx: Knex.Transaction): Promise<void> {
  await trx.raw("select pg_advisory_xact_lock(72003)");
}
