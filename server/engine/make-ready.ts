import type { Knex } from "knex";
import { formatMonth } from "#core/calendar/month.ts";
import { lastClosedMonth } from "#core/cube/coverage.ts";
import type { PanelDefinition } from "#contract/panels/index.ts";
import { readablePanels } from "#contract/pack.ts";
import type { Reader } from "#server/access/reader.ts";
import type { Workspaces } from "#server/facts/workspace.ts";
import { readPacks } from "#server/packs/pack-rows.ts";
import type { EnginePool } from "./engine-pool.ts";
import type { PanelAsk } from "./panel-ask.ts";

/** Reviews of so many months, the last closed one and those before it, are made ready. */
const MONTHS = 13;

/** Kinds of panels that fit models where they are arranged so. */
const FITTING: ReadonlySet<PanelDefinition["kind"]> = new Set([
  "expected-range",
  "outlook",
  "time-chart",
  "tiles",
  "scorecard",
]);

/**
 * Makes ready what of all pages takes long, as whoever sees the whole company sees them: each panel that fits models, in
 * the reviews of the last months. The fits are kept by what they are of, so that what did not change costs next to nothing.
 */
export async function makePagesReady(
  { knex, workspaces, engines }: { knex: Knex; workspaces: Workspaces; engines: EnginePool },
  signal: AbortSignal,
): Promise<void> {
  const workspace = await workspaces.open(WHOLE);
  const last = lastClosedMonth(workspace.structure.coverage);
  if (!workspace.memory || last === undefined) return;
  const packs = await readPacks(knex);
  for (let back = 0; back < MONTHS; back += 1) {
    const asOf = back === 0 ? {} : { asOf: formatMonth(last - back) };
    for (const pack of packs)
      for (const page of pack.pages) {
        const asks = readablePanels(page)
          .filter(({ definition }) => FITTING.has(definition.kind))
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
