import type { Knex } from "knex";
import { kpisOffPlan } from "#core/alerts/off-plan.ts";
import { openMonth } from "#core/frame/open-month.ts";
import type { Home } from "#contract/home.ts";
import { ask, type Workspace } from "#server/facts/workspace.ts";
import { pagesWith } from "#server/kpis/soundness.ts";
import { describeBeginning } from "./beginning.ts";
import { readPacks } from "#server/packs/pack-rows.ts";

/** What matters before anything is opened, in what the reader may see. */
export async function describeHome(knex: Knex, workspace: Workspace): Promise<Home> {
  const month = openMonth(workspace.structure);
  const beginning = await describeBeginning(knex);
  if (month === null) return { openMonth: null, beginning, offPlan: null };
  const [packs, found] = await Promise.all([
    readPacks(knex),
    ask(workspace, {}, (question) => ({ words: question.asked.answer.words, kpis: kpisOffPlan(question) })),
  ]);
  const { asOf, span, basis } = found.words;
  return {
    openMonth: month,
    beginning,
    offPlan: {
      frame: `${asOf}, ${span}, against ${basis}`,
      kpis: found.kpis.map((row) => ({ ...row, page: pagesWith(packs, row.kpi.key)[0] ?? null })),
    },
  };
}
