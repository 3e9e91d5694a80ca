import type { Knex } from "knex";
import { sayStep } from "#core/tidy/steps/index.ts";
import { definitionSchema, type IntakeHead } from "#contract/intake.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** The remembered ways to load files, by name. */
export async function listIntakes(knex: Knex): Promise<IntakeHead[]> {
  const { rows } = await knex.raw<{
    rows: {
      id: number;
      name: string;
      dataset: string | null;
      columns: string[];
      definition: unknown;
      updated_at: Date;
      updated_by: string;
      loads: string;
    }[];
  }>(
    `select intake.*, dataset.name as dataset, (select count(*) from load where load.intake_id = intake.id) as loads
     from intake left join dataset on dataset.key = intake.dataset order by intake.name`,
  );
  return rows.map((row) => {
    const definition = definitionSchema.safeParse(row.definition);
    return {
      id: row.id,
      name: row.name,
      dataset: row.dataset ?? "a dataset that is gone",
      columns: row.columns,
      steps: definition.success ? definition.data.rules.steps.map(sayStep) : [],
      updatedOn: row.updated_at.toISOString().slice(0, 10),
      updatedBy: row.updated_by,
      loads: Number(row.loads),
    };
  });
}

/** Forgets an intake; what was loaded by it stays. */
export async function forgetIntake(knex: Knex, id: number): Promise<void> {
  if ((await knex("intake").where({ id }).delete()) === 0)
    throw new ProblemError("not-found", `There is no intake ${id} any more.`);
}
