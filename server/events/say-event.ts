import type { Knex } from "knex";
import type { z } from "zod";
import { dayNumber, parseDay } from "#core/calendar/days.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { requireKpi } from "#core/frame/company.ts";
import type { PanelQuestion } from "#core/panels/panel-question.ts";
import type { eventSaySchema } from "#contract/events.ts";
import { noteChange } from "#server/db/data-version.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { withDescendants } from "#core/dimensions/member-tree.ts";

/** Keeps what an analyst says of an event; ranges and forecasts know of it from then on. Returns its number. */
export async function sayEvent(
  trx: Knex.Transaction,
  { company, asked }: PanelQuestion,
  said: z.infer<typeof eventSaySchema>,
  by: string,
): Promise<number> {
  requireKpi(company, said.kpi);
  if (said.at) refuseStrangers(said.at, asked);
  const dayOf = (text: string) => dayNumber(parseDay(text)!);
  const [row]: { id: number }[] = await trx("known_event")
    .insert({
      kpi: said.isForAll ? null : said.kpi,
      first_day: dayOf(said.from),
      last_day: dayOf(said.to),
      scope: JSON.stringify(asked.scope),
      dimension: said.at?.dimension ?? null,
      members: said.at?.members ?? [],
      is_of_whole: said.isOfWhole,
      verdict: said.verdict,
      reason: said.reason,
      said_by: by,
    })
    .returning("id");
  await noteChange(trx, "looks");
  return row!.id;
}

/** Takes back what was said of an event: it is judged as if nothing had been said. */
export async function unsayEvent(trx: Knex.Transaction, id: number): Promise<void> {
  const removed = await trx("known_event").where({ id }).delete();
  if (removed === 0) throw new ProblemError("not-found", "This verdict has already been withdrawn. Reload the page.");
  await noteChange(trx, "looks");
}

/** Refuses members that there are not, or that lie outside what is looked at. */
function refuseStrangers(
  { dimension: key, members }: { readonly dimension: string; readonly members: readonly string[] },
  { dimensions, scope }: { readonly dimensions: PanelQuestion["asked"]["dimensions"]; readonly scope: Scope },
): void {
  const dimension = dimensions.find((own) => own.key === key);
  if (!dimension) throw new ProblemError("unknown-scope", `There is no dimension "${key}" here. Reload the page.`);
  const seen = new Set(withDescendants(dimension, scope[key] ?? dimension.members.map((member) => member.key)));
  const stranger = members.find((member) => !seen.has(member));
  if (stranger !== undefined)
    throw new ProblemError("unknown-scope", `There is no "${stranger}" among the ${dimension.plural} looked at here.`);
}
