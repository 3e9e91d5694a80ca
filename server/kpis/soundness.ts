import type { Knex } from "knex";
import { compileLibrary, type KpiProblem } from "#core/kpis/compile-kpi.ts";
import { bandProblems } from "#core/kpis/status.ts";
import { formulaNames } from "#core/frame/company.ts";
import type { LibraryKpi } from "#contract/kpis.ts";
import { readablePanels, type Pack } from "#contract/pack.ts";
import { referencesOf } from "#core/panels/schemas.ts";
import type { Structure } from "#server/db/structure.ts";
import { readPacks } from "#server/packs/pack-rows.ts";
import { packName } from "#server/packs/packs.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

/** Whether a KPI's formula or status names another. */
export function refersTo({ kpis }: Structure, other: KpiDefinition, key: string): boolean {
  if (other.status?.against.kind === "kpi" && other.status.against.kpi === key) return true;
  return kpis.get(other.key)?.formula.names.includes(key) ?? false;
}

/** The pages on which a KPI stands. */
export function pagesWith(packs: readonly Pack[], key: string): LibraryKpi["pages"] {
  return packs.flatMap((pack) =>
    pack.pages
      .filter((page) => readablePanels(page).some((panel) => referencesOf(panel.definition).kpis.includes(key)))
      .map((page) => ({ pack: pack.key, packName: packName(pack.name, "Monthly"), page: page.key, name: page.name })),
  );
}

/** Refuses to remove a KPI that something names. */
export async function refuseUsed(
  knex: Knex,
  structure: Structure,
  definitions: readonly KpiDefinition[],
  key: string,
): Promise<void> {
  const name = definitions.find((definition) => definition.key === key)?.name ?? key;
  const user = definitions.find((other) => other.key !== key && refersTo(structure, other, key));
  if (user) throw new ProblemError("in-use", `${user.name} uses ${name}. Change ${user.name} first.`);
  const page = pagesWith(await readPacks(knex), key)[0];
  if (page)
    throw new ProblemError("in-use", `${name} is on the page ${page.name} of ${page.packName}. Remove it there first.`);
}

/** Refuses a key that a KPI or an account has already. */
export function refuseTaken({ accounts }: Structure, definitions: readonly KpiDefinition[], key: string): void {
  if (definitions.some((d) => d.key === key))
    throw new ProblemError("invalid-change", `There is a KPI "${key}" already. Choose another key.`);
  const account = accounts.accounts.get(key);
  if (account)
    throw new ProblemError(
      "invalid-change",
      `"${key}" is the account ${account.name} in formulas. Choose another key for the KPI.`,
    );
}

/** Refuses a library in which the changed KPI, or one that names it, would not hold. */
export function refuseUnsound(
  structure: Structure,
  before: readonly KpiDefinition[],
  next: readonly KpiDefinition[],
  changed: KpiDefinition,
): void {
  const names = formulaNames(structure);
  const known = new Set(compileLibrary(before, names).problems.map((p) => p.kpi));
  const { problems } = compileLibrary(next, names);
  const own = problems.find((p) => p.kpi === changed.key);
  if (own) throw new ProblemError("invalid-change", own.problem.message);
  const broken: KpiProblem | undefined = problems.find((p) => !known.has(p.kpi));
  if (broken) {
    const name = next.find((d) => d.key === broken.kpi)!.name;
    throw new ProblemError("invalid-change", `${name} would no longer be valid: ${broken.problem.message}`);
  }
  const { status } = changed;
  const band = status && bandProblems(status.bands)[0];
  if (band) throw new ProblemError("invalid-change", band.message);
  if (status?.against.kind === "kpi" && !next.some((d) => d.key === (status.against as { kpi: string }).kpi))
    throw new ProblemError("invalid-change", `There is no KPI "${status.against.kpi}" to base the status on.`);
  if (changed.fallbackBasis !== null && !structure.coverage.scenarios.has(changed.fallbackBasis))
    throw new ProblemError("invalid-change", `There is no scenario "${changed.fallbackBasis}" to compare with.`);
}
