import type { Knex } from "knex";
import { diffRecords, type Records } from "#core/history/records-diff.ts";
import type { KpiHistory, LibraryKpi } from "#contract/kpis.ts";
import type { Structure } from "#server/db/structure.ts";
import { listChanges, makeChange } from "#server/history/history.ts";
import { readPacks } from "#server/packs/pack-rows.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { kpiRepository, kpiRecordName } from "./kpi-repository.ts";
import { pagesWith, refersTo, refuseTaken } from "./soundness.ts";
import { readStoredKpis } from "#server/db/stored-kpis.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

/** The whole library, in its order. */
export async function listKpis(knex: Knex, structure: Structure): Promise<LibraryKpi[]> {
  const [stored, packs] = await Promise.all([readStoredKpis(knex), readPacks(knex)]);
  const definitions = stored.map(({ definition }) => definition);
  const names = new Map(definitions.map((d) => [d.key, d.name]));
  return stored.map(({ definition, version, problem }) => ({
    definition,
    version,
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
    problem:
      problem === null
        ? (structure.kpiProblems.get(definition.key) ?? null)
        : { from: 0, to: definition.formula.length, message: problem },
  }));
}

/**
 * Adds a KPI, or changes one on top of the version it was made from. Everything that names it must still hold
 * together; what would not is refused, with the reason. Where somebody changed it since, both are shown.
 */
export async function saveKpi(
  trx: Knex.Transaction,
  structure: Structure,
  {
    key,
    version,
    definition,
    by,
  }: { key: string | null; version: number | null; definition: KpiDefinition; by: string },
): Promise<void> {
  const name = kpiRecordName(definition.key);
  await kpiRepository.read(trx, [name]);
  const stored = await readStoredKpis(trx);
  const now = stored.find((kpi) => kpi.definition.key === key);
  if (key !== null && !now) throw new ProblemError("not-found", `There is no KPI "${key}" any more.`);
  if (key !== null && definition.key !== key)
    throw new ProblemError("invalid-change", "A KPI's key stays as it is: formulas name it. Change its name instead.");
  if (key === null)
    refuseTaken(
      structure,
      stored.map((kpi) => kpi.definition),
      definition.key,
    );
  if (now && version !== null && now.version !== version)
    throw new ProblemError(
      "changed-meanwhile",
      `Someone changed ${now.definition.name} while you were editing it. Compare both versions, then apply yours on top.`,
      { both: { current: { ...now.definition, version: now.version }, yours: definition } },
    );
  const before: Records = now ? { [name]: now.definition } : {};
  const changer = { by, said: sayChange(now?.definition, definition) };
  const diff = diffRecords(before, { [name]: definition });
  await makeChange(trx, { area: "kpi", repository: kpiRepository, changer, diff });
}

/** Removes a KPI that nothing names. */
export async function removeKpi(trx: Knex.Transaction, key: string, by: string): Promise<void> {
  const name = kpiRecordName(key);
  await kpiRepository.read(trx, [name]);
  const now = (await readStoredKpis(trx)).find((kpi) => kpi.definition.key === key);
  if (!now) throw new ProblemError("not-found", `There is no KPI "${key}".`);
  const changer = { by, said: `Removed ${now.definition.name}` };
  await makeChange(trx, {
    area: "kpi",
    repository: kpiRepository,
    changer,
    diff: diffRecords({ [name]: now.definition }, {}),
  });
}

/** What was done to a KPI, newest first. */
export async function kpiHistory(knex: Knex, key: string): Promise<KpiHistory> {
  const name = kpiRecordName(key);
  const changes = await listChanges(knex, { area: "kpi", records: [name] });
  return changes.map(({ diff, ...change }, i) => {
    const formula = (record: unknown) => (record as KpiDefinition | undefined)?.formula ?? null;
    const { from, to } = diff.changed[name] ?? { from: diff.removed[name], to: diff.added[name] };
    // The first one has nothing before it: a KPI is removed, not taken back.
    const mayUndo = i === 0 && change.mayUndo && from !== undefined;
    return { ...change, mayUndo, formulaBefore: formula(from), formulaAfter: formula(to) };
  });
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
