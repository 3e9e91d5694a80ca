import type { Knex } from "knex";
import { formatMonth } from "#core/calendar/month.ts";
import { lastClosedMonth } from "#core/cube/coverage.ts";
import { readablePanels } from "#contract/pack.ts";
import type { Reader } from "#server/access/reader.ts";
import { keyOfScope } from "#core/dimensions/step-scope.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import type { Workspace, Workspaces } from "#server/facts/workspace.ts";
import { readPacks } from "#server/packs/pack-rows.ts";
import type { EnginePool } from "./engine-pool.ts";
import { mayFit } from "./may-fit.ts";
import type { PanelAsk } from "./panel-ask.ts";

/** Reviews of so many months, the last closed one and those before it, are made ready where nothing is said. */
const USUAL_MONTHS = 24;

/** Reads of how many months reviews are made ready: `HACKLE_READY_MONTHS`. Throws an `Error` that names what was said. */
export function readReadyMonths(said: string | undefined): number {
  if (said === undefined || said === "") return USUAL_MONTHS;
  const months = Number(said);
  if (Number.isInteger(months) && months >= 0 && months <= 120) return months;
  throw new Error(
    `HACKLE_READY_MONTHS is "${said}"; it must be a number of months from 0 to 120, or 0 to make nothing ready.`,
  );
}

/** And of so many different parts of the company that people may see. */
const MOST_PARTS = 12;

/**
 * Makes ready what of all pages takes long, as its people see them: each panel that fits models, in the reviews of the last
 * months, the whole company first. The fits are kept by what they are of, so that what did not change costs next to nothing.
 */
export async function makePagesReady(
  {
    knex,
    workspaces,
    engines,
    months,
  }: { knex: Knex; workspaces: Workspaces; engines: EnginePool; /** 0 for nothing. */ months: number },
  signal: AbortSignal,
): Promise<void> {
  if (months === 0) return;
  const packs = await readPacks(knex);
  for (const scope of await partsSeen(knex)) {
    const workspace = await workspaces.open({ ...WHOLE, scope });
    if (!workspace.memory) return;
    await makeReady(packs, { workspace, engines, months }, signal);
  }
}

/** The parts of the company that its people may see, the whole of it first. */
async function partsSeen(knex: Knex): Promise<readonly Scope[]> {
  const people = await knex("person").orderBy("id").limit(1000).select<{ scope: Scope }[]>("scope");
  const parts = new Map([WHOLE, ...people].map(({ scope }) => [keyOfScope(scope), scope]));
  return [...parts.values()].slice(0, MOST_PARTS);
}

async function makeReady(
  packs: Awaited<ReturnType<typeof readPacks>>,
  {
    workspace,
    engines,
    months,
  }: { readonly workspace: Workspace; readonly engines: EnginePool; readonly months: number },
  signal: AbortSignal,
): Promise<void> {
  const last = lastClosedMonth(workspace.structure.coverage);
  if (last === undefined) return;
  for (let back = 0; back < months; back += 1) {
    const asOf = back === 0 ? {} : { asOf: formatMonth(last - back) };
    for (const pack of packs)
      for (const page of pack.pages) {
        const asks = readablePanels(page)
          .filter(({ definition }) => mayFit(definition))
          .map(({ key, definition }): PanelAsk => ({
            key,
            panel: definition,
            choice: {},
            query: { ...asOf, pack: pack.key },
            pageScope: page.scope,
          }));
        for (const ask of asks) {
          signal.throwIfAborted();
          await engines.workOutAll(workspace, [ask]);
        }
      }
  }
}

/** Whoever sees all of a company. */
const WHOLE: Reader = { id: 0, email: "", name: "", title: "", role: "administrator", scope: {} };
