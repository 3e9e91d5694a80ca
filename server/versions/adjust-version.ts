import type { Knex } from "knex";
import type { z } from "zod";
import { adjustFacts, type AdjustmentKind, type AdjustmentRule } from "#core/ahead/adjust.ts";
import type { VersionFact } from "#core/ahead/version-facts.ts";
import { parseMonth, type Month } from "#core/calendar/month.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { requireKpi } from "#core/frame/company.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import type { PanelQuestion } from "#core/panels/panel-question.ts";
import { powerOfTen } from "#core/figures/amount.ts";
import type { adjustmentSchema } from "#contract/versions.ts";
import { readStructure, type Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { addModelPart, lockOpenVersion, postVersionFacts, readVersionFacts, type VersionRow } from "./version-rows.ts";
import { withDescendants } from "#core/dimensions/member-tree.ts";

/** A change by hand as it is kept. */
export interface AdjustmentRow {
  readonly id: number;
  readonly kpi: string;
  readonly scope: Record<string, string[]>;
  readonly from_month: Month;
  readonly to_month: Month;
  readonly kind: AdjustmentKind;
  /** Percent, or the KPI's own unit. */
  readonly value: number;
  readonly reason: string;
  readonly made_by: string;
  readonly made_at: Date;
}

/** Changes a version by hand, and keeps what its model says apart. */
export async function adjustVersion(
  trx: Knex.Transaction,
  key: string,
  { company, asked }: PanelQuestion,
  adjustment: z.infer<typeof adjustmentSchema>,
  person: string,
): Promise<void> {
  const version = await lockOpenVersion(trx, key);
  const kpi = requireKpi(company, adjustment.kpi);
  accountOf(kpi);
  const modelPart = await modelPartOf(trx, version, person);
  await trx("adjustment").insert({
    scenario_id: version.id,
    kpi: adjustment.kpi,
    scope: JSON.stringify(asked.scope),
    from_month: parseMonth(adjustment.from),
    to_month: parseMonth(adjustment.to),
    kind: adjustment.kind,
    value: adjustment.value,
    reason: adjustment.reason,
    made_by: person,
  });
  const structure = await readStructure(trx);
  const before = await readVersionFacts(trx, structure, key);
  const from = Math.max(parseMonth(adjustment.from)!, (version.made_after ?? -Infinity) + 1);
  const to = parseMonth(adjustment.to)!;
  const isOf = isOfKpi(kpi, asked.scope, structure);
  if (!before.some((fact) => fact.month >= from && fact.month <= to && isOf(fact)))
    throw new ProblemError(
      "invalid-change",
      `${version.name} has nothing of ${kpi.definition.name} there that is not closed: choose months and parts that it forecasts.`,
    );
  await followModel(trx, { key, modelPart, fileName: `Adjusted: ${adjustment.reason}`, person });
}

/** Takes a change by hand back. */
export async function takeBackAdjustment(
  trx: Knex.Transaction,
  key: string,
  adjustment: number,
  person: string,
): Promise<void> {
  const version = await lockOpenVersion(trx, key);
  const removed = await trx("adjustment").where({ id: adjustment, scenario_id: version.id }).delete();
  if (removed === 0) throw new ProblemError("not-found", "This adjustment was already withdrawn. Reload the page.");
  const modelPart = await modelPartOf(trx, version, person);
  await followModel(trx, { key, modelPart, fileName: "Adjustment withdrawn", person });
}

/** Posts a version anew: what its model says, changed by its adjustments. Returns how many rows it has. */
export async function followModel(
  trx: Knex.Transaction,
  { key, modelPart, fileName, person }: { key: string; modelPart: string; fileName: string; person: string },
): Promise<number> {
  const structure = await readStructure(trx);
  const rows = await trx("adjustment")
    .join("scenario", "scenario.id", "adjustment.scenario_id")
    .where({ "scenario.key": key })
    .orderBy("adjustment.id")
    .select<AdjustmentRow[]>("adjustment.*");
  const facts = await readVersionFacts(trx, structure, modelPart);
  const adjusted = adjustFacts(
    facts,
    rows.map((row) => ruleOf(row, structure, structure.coverage.scenarios.get(key)?.madeAfter ?? null)),
  );
  return postVersionFacts(trx, { scenario: key, facts: adjusted, fileName, person });
}

/** The scenario that holds what a version's model says, made of what the version has where there is none yet. */
async function modelPartOf(trx: Knex.Transaction, version: VersionRow, person: string): Promise<string> {
  if (version.model_part_id !== null) {
    const known: { key: string } | undefined = await trx("scenario").where({ id: version.model_part_id }).first("key");
    if (known) return known.key;
  }
  const facts = await readVersionFacts(trx, await readStructure(trx), version.key);
  const part = await addModelPart(trx, { version: version.name, madeAfter: version.made_after, facts, person });
  await trx("scenario").where({ id: version.id }).update({ model_part_id: part.id });
  return part.key;
}

/** Months that are closed since are actuals, which nobody changes. */
function ruleOf(
  { kpi: key, scope, from_month, to_month, kind, value }: AdjustmentRow,
  structure: Structure,
  madeAfter: Month | null,
): AdjustmentRule {
  const kpi = requireKpi(structure, key);
  const scale = kind === "percent" ? 1 : powerOfTen(kpi.formula.root.decimals);
  return {
    kind,
    value: value * scale,
    from: Math.max(from_month, (madeAfter ?? -Infinity) + 1),
    to: to_month,
    isOf: isOfKpi(kpi, scope, structure),
  };
}

/** Whether an amount is one of a KPI's account in a scope. */
function isOfKpi(kpi: CompiledKpi, scope: Scope, structure: Structure): (fact: VersionFact) => boolean {
  const leaves = new Set(structure.accounts.leaves.get(accountOf(kpi)) ?? []);
  const inside = structure.dimensions.flatMap((dimension) => {
    const chosen = scope[dimension.key];
    return chosen ? [{ key: dimension.key, members: new Set(withDescendants(dimension, chosen)) }] : [];
  });
  return ({ account, members }) =>
    leaves.has(account) && inside.every(({ key, members: own }) => own.has(members[key] ?? ""));
}

/** The account that a KPI is; what is made of several is adjusted by one of them. */
function accountOf({ definition, formula }: CompiledKpi): string {
  const [input] = formula.inputs;
  if (formula.root.kind === "input" && input?.kind === "account" && formula.inputs.length === 1) return input.account;
  throw new ProblemError(
    "invalid-change",
    `${definition.name} is computed: adjust one of the amounts that it is made of.`,
  );
}
