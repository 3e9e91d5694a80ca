import type { Knex } from "knex";
import type { VersionHow } from "#core/ahead/version-how.ts";
import { byInput, plannedSeries, versionFacts, type VersionFact } from "#core/ahead/version-facts.ts";
import { planVersion, type Planned, type VersionPart, type VersionPlan } from "#core/ahead/version-plan.ts";
import { requireKpi } from "#core/frame/company.ts";
import { measureContext, type PanelQuestion } from "#core/panels/panel-question.ts";
import { repetition } from "#core/panels/parts/repetition.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { VersionLine, versionPostSchema } from "#contract/versions.ts";
import type { z } from "zod";
import { ask, type Workspace } from "#server/facts/workspace.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { addScenario } from "#server/structure/add.ts";
import { followModel } from "./adjust-version.ts";
import { forecastMany } from "./forecast-many.ts";
import { lockOpenVersion, postVersionFacts } from "./version-rows.ts";

type Post = z.infer<typeof versionPostSchema>;

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
  yield* forecastVersion(knex, workspace, { name, kpi, split, asOf, scope, settings }, person, null);
}

/**
 * Forecasts an open version anew from the actuals there are now, by the settings it was made with; its adjustments are
 * applied to what the models say then.
 */
export async function* refitVersion(
  knex: Knex,
  workspace: Workspace,
  key: string,
  person: string,
): AsyncGenerator<VersionLine> {
  const { name, made_how } = await knex.transaction((trx) => lockOpenVersion(trx, key));
  if (made_how === null)
    throw new ProblemError("invalid-change", `${name} was not made by models, so there is nothing to refit.`);
  const { kpi, split, scope, settings } = made_how as VersionHow;
  yield* forecastVersion(
    knex,
    workspace,
    { name, kpi, split, settings, ...(scope === "" ? {} : { scope }) },
    person,
    key,
  );
}

async function* forecastVersion(
  knex: Knex,
  workspace: Workspace,
  { name, kpi, split, asOf, scope, settings }: Post,
  person: string,
  refits: string | null,
): AsyncGenerator<VersionLine> {
  const { plan, for: scopeText } = await ask(workspace, { asOf, scope }, (question) => ({
    plan: planOf(question, kpi, split),
    for: formatScope(question.asked.frame.scope),
  }));
  // What is seen of the company in part must not take the place of the whole.
  if (refits !== null && scopeText !== (scope ?? ""))
    throw new ProblemError(
      "not-allowed",
      `${name} covers more than you can see. Ask someone who can see all of it to refit it.`,
    );
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
    yield await knex.transaction((trx) => keepVersion(trx, { name, plan, facts: made.facts, how, person, refits }));
  }
}

async function refuseTakenName(knex: Knex, name: string): Promise<void> {
  const known = await knex("scenario").select<{ name: string }[]>("name");
  if (known.some((own) => own.name.toLowerCase() === name.toLowerCase()))
    throw new ProblemError("invalid-change", `There is a scenario ${name} already. Choose another name.`);
}

/** Keeps amounts as a new version, or in the place of what the model of one said before. */
async function keepVersion(
  trx: Knex.Transaction,
  {
    name,
    plan,
    facts,
    how,
    person,
    refits,
  }: {
    readonly name: string;
    readonly plan: VersionPlan;
    readonly facts: readonly VersionFact[];
    readonly how: VersionHow;
    readonly person: string;
    readonly refits: string | null;
  },
): Promise<VersionLine> {
  const { madeAfter } = plan;
  const made = { made_by: person, made_at: new Date(), made_how: JSON.stringify(how) };
  if (refits === null) {
    const key = await addScenario(trx, { name, kind: "forecast", madeAfter });
    await trx("scenario")
      .where({ key })
      .update({ ...made, is_open: true });
    const fileName = `Forecast by model: ${name}`;
    return { version: key, name, rows: await postVersionFacts(trx, { scenario: key, facts, fileName, person }) };
  }
  const version = await lockOpenVersion(trx, refits);
  await trx("scenario")
    .where({ id: version.id })
    .update({ ...made, made_after: madeAfter });
  const fileName = `Refitted: ${version.name}`;
  const modelPart: { key: string } | undefined =
    version.model_part_id === null
      ? undefined
      : await trx("scenario").where({ id: version.model_part_id }).first("key");
  const rows = await postVersionFacts(trx, { scenario: modelPart?.key ?? version.key, facts, fileName, person });
  if (!modelPart) return { version: version.key, name: version.name, rows };
  await trx("scenario").where({ id: version.model_part_id }).update({ made_after: madeAfter });
  const all = await followModel(trx, { key: version.key, modelPart: modelPart.key, fileName, person });
  return { version: version.key, name: version.name, rows: all };
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
