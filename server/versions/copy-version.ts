import type { Knex } from "knex";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readStructure } from "#server/db/structure.ts";
import { lastClosedMonth } from "#core/cube/coverage.ts";
import { addScenario } from "#server/structure/add.ts";
import { addModelPart, lockVersion, postVersionFacts, readVersionFacts } from "./version-rows.ts";

/**
 * Copies a version as an open forecast that can be worked on: its amounts by month, how it was made, and its
 * adjustments with what its model says. Returns the copy's key.
 */
export async function copyVersion(trx: Knex.Transaction, key: string, name: string, person: string): Promise<string> {
  const source = await lockVersion(trx, key);
  const structure = await readStructure(trx);
  const isQuarterly = [...(structure.coverage.homes.get(key)?.values() ?? [])].some(
    ({ dataset }) => structure.coverage.datasets.get(dataset)?.grain === "quarter",
  );
  if (isQuarterly)
    throw new ProblemError("invalid-change", `${source.name} is kept by quarter, and a forecast is kept by month.`);
  const facts = await readVersionFacts(trx, structure, key);
  if (facts.length === 0) throw new ProblemError("invalid-change", `${source.name} has nothing that could be copied.`);
  const madeAfter = source.made_after ?? lastClosedMonth(structure.coverage) ?? null;
  const copy = await addScenario(trx, { name, kind: "forecast", madeAfter });
  const modelPart = source.model_part_id === null ? null : await copyModelPart(trx, source.model_part_id, name, person);
  const [row]: { id: number }[] = await trx("scenario")
    .where({ key: copy })
    .update({
      is_open: true,
      made_by: person,
      made_at: new Date(),
      made_how: source.made_how === null ? null : JSON.stringify(source.made_how),
      model_part_id: modelPart,
    })
    .returning("id");
  await trx.raw(
    `insert into adjustment (scenario_id, kpi, scope, from_month, to_month, kind, value, reason, made_by, made_at)
     select ?::int, kpi, scope, from_month, to_month, kind, value, reason, made_by, made_at
     from adjustment where scenario_id = ? order by id`,
    [row!.id, source.id],
  );
  await postVersionFacts(trx, { scenario: copy, facts, fileName: `Copy of ${source.name}`, person });
  return copy;
}

async function copyModelPart(trx: Knex.Transaction, id: number, name: string, person: string): Promise<number> {
  const part: { key: string; made_after: number | null } | undefined = await trx("scenario")
    .where({ id })
    .first("key", "made_after");
  const facts = await readVersionFacts(trx, await readStructure(trx), part!.key);
  return (await addModelPart(trx, { version: name, madeAfter: part!.made_after, facts, person })).id;
}
