import type { Knex } from "knex";
import type { VersionHow } from "#core/ahead/version-how.ts";
import { byInput, plannedSeries, versionFacts } from "#core/ahead/version-facts.ts";
import { planVersion, type Planned, type VersionPart } from "#core/ahead/version-plan.ts";
import type { Fact } from "#core/cube/fact.ts";
import { requireKpi } from "#core/frame/company.ts";
import { measureContext, type PanelQuestion } from "#core/panels/panel-question.ts";
import { repetition } from "#core/panels/parts/repetition.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { VersionLine, versionPostSchema } from "#contract/versions.ts";
import type { z } from "zod";
import { noteChange } from "#server/db/data-version.ts";
import { readStructure } from "#server/db/structure.ts";
import { ask, type Workspace } from "#server/facts/workspace.ts";
import { createPartition, openLoad, postFacts, type NumberedFact } from "#server/intake/post-facts.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { addScenario } from "#server/structure/add.ts";
import { forecastMany } from "./forecast-many.ts";

type Post = z.infer<typeof versionPostSchema>;

/** The dataset of what is forecast here: by month, whatever the actuals are kept by. */
const FORECASTS = { key: "forecasts", name: "Forecasts" } as const;

/**
 * Forecasts a KPI's leaf accounts and posts them as an open version of the forecast, telling how far it is; nothing is
 * kept where it is cancelled or refused. Its closed months of the year are the actuals, so that it is a whole year.
 */
export async function* postVersion(
  knex: Knex,
  workspace: Workspace,
  { name, kpi, split, asOf, scope, settings }: Post,
  person: string,
): AsyncGenerator<VersionLine> {
  await refuseTakenName(knex, name);
  const { plan, for: scopeText } = await ask(workspace, { asOf, scope }, (question) => ({
    plan: planOf(question, kpi, split),
    for: formatScope(question.asked.frame.scope),
  }));
  if ("refused" in plan) throw new ProblemError("invalid-change", plan.refused);
  const histories = plannedSeries(plan).map(({ history }) => history);
  for await (const news of forecastMany(histories, { ...settings, way: undefined }, workspace.gone)) {
    if ("done" in news) {
      yield { done: news.done, of: news.of };
      continue;
    }
    const made = versionFacts(plan, news.forecasts, settings);
    if ("refused" in made) {
      yield made;
      return;
    }
    workspace.gone?.throwIfAborted();
    const how: VersionHow = {
      kpi,
      split,
      scope: scopeText,
      settings,
      series: histories.length,
      models: byInput(plan, news.forecasts).flatMap(({ input }, i) => {
        const { name: of, members } = plan.inputs[i]!;
        const whose = Object.values(members).join(", ");
        return "points" in input ? [{ name: whose === "" ? of : `${of}, ${whose}`, model: input.model }] : [];
      }),
    };
    const version = await knex.transaction(async (trx) => {
      const key = await addScenario(trx, { name, kind: "forecast", madeAfter: plan.madeAfter });
      await trx("scenario")
        .where({ key })
        .update({ is_open: true, made_by: person, made_at: new Date(), made_how: JSON.stringify(how) });
      const dimensions = [...new Set(plan.inputs.flatMap(({ members }) => Object.keys(members)))];
      await forecastsDataset(trx, dimensions);
      const structure = await readStructure(trx);
      const load = await openLoad(trx, {
        dataset: FORECASTS.key,
        fileName: `Forecast by model: ${name}`,
        postedBy: person,
        postedAt: new Date(),
        dimensions,
      });
      const facts = made.facts.map((fact, i): NumberedFact => ({
        line: i + 1,
        fact: { ...fact, scenario: key, day: null, reference: null } satisfies Fact,
      }));
      const rows = await postFacts(trx, structure, load, [facts]);
      await noteChange(trx);
      return { version: key, name, rows };
    });
    yield version;
  }
}

async function refuseTakenName(knex: Knex, name: string): Promise<void> {
  const known = await knex("scenario").select<{ name: string }[]>("name");
  if (known.some((own) => own.name.toLowerCase() === name.toLowerCase()))
    throw new ProblemError("invalid-change", `There is a scenario ${name} already. Choose another name.`);
}

/** The dataset that forecasts lie in, made with the first of them. */
async function forecastsDataset(trx: Knex.Transaction, dimensions: readonly string[]): Promise<void> {
  const known: { id: number } | undefined = await trx("dataset").where({ key: FORECASTS.key }).first("id");
  if (known) return;
  const [row]: { id: number }[] = await trx("dataset")
    .insert({
      ...FORECASTS,
      grain: "month",
      dimensions: [...dimensions],
      position: trx.raw("(select coalesce(max(position), -1) + 1 from dataset)"),
      closes: false,
    })
    .returning("id");
  await createPartition(trx, row!.id);
}

function planOf(question: PanelQuestion, key: string, split: Post["split"]): Planned {
  const { company, asked } = question;
  const kpi = requireKpi(company, key);
  const context = measureContext(question);
  const narrowed: Record<string, string> = {};
  for (const [dimension, members] of Object.entries(asked.scope)) {
    if (members.length !== 1)
      return {
        refused:
          "A version is posted for everything, or for one member of a dimension: choose that in the frame, or split the chart.",
      };
    narrowed[dimension] = members[0]!;
  }
  if (!split) return planVersion(kpi, [{ members: narrowed, context }]);
  const parts = repetition(question, split, null).members.map((member): VersionPart => ({
    members: { ...narrowed, [split.dimension]: member.key },
    context: { ...context, scope: member.scope },
  }));
  return planVersion(kpi, parts);
}
